import { isObject } from '../documents/index.ts';
import { located } from '../json/index.ts';
import type { SourceField } from '../values/index.ts';
import type { SourceDocument } from './source.ts';

/** Something in a payload, with where it stands: names and indexes from the root. */
export interface Located {
  value: unknown;
  location: (string | number)[];
}

/** What is a submission of its own in a payload: each thing that the source's path finds, or the whole. */
export const partsOf = (document: SourceDocument, json: unknown): Located[] =>
  document.kind === 'posts' && document.each !== '' ? located(json, document.each) : [{ value: json, location: [] }];

/**
 * What stands in a payload for a field. A path that begins with $ is looked for in the whole payload, one that begins with
 * @ in the part that is the submission; without a path, the field's name is looked for in the part.
 */
export function foundFor({ path, key }: Pick<SourceField, 'path' | 'key'>, json: unknown, part: Located): Located[] {
  if (path.startsWith('$')) return located(json, path);
  const own = path === '' ? `$[${JSON.stringify(key)}]` : `$${path.slice(1)}`;
  return located(part.value, own).map(({ value, location }) => ({ value, location: [...part.location, ...location] }));
}

/** A file that stands in JSON itself: a `data:` URL (RFC 2397), or an object with its name and its content in Base64. */
export interface EmbeddedFile {
  location: (string | number)[];
  name: string;
  base64: string;
}

/** The files that stand in a payload where file fields look for them, each once. */
export function embeddedFiles(document: SourceDocument, json: unknown): EmbeddedFile[] {
  const files = new Map<string, EmbeddedFile>();
  for (const field of document.fields.filter(({ type }) => type === 'file')) {
    for (const part of partsOf(document, json)) {
      for (const { value, location } of foundFor(field, json, part)) {
        const found = embedded(value);
        if (found) files.set(JSON.stringify(location), { ...found, name: found.name || field.key, location });
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
