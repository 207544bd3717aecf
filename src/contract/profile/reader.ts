import { isObject, upToDate, type DocumentIssue, type Format, type Loose } from '../../core/documents/index.ts';
import { good, type Result } from '../../core/result.ts';
import { PROFILE_WHAT, type Profile } from './schema.ts';

const PROFILE: Format = { what: 'connector profile', upgrades: [withWhat] };

/** What a profile of the first format had in the place of its number. */
const FIRST_FORMAT = 'iwashi connector profile 1';

/**
 * Brings a profile of any format that was ever written up to the present one; whether it is right is for `checkProfile` to
 * say. What is no profile at all, or of a format to come, is refused.
 */
export function readProfile(json: unknown): Result<Profile, DocumentIssue> {
  const numbered = isObject(json) && json.format === FIRST_FORMAT ? { ...json, format: 1 } : json;
  const read = upToDate(PROFILE, numbered);
  return read.ok ? good(read.value as Profile) : read;
}

/** To format 2: what the document is stands apart from its format, as in every other document that is handed on. */
function withWhat(old: Loose): Loose {
  return { what: PROFILE_WHAT, ...old };
}
