import type { Context as HonoContext } from 'hono';
import type { ClassConstructor } from 'class-transformer';
import { depthOf, parseJson, TooManySteps } from '../../core/json/index.ts';
import { check, type PartIssue } from '../../contract/checks.ts';
import type { Result } from '../../core/result.ts';
import type { Context } from '../context.ts';
import { isAway } from '../store/database.ts';
import { CHALLENGE } from './safeHeaders.ts';

/** Something a request asked for that cannot be; becomes a problem document (RFC 9457). */
export class Problem extends Error {
  readonly status: 400 | 401 | 403 | 404 | 409 | 412 | 413 | 415 | 422 | 429 | 500 | 503;
  readonly slug: string;
  readonly issues: PartIssue[];
  readonly headers: Record<string, string>;

  constructor(
    status: Problem['status'],
    slug: string,
    title: string,
    issues: PartIssue[] = [],
    headers: Record<string, string> = {},
  ) {
    super(title);
    this.status = status;
    this.slug = slug;
    this.issues = issues;
    this.headers = headers;
  }
}

export const notFound = (what: string): Problem => new Problem(404, 'not-found', `There is no such ${what}.`);

/** More was sent than is taken; the rest of it is not read, so the connection ends with this answer. */
export const tooLarge = (title: string): Problem => new Problem(413, 'too-large', title, [], { connection: 'close' });

/** What an error is told as: one that nobody expected is noted, and says no more than that. */
export function problemOf(error: unknown, log: Context['log']): Problem {
  if (error instanceof Problem) return error;
  // Whoever sent it went away in its middle: nobody hears this, and nothing is wrong here.
  if (isBrokenOff(error)) return new Problem(400, 'broken-off', 'The request broke off.');
  if (error instanceof TooManySteps) return new Problem(422, 'too-many-steps', error.message);
  log.error({ err: error }, 'request failed');
  return isAway(error) || isDiskFull(error)
    ? new Problem(503, 'away', 'Nothing can be kept or read here at the moment. Please try again shortly.', [], {
        'retry-after': '10',
      })
    : new Problem(500, 'internal', 'Something went wrong here. It is noted; please try again.');
}

/** As Node says of a request that ended before all of it came. */
const isBrokenOff = (error: unknown): boolean =>
  error instanceof Error && error.message === 'aborted' && 'code' in error && error.code === 'ECONNRESET';

/** Whether nothing fits on a disk of ours any more, or may not be written there. */
const isDiskFull = (error: unknown): boolean =>
  typeof error === 'object' &&
  error !== null &&
  'code' in error &&
  ['ENOSPC', 'EDQUOT', 'EROFS', 'EMFILE', 'ENFILE'].includes(String(error.code));

/** Prints a problem document; `errors` names the parts by JSON Pointer. */
export function problemResponse(problem: Problem): Response {
  const { status, slug, message, issues } = problem;
  const body = { type: `/problems/${slug}`, title: message, status, ...(issues.length > 0 ? { errors: issues } : {}) };
  return new Response(JSON.stringify(body), {
    status,
    headers: {
      'content-type': 'application/problem+json',
      'x-content-type-options': 'nosniff',
      ...(status === 401 ? CHALLENGE : {}),
      ...problem.headers,
    },
  });
}

/**
 * The revision that a change is meant for, as If-Match says (RFC 9110, 13.1.1): when it was saved, in milliseconds since
 * 1970; null when the change is for any.
 */
export function revisionIn(c: HonoContext): number | null {
  const tag = /^"([^"]+)"$/.exec(c.req.header('if-match') ?? '')?.[1];
  return tag === undefined ? null : Date.parse(tag);
}

/** Where a list goes on: the id of a row. @throws Problem where it is none */
export function cursor(text: string | undefined): string | null {
  if (text === undefined || text === '') return null;
  if (/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(text)) return text;
  throw new Problem(422, 'invalid', 'This is no place in the list. Begin at its beginning.');
}

/** A moment in a query, in milliseconds since 1970. @throws Problem for what is none */
export function moment(text: string): number {
  const at = Number(text);
  if (Number.isSafeInteger(at) && at >= 0) return at;
  throw new Problem(422, 'invalid', `"${text.slice(0, 40)}" is no moment: write it in milliseconds since 1970.`);
}

/** One of the words that a query may have. @throws Problem naming those that there are */
export function known<Word extends string>(word: string, words: readonly Word[], name: string): Word {
  const found = words.find((one) => one === word);
  if (found === undefined)
    throw new Problem(422, 'invalid', `There is no ${name} "${word.slice(0, 60)}". It is one of: ${words.join(', ')}.`);
  return found;
}

/** Documents of ours nest a dozen deep; those of services that are described, some more. */
const DEEPEST_INPUT = 100;

/** What was read of something that somebody gave. @throws Problem saying why it could not be @param pointer to what they gave */
export function mustRead<Made>(read: Result<Made>, pointer = ''): Made {
  if (read.ok) return read.value;
  const issues = pointer === '' ? [] : [{ pointer, detail: read.issue }];
  throw new Problem(422, 'unreadable', read.issue, issues);
}

/** Reads a JSON body and checks it against its contract class. @throws Problem naming each wrong part */
export async function readInput<T extends object>(c: HonoContext, type: ClassConstructor<T>): Promise<T> {
  // A page of another site can send text, and a form; JSON only where it is asked first (Fetch, 2.2.2).
  const mediaType = (c.req.header('content-type') ?? '').split(';')[0]?.trim().toLowerCase();
  if (mediaType !== 'application/json') throw new Problem(415, 'not-json', 'Send it as application/json.');
  const text = await c.req.text();
  if (depthOf(text) > DEEPEST_INPUT)
    throw new Problem(400, 'too-deep', `What stands in the request is nested more than ${DEEPEST_INPUT} deep.`);
  const data = parseJson(text);
  if (data === undefined) throw new Problem(400, 'not-json', 'The request is not JSON.');
  const checked = check(type, data);
  if (!checked.ok) throw new Problem(422, 'invalid', 'Something in it is not right.', checked.issues);
  return checked.value;
}
