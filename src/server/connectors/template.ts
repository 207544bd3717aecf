import { variablesIn, type Profile, type RequestTemplate } from '../../contract/profile/index.ts';
import { memoize } from '../../core/json/index.ts';

/** Puts values in the place of "$name" and "$name.part"; a member whose value is absent is left out, "..." is spread. */
export function fillBody(template: unknown, values: Record<string, unknown>): unknown {
  if (typeof template === 'string' && template.startsWith('$')) return valueAt(values, template.slice(1));
  if (Array.isArray(template)) return template.map((item) => fillBody(item, values));
  if (typeof template !== 'object' || template === null) return template;
  return Object.fromEntries(
    Object.entries(template).flatMap(([name, item]): [string, unknown][] => {
      const value = fillBody(item, values);
      if (value === undefined) return [];
      return name === '...' && typeof value === 'object' && value !== null ? Object.entries(value) : [[name, value]];
    }),
  );
}

/** What somebody is in, or has, of which a request may replace the whole. */
export const SETS = ['lists', 'groups', 'tags'] as const;
export type SetName = (typeof SETS)[number];
const singular = (name: SetName): string => name.slice(0, -1);

/**
 * The sets that a request replaces: those whose whole a PUT sends (RFC 9110, 9.3.4), or a PATCH by a JSON Merge Patch (RFC 7396, 2),
 * be it as a list of one.
 */
export function replacedBy({ method, body }: RequestTemplate): SetName[] {
  if (method !== 'PUT' && method !== 'PATCH') return [];
  const text = JSON.stringify(body ?? null);
  return SETS.filter((name) => text.includes(`"$${name}"`) || text.includes(`["$${singular(name)}"]`));
}

/** The same of a write, where the profile does not say that it keeps what is there. */
export const setsReplaced = ({ request, keeps }: { request: RequestTemplate; keeps?: boolean }): SetName[] =>
  keeps === true ? [] : replacedBy(request);

/** The same body with the whole set where a list of one stands. */
export function asWhole(body: unknown): unknown {
  if (Array.isArray(body)) {
    const name = SETS.find((set) => body.length === 1 && body[0] === `$${singular(set)}`);
    return name ? `$${name}` : body.map(asWhole);
  }
  if (typeof body !== 'object' || body === null) return body;
  return Object.fromEntries(Object.entries(body).map(([name, member]) => [name, asWhole(member)]));
}

/** Whether a request names something, in its path or its body. */
export const names = ({ path, body }: RequestTemplate, variable: string): boolean =>
  templateVariables(path).some(({ name }) => name === variable) ||
  new RegExp(`"\\$${variable}[."]`).test(JSON.stringify(body ?? null));

function valueAt(values: Record<string, unknown>, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>(
      (value, part) =>
        typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[part] : undefined,
      values,
    );
}

/** Who is meant: without it a request would mean everybody. */
const NEVER_EMPTY = new Set(['email', 'key', 'id', 'emailField', 'keyField', 'kind', 'list', 'group', 'tag']);

/**
 * The variables of a path template that have no value though the request needs one: all that stand in the path itself, and
 * of those in the query the ones that say who or what is meant. `/members/{id}` without an id would be `/members/`.
 */
export function gapsIn(template: string, values: Record<string, unknown>): string[] {
  return templateVariables(template)
    .filter(({ name, operator }) => isNothing(values[name]) && (!/[?&#]/.test(operator) || NEVER_EMPTY.has(name)))
    .map(({ name }) => name);
}

const templateVariables = memoize(variablesIn);

const isNothing = (value: unknown): boolean => value === undefined || value === null || value === '';

/** Whether a path leads up (RFC 3986, 5.2.4), as it would if a tag were named "..". */
export const leadsUp = (path: string): boolean =>
  (path.split(/[?#]/)[0] ?? '').split('/').some((segment) => /^(\.|%2e){1,2}$/i.test(segment));

/** Writes a body as its request sends it. A form (WHATWG URL, 5.2) has one level: lists repeat their name. */
export function encodeBody(encoding: RequestTemplate['encoding'], body: unknown): { text: string; type: string } {
  switch (encoding) {
    case 'text':
      return { text: printScalar(body), type: 'text/plain; charset=utf-8' };
    case 'form': {
      const entries = Object.entries((body ?? {}) as Record<string, unknown>).flatMap(([name, value]) =>
        (Array.isArray(value) ? value : [value]).map((item): [string, string] => [name, printScalar(item)]),
      );
      return { text: new URLSearchParams(entries).toString(), type: 'application/x-www-form-urlencoded' };
    }
    case 'json':
    case undefined:
      return { text: JSON.stringify(body), type: 'application/json' };
    default:
      return encoding satisfies never;
  }
}

function printScalar(value: unknown): string {
  if (value === null || value === undefined) return '';
  return typeof value === 'string' ? value : JSON.stringify(value);
}

/** Every way in which a service is written to. */
export function operationsOf(write: Profile['write']) {
  if (write.how === 'upsert') return [write.upsert];
  return write.how === 'add' ? [write.add] : [write.make, write.change];
}
