import { isObject, presentFormat, upToDate, type DocumentIssue, type Format, type Loose } from '../documents/index.ts';
import type { Channel } from '../consent/index.ts';
import type { ContactKey } from '../identity/index.ts';
import type { OverwriteRule, SentValue } from '../mapping/index.ts';
import type { Result } from '../result.ts';
import { placesOf, type DuplicatePolicy, type Place } from './route.ts';

/** What the person's record in the other system is to be after a delivery. */
export interface Intent {
  format: number;
  /** Whom it is about: the keys of the person, and the destination field that each goes to; '' for none. */
  subject: { key: ContactKey; field: string }[];
  /** Id of the kind of record; '' where there is but one. */
  kind: string;
  /** null clears a field there. */
  fields: Record<string, SentValue | null>;
  /** What becomes of what is there already, for those fields for which it is not as `duplicates` says. */
  rules: Record<string, OverwriteRule>;
  /** The lists and groups that the person is to be in. */
  places: Place[];
  tags: string[];
  /** Places and tags that the person is not to be in, or have, afterwards. */
  leaves: Place[];
  tagsOff: string[];
  /**
   * Set where it ends what they get there, and writes nothing else about them. subscription: they are unsubscribed. places: they are taken
   * out of `leaves`, since they are there for something else as well.
   */
  ends: 'subscription' | 'places' | null;
  duplicates: DuplicatePolicy;
  /** The consent that it stands on; '' where it needs none. */
  purpose: string;
  channel: Channel;
  wording: string;
}

/** The address of the person whom an intent is about; '' when they are known by something else only. */
export const addressOf = ({ subject }: Pick<Intent, 'subject'>): string =>
  subject.find(({ key }) => key.kind === 'email')?.key.value ?? '';

/** The destination field that holds that address; '' when none does. */
export const addressFieldOf = ({ subject }: Pick<Intent, 'subject'>): string =>
  subject.find(({ key }) => key.kind === 'email')?.field ?? '';

const INTENT: Format = { what: 'intent', upgrades: [withSubject, withChannel, withPlaces, withRules, withEnds] };

/** The format of intents as they are written today. */
export const INTENT_FORMAT = presentFormat(INTENT);

/** Reads what was meant by a delivery, in any format that was ever written. */
export const readIntent = (json: unknown): Result<Intent, DocumentIssue> =>
  upToDate(INTENT, json) as Result<Intent, DocumentIssue>;

/** Intents to format 2: they name whom they are about. Before, the field was guessed, by the value that is in it. */
export function withSubject({ email, ...old }: Loose): Loose {
  const address = typeof email === 'string' ? email : '';
  const fields = isObject(old.fields) ? old.fields : {};
  const [field = ''] =
    Object.entries(fields).find(([, value]) => typeof value === 'string' && value.toLowerCase() === address) ?? [];
  const subject = address === '' ? [] : [{ key: { kind: 'email', value: address }, field }];
  return { kind: '', leaves: [], tagsOff: [], ...old, subject };
}

/** Intents to format 3: they say by what channel the person is reached. Before, everything was about email. */
export function withChannel(old: Loose): Loose {
  return { channel: 'email', ...old };
}

/** Intents to format 4: any number of places. Before, there was one list, and one group in it. */
export function withPlaces({ list, group, ...old }: Loose): Loose {
  return { ...old, places: placesOf(list, group) };
}

/** Intents to format 5: fields have rules of their own. Before, one rule was for all of them. */
export function withRules(old: Loose): Loose {
  return { rules: {}, ...old };
}

/** Intents to format 6: they may end what somebody gets there. Before, each wrote about them. */
export function withEnds(old: Loose): Loose {
  return { ends: null, ...old };
}
