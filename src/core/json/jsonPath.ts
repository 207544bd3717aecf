import { compile, type JSONValue } from 'json-p3';
import { keeping } from './keeping.ts';

const queries = keeping(compile);

/** Everything a JSONPath (RFC 9535) finds. */
export const all = (body: unknown, path: string): unknown[] =>
  queries(path)
    .query(body as JSONValue)
    .values();

/** The first thing that a JSONPath finds; undefined when there is none, or no path. */
export const one = (body: unknown, path: string | undefined): unknown =>
  path === undefined ? undefined : all(body, path)[0];

/** A text or figure as text; anything else as ''. */
export const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';

/** The text that a JSONPath finds. */
export const textAt = (body: unknown, path: string | undefined): string => textOf(one(body, path));

/** Every text that a JSONPath finds. */
export const textsAt = (body: unknown, path: string | undefined): string[] =>
  path === undefined ? [] : all(body, path).map(textOf);

/** Everything that a JSONPath finds, with where it stands: names and indexes from the root. */
export const located = (body: unknown, path: string): { value: unknown; location: (string | number)[] }[] =>
  queries(path).query(body as JSONValue).nodes;

/** The step of a JSONPath to what has a name: short where the name allows it (RFC 9535, 2.5.1). */
export const stepTo = (name: string): string =>
  /^[A-Za-z_]\w*$/.test(name) ? `.${name}` : `[${JSON.stringify(name)}]`;

/** Whether a text is a JSONPath. */
export function isPath(path: string): boolean {
  try {
    compile(path);
    return true;
  } catch {
    return false;
  }
}
