import { isObject, type Loose } from '../documents/index.ts';
import type { FileValue } from '../values/index.ts';

/** A payload as a form sends it: names with text values, in order; a name may come several times. */
export type Entries = [name: string, value: string][];

/** A file that came with a payload and is stored: under the name of its input, or, out of JSON, under its id. */
export interface SentFile {
  name: string;
  value: FileValue;
}

/** What was sent, as it came: entries of a form, or JSON. */
export type Payload =
  { kind: 'entries'; entries: Entries; files: SentFile[] } | { kind: 'json'; json: unknown; files: SentFile[] };

/** A submission as it arrived, without secrets. */
export interface RawSubmission {
  contentType: string;
  /** null when several submissions came by one arrival, which keeps it. */
  payload: Payload | null;
  headers: Record<string, string>;
}

/** Reads what was stored of an arrival; before there were kinds of payload, all were entries. */
export function readRaw(json: unknown): RawSubmission {
  const raw = json as RawSubmission & { entries?: Entries };
  const { entries, ...rest } = raw;
  return entries === undefined ? raw : { ...rest, payload: { kind: 'entries', entries, files: [] } };
}

/** Decodes `application/x-www-form-urlencoded` (WHATWG URL, 5.1). */
export function readUrlencoded(body: string): Entries {
  return [...new URLSearchParams(body)];
}

/**
 * Reads what a form sent. The standard has bytes that are no UTF-8 replaced; a page that is in another encoding sends the
 * bytes of its own, and its visitors' names are to arrive as they wrote them.
 */
export function readFormBody(body: string): Entries {
  const entries = readUrlencoded(body);
  const isOther = entries.some(([name, value]) => `${name}${value}`.includes('\uFFFD')) && !body.includes(REPLACED);
  return isOther ? readUrlencoded(inUtf8(body)) : entries;
}

/** The replacement character as UTF-8 writes it: somebody may well have sent that one. */
const REPLACED = '%EF%BF%BD';

/**
 * A body whose bytes are those of windows-1252, which browsers take for every Latin page that does not say UTF-8 (WHATWG
 * Encoding, 4.2: latin1 and iso-8859-1 are labels of it).
 */
function inUtf8(body: string): string {
  return body.replace(/%([89A-F][0-9A-F])/gi, (_, hex: string) =>
    encodeURIComponent(inWindows1252(Number.parseInt(hex, 16))),
  );
}

/** Bytes 80 to 9F of windows-1252 (WHATWG Encoding, index-windows-1252); Node 20 decodes them as ISO 8859-1. */
const FROM_80 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008DŽ\u008F\u0090‘’“”•–—˜™š›œ\u009DžŸ';

const inWindows1252 = (byte: number): string => FROM_80[byte - 0x80] ?? String.fromCharCode(byte);

/**
 * Takes a flat JSON object for entries: texts, numbers, truth values, null, and lists of those.
 * @returns null when it is not such an object
 */
export function entriesOf(json: unknown): Entries | null {
  if (!isObject(json)) return null;
  const entries: Entries = [];
  for (const [name, value] of Object.entries(json)) {
    for (const item of Array.isArray(value) ? (value as unknown[]) : [value]) {
      if (item === null) continue;
      if (typeof item !== 'string' && typeof item !== 'number' && typeof item !== 'boolean') return null;
      entries.push([name, String(item)]);
    }
  }
  return entries;
}

/** Entries as an object: a name that came several times has a list. */
function objectOf(entries: Entries): Loose {
  const object: Record<string, string | string[]> = Object.create(null) as Record<string, string | string[]>;
  for (const [name, value] of entries) {
    const before = object[name];
    if (Array.isArray(before)) before.push(value);
    else object[name] = before === undefined ? value : [before, value];
  }
  return object;
}

/** A payload as JSON, in whichever way it was sent. */
export const jsonOf = (payload: Payload): unknown =>
  payload.kind === 'json' ? payload.json : objectOf(payload.entries);

/** A copy of a payload with another value at a place in it. */
export function withValueAt(json: unknown, [step, ...rest]: (string | number)[], value: unknown): unknown {
  if (step === undefined) return value;
  if (Array.isArray(json))
    return json.map((item: unknown, index) => (index === step ? withValueAt(item, rest, value) : item));
  return isObject(json) ? { ...json, [step]: withValueAt(json[step], rest, value) } : json;
}
