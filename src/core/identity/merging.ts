import { bad, good, type Result } from '../result.ts';

/**
 * Which contact stands for which: a contact that was merged points to the one that stands for it. What was said of a
 * contact stays its own, so that splitting gives back exactly what there was.
 */
export type Pointers = ReadonlyMap<string, string>;

/** Who stands for a contact: itself, unless it was merged. */
export function standsFor(pointers: Pointers, id: string): string {
  let at = id;
  for (let next = pointers.get(at); next !== undefined; next = pointers.get(at)) at = next;
  return at;
}

/** The contacts that a contact stands for, itself among them. */
export const partsOf = (pointers: Pointers, id: string): string[] => [
  id,
  ...[...pointers].filter(([, into]) => into === id).flatMap(([from]) => partsOf(pointers, from)),
];

/** One person of two: whoever stands for the first is stood for by whoever stands for the second. */
export function merge(pointers: Pointers, from: string, into: string): Result<Pointers> {
  const [first, second] = [standsFor(pointers, from), standsFor(pointers, into)];
  if (first === second) return bad('These are one person already.');
  return good(new Map([...pointers, [first, second]]));
}

/** Two persons of one: a merged contact, with all that it stands for, is by itself again. */
export function split(pointers: Pointers, id: string): Result<Pointers> {
  if (!pointers.has(id)) return bad('This contact was not merged into another.');
  return good(new Map([...pointers].filter(([from]) => from !== id)));
}
