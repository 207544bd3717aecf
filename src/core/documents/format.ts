import { bad, good, type Result } from '../result.ts';

/** An object of a document whose members are not known yet. */
export type Loose = Record<string, unknown>;

/** Where in a document something is wrong: a JSON Pointer (RFC 6901), and what it is. */
export interface DocumentIssue {
  pointer: string;
  detail: string;
}

/**
 * A kind of document that is stored or handed on. Its format is a number in its member `format`; documents from before
 * there were formats have none, and count as 1.
 */
export interface Format {
  /** What it is called, as in "a route". */
  what: string;
  /** `upgrades[0]` makes format 2 of format 1, and so on: the present format is one more than there are of them. */
  upgrades: ((old: Loose) => Loose)[];
}

/** The format that is written today. */
export const presentFormat = ({ upgrades }: Format): number => upgrades.length + 1;

/**
 * Reads a document of any format that was ever written, and brings it up to the present one.
 * @returns what it is now, or why it cannot be read: it is no document, or of a format that only a later Iwashi knows
 * @example upToDate({ what: 'route', upgrades: [addTargets] }, { name: 'old' })
 */
export function upToDate(format: Format, json: unknown): Result<Loose, DocumentIssue> {
  if (!isObject(json)) return bad({ pointer: '', detail: `This is not a ${format.what}: it is no JSON object.` });
  const present = presentFormat(format);
  const own = json.format ?? 1;
  if (typeof own !== 'number' || !Number.isInteger(own) || own < 1 || own > present)
    return bad({
      pointer: '/format',
      detail: `This ${format.what} has the format ${JSON.stringify(own)}; those that can be read are 1 to ${present}.`,
    });
  let document: Loose = json;
  for (let next = own; next < present; next += 1)
    document = { ...format.upgrades[next - 1]?.(document), format: next + 1 };
  return good(document);
}

export const isObject = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The objects in a list; none where there is no list. */
export const objectsIn = (value: unknown): Loose[] => (Array.isArray(value) ? value.filter(isObject) : []);
