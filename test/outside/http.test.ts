import { describe, expect, it } from 'vitest';
import { readRetryAfter } from '../../src/core/delivery/index.ts';
import { Problem, problemResponse } from '../../src/server/http/problems.ts';
import { ternPostApp } from '../../src/standins/tern-post/app.ts';
import { newState } from '../../src/standins/tern-post/state.ts';

// RFC 9110, 10.2.3: both forms of Retry-After with the section's own examples; 5.6.7: the three forms of HTTP-date, with
// the section's own example date (from memory).
describe('Retry-After', () => {
  const NOW = Date.UTC(1994, 10, 6, 8, 49, 0);
  it('reads seconds', () => expect(readRetryAfter('120', NOW)).toBe(120_000));
  it('reads a date', () =>
    expect(readRetryAfter('Fri, 31 Dec 1999 23:59:59 GMT', Date.UTC(1999, 11, 31, 23, 59, 0))).toBe(59_000));
  it.each(['Sun, 06 Nov 1994 08:49:37 GMT', 'Sunday, 06-Nov-94 08:49:37 GMT', 'Sun Nov  6 08:49:37 1994'])(
    'reads %s',
    (date) => expect(readRetryAfter(date, NOW)).toBe(37_000),
  );
  it('takes a time that is over for now', () => expect(readRetryAfter('Sun, 06 Nov 1994 08:00:00 GMT', NOW)).toBe(0));
  it.each([undefined, null, '', 'soon', '-5', '1.5', '2026'.repeat(0), 'Nov 6 1994'])('finds nothing in %j', (text) =>
    expect(readRetryAfter(text, NOW)).toBeNull(),
  );
});

/** RFC 9457, 3.1: the members' types, and `status` equal to the answer's own; section 3: the media type. */
async function expectProblemDocument(response: Response): Promise<void> {
  expect(response.headers.get('content-type')).toMatch(/^application\/problem\+json/);
  const body = (await response.json()) as Record<string, unknown>;
  expect(URL.canParse(String(body.type), 'https://base.example')).toBe(true);
  expect(typeof body.title).toBe('string');
  expect(body.status).toBe(response.status);
  for (const name of ['detail', 'instance']) expect(['string', 'undefined']).toContain(typeof body[name]);
}

describe('problem documents', () => {
  it('are what we answer', async () => {
    await expectProblemDocument(
      problemResponse(new Problem(422, 'invalid', 'Something is not right.', [{ pointer: '/email', detail: 'No.' }])),
    );
  });

  it('name parts by JSON Pointer, as the example of RFC 9457, 3 does', async () => {
    const body = (await problemResponse(
      new Problem(422, 'invalid', 'No.', [{ pointer: '/fields/0/key', detail: 'taken' }]),
    ).json()) as { errors: { pointer: string }[] };
    expect(body.errors[0]?.pointer).toMatch(/^(\/([^~/]|~0|~1)*)*$/);
  });

  const app = ternPostApp({ state: newState('key'), changed: () => {} });
  const call = (path: string, method: string, key: string, body?: object) =>
    app.request(path, {
      method,
      headers: { 'x-tern-key': key, 'content-type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });

  it.each<[string, () => Response | Promise<Response>, number]>([
    ['a wrong key', () => call('/v1/account', 'GET', 'other'), 401],
    ['a missing permission', () => call('/v1/members', 'PUT', 'key-reads-only', { email: 'a@b.example' }), 403],
    ['a place that is not there', () => call('/v1/lists/none/groups', 'GET', 'key'), 404],
    ['an address that is none', () => call('/v1/members', 'PUT', 'key', { email: 'nobody' }), 422],
    ['a required field left out', () => call('/v1/members', 'PUT', 'key', { email: 'a@b.example' }), 422],
  ])('are what Tern Post answers to %s', async (_, ask, status) => {
    const response = await ask();
    expect(response.status).toBe(status);
    await expectProblemDocument(response);
  });
});
