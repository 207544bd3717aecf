import { isObject } from '../documents/index.ts';
import { located, STEPS_BESIDE, withinSteps } from '../json/index.ts';
import type { SourceField } from '../values/index.ts';
import { isPosted, type PostedDocument, type SourceDocument } from './source.ts';

/** Something in a payload, with where it stands: names and indexes from the root. */
export interface Located {
  value: unknown;
  location: (string | number)[];
}

/** A path that goes into a payload which is a list. */
const POINTS_INTO_LIST = /^\$(\[[\d*:-]|\.\*|\.\.)/;

/** Where a source looks for what it takes out of payloads; '' among them for what is found by a field's name. */
export function pathsIn(document: PostedDocument): string[] {
  const paths = document.fields.map(({ path }) => path);
  if (document.kind !== 'registration') return paths;
  const { level, begins, ends } = document.membershipPaths;
  return [...paths, level, begins, ends];
}

/**
 * The payloads in what was sent: a list is several of them, each by itself, unless the source's paths point into the list.
 */
export function wholesOf(document: SourceDocument, json: unknown): Located[] {
  const paths = isPosted(document) ? [document.each, ...pathsIn(document)] : ['$.*'];
  if (!Array.isArray(json) || paths.some((path) => POINTS_INTO_LIST.test(path))) return [{ value: json, location: [] }];
  return json.map((value: unknown, index) => ({ value, location: [index] }));
}

/** What is a submission of its own in a payload: each thing that the source's path finds, or the whole. */
export const partsOf = (document: SourceDocument, whole: Located): Located[] =>
  isPosted(document) && document.each !== '' ? within(whole, document.each) : [whole];

/**
 * What stands in a payload for a field. A path that begins with $ is looked for in the whole payload, one that begins with
 * @ in the part that is the submission; without a path, the field's name is looked for in the part.
 */
export function foundFor({ path, key }: Pick<SourceField, 'path' | 'key'>, whole: Located, part: Located): Located[] {
  if (path.startsWith('$')) return within(whole, path);
  return within(part, path === '' ? `$[${JSON.stringify(key)}]` : `$${path.slice(1)}`);
}

const within = (place: Located, path: string): Located[] =>
  located(place.value, path).map(({ value, location }) => ({ value, location: [...place.location, ...location] }));

/** A file that stands in JSON itself: a `data:` URL (RFC 2397), or an object with its name and its content in Base64. */
export interface EmbeddedFile {
  location: (string | number)[];
  name: string;
  base64: string;
}

/** The files that stand in a payload where file fields look for them, each once. @throws TooManySteps */
export const embeddedFiles = (document: SourceDocument, json: unknown): EmbeddedFile[] =>
  withinSteps(() => filesWithin(document, json), STEPS_BESIDE);

function filesWithin(document: SourceDocument, json: unknown): EmbeddedFile[] {
  const files = new Map<string, EmbeddedFile>();
  for (const field of document.fields.filter(({ type }) => type === 'file')) {
    for (const whole of wholesOf(document, json)) {
      for (const part of partsOf(document, whole)) {
        for (const { value, location } of foundFor(field, whole, part)) {
          const found = embedded(value);
          if (found) files.set(JSON.stringify(location), { ...found, name: found.name || field.key, location });
        }
      }
    }
  }
  return [...files.values()];
}

function embedded(value: unknown): { name: string; base64: string } | null {
  if (typeof value === 'string') {
    const [, base64] = /^data:[^,]{0,200};base64,([A-Za-z0-9+/=\s]*)$/.exec(value) ?? [];
    return base64 === undefined ? null : { name: '', base64 };
  }
  if (!isObject(value) || typeof value.content !== 'string' || !/^[A-Za-z0-9+/=\s]+$/.test(value.content)) return null;
  return { name: typeof value.name === 'string' ? value.name : '', base64: value.content };
}
