import { differences } from './differences.ts';

const LONGEST = 100;
/** Typing in one place goes on until it rests for this long. */
const PAUSE_MS = 1_500;

/** A document with its former and later states. What was typed in one place, without a pause, is one change. */
export interface History<Document> {
  past: Document[];
  document: Document;
  future: Document[];
  /** Where something is being typed, and when the last sign was; null when nothing is. */
  typing: { where: string; at: number } | null;
}

export const begun = <Document>(document: Document): History<Document> => ({
  past: [],
  document,
  future: [],
  typing: null,
});

/** @param at in milliseconds since 1970 */
export function changed<Document>(
  { past, document, typing }: History<Document>,
  next: Document,
  at: number,
): History<Document> {
  const where = typedAt(document, next);
  const goesOn = where !== null && typing?.where === where && at - typing.at < PAUSE_MS;
  return {
    past: goesOn ? past : [...past.slice(1 - LONGEST), document],
    document: next,
    future: [],
    typing: where === null ? null : { where, at },
  };
}

/** One change back; the same when there is none. */
export function undone<Document>(history: History<Document>): History<Document> {
  const before = history.past.at(-1);
  return before === undefined
    ? history
    : {
        past: history.past.slice(0, -1),
        document: before,
        future: [history.document, ...history.future],
        typing: null,
      };
}

/** One change that was taken back, again; the same when there is none. */
export function redone<Document>(history: History<Document>): History<Document> {
  const [after, ...future] = history.future;
  return after === undefined
    ? history
    : { past: [...history.past, history.document], document: after, future, typing: null };
}

/** The one place where a text differs; null when there is more to it. */
function typedAt(before: unknown, after: unknown): string | null {
  const all = differences(before, after);
  const [only] = all;
  return all.length === 1 && only && isText(before, after, only.where) ? only.where : null;
}

/** Whether both documents have a text there: choosing and ticking are gestures of their own. */
function isText(before: unknown, after: unknown, where: string): boolean {
  const path = where.split(', ');
  return [before, after].every((document) => typeof at(document, path) === 'string');
}

function at(document: unknown, path: string[]): unknown {
  return path.reduce<unknown>((part, name) => {
    if (Array.isArray(part))
      return (part as unknown[]).find((one, index) =>
        typeof one === 'object' && one !== null && 'id' in one ? one.id === name : String(index) === name,
      );
    return typeof part === 'object' && part !== null ? (part as Record<string, unknown>)[name] : undefined;
  }, document);
}
