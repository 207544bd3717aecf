import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SourceView } from '../../src/contract/source.ts';
import { fields, observatory } from '../world/observatory.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, World } from '../world/world.ts';

let world: World;
let source: SourceView;
let link = '';
beforeAll(async () => {
  world = await World.start();
  ({ source } = await observatory(world, await world.operator()));
  await post('text/html', fields('mara@hill.example'));
  const [letter] = await eventually(
    () => world.letters('mara@hill.example'),
    (letters) => letters.length > 0,
  );
  link = linkIn(letter);
});
afterAll(() => world.stop());

const post = (accept: string, values: Record<string, string>) =>
  fetch(source.postUrl, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin: world.site, accept },
    body: new URLSearchParams(values),
  });
const at = (path: string, init: RequestInit = {}) => fetch(`${world.app}${path}`, { redirect: 'manual', ...init });

/** Everything that strangers can ask for. html: a page; data: for programs; script: for pages of others. */
const PUBLIC: [name: string, kind: 'html' | 'data' | 'script', status: number, ask: () => Promise<Response>][] = [
  ['a form', 'html', 200, () => fetch(source.postUrl)],
  ['a form that was filled in wrongly', 'html', 422, () => post('text/html', { email: 'x' })],
  ['a form that is gone', 'html', 404, () => at('/in/nothing')],
  ['what a form is answered', 'html', 303, () => post('text/html', fields('ulric@hill.example'))],
  ['what a program is answered', 'data', 202, () => post('application/json', fields('wren@hill.example'))],
  ['a program that is wrong', 'data', 422, () => post('application/json', { email: 'x' })],
  ['the question whether somebody confirms', 'html', 200, () => fetch(link)],
  ['that it is confirmed', 'html', 200, () => fetch(link, { method: 'POST' })],
  ['a link that was never sent', 'html', 404, () => at('/confirm/nothing')],
  ['a file, to a stranger', 'html', 401, () => at('/files/none')],
  ['a download that is over', 'html', 410, () => at('/place/download/none')],
  ['the script', 'script', 200, () => at('/place/script.js')],
  ['the forms of a site', 'data', 200, () => at('/place/site.json', { headers: { origin: world.site } })],
  ['the interface', 'html', 200, () => at('/')],
  ['the API, to a stranger', 'data', 401, () => at('/api/overview')],
  ['its description', 'data', 200, () => at('/api/openapi.json')],
  ['notices of nobody', 'data', 404, () => at('/notices/none', { method: 'POST' })],
];

/** Pages about somebody, or for somebody alone: nobody keeps them. */
const PERSONAL = new Set([
  'the question whether somebody confirms',
  'that it is confirmed',
  'a link that was never sent',
  'a file, to a stranger',
  'a download that is over',
]);

/** The directives of a policy (W3C Content Security Policy Level 3, 2.2.1). */
const directives = (policy: string) =>
  new Map(policy.split(';').map((one): [string, string] => [one.trim().split(' ')[0] ?? '', one.trim()]));

/** Tokens of W3C Referrer Policy, 3, that send no address of ours to another site. */
const QUIET_REFERRERS = ['no-referrer', 'same-origin', 'strict-origin', 'origin'];

// Standards are named from memory where they are not at hand; what is checked is what they ask for in so many words.
describe.each(PUBLIC)('%s', (name, kind, status, ask) => {
  let headers: Headers;
  beforeAll(async () => {
    const response = await ask();
    expect(response.status).toBe(status);
    await response.text();
    ({ headers } = response);
  });
  const of = (name: string) => headers.get(name) ?? '';

  it('says what it is, and is taken for nothing else (RFC 9110, 8.3; WHATWG Fetch, 3.6)', () => {
    const type = { html: /^text\/html; charset=utf-8$/i, script: /^text\/javascript; charset=utf-8$/i };
    if (status === 303) expect(URL.canParse(of('location'))).toBe(true);
    else if (kind === 'data') expect(of('content-type')).toMatch(/^application\/(problem\+)?json/);
    else expect(of('content-type')).toMatch(type[kind]);
    expect(of('x-content-type-options')).toBe('nosniff');
  });

  it('promises nothing about https where it was not asked by it (RFC 6797, 7.2)', () =>
    expect(headers.has('strict-transport-security')).toBe(false));

  it('says how to show who one is, where that is asked (RFC 9110, 15.5.2 and 11.6.1)', () =>
    expect(of('www-authenticate')).toMatch(status === 401 ? /^Bearer realm="[^"]+"/ : /^$/));

  it('says who may keep it (RFC 9111, 5.2.2)', () => {
    // Answers to a POST are kept by nobody unless they say so (RFC 9110, 9.3.3).
    if (status === 202 || status === 303 || status === 422 || kind === 'data') return;
    if (PERSONAL.has(name)) expect(of('cache-control')).toMatch(/no-store/);
    else expect(of('cache-control')).toMatch(kind === 'script' ? /^public, max-age=\d+$/ : /no-store|no-cache/);
  });

  it('depends for stores on what it depends on (RFC 9110, 12.5.5)', () => {
    if (of('access-control-allow-origin') === world.site) expect(of('vary')).toMatch(/origin/i);
  });

  it.runIf(kind === 'html' && status !== 303)(
    'has a policy that runs nothing but what it says itself (W3C CSP 3)',
    () => {
      const policy = directives(of('content-security-policy'));
      expect(policy.get('default-src')).toMatch(/^default-src '(none|self)'$/);
      expect(policy.get('script-src') ?? '').not.toMatch(/unsafe|\*|https?:/);
      expect(policy.get('base-uri')).toBe("base-uri 'none'");
      for (const name of ['form-action', 'frame-ancestors']) expect(policy.get(name)).toMatch(/'self'/);
      const nonces = [...of('content-security-policy').matchAll(/'nonce-([^']+)'/g)].map(([, nonce = '']) => nonce);
      // CSP 3, 7.1: at least 128 bits, in base64.
      for (const nonce of nonces) expect(Buffer.from(nonce, 'base64url').length).toBeGreaterThanOrEqual(16);
    },
  );

  it.runIf(kind === 'html' && status !== 303)('tells no other site where one came from (W3C Referrer Policy, 3)', () =>
    expect(QUIET_REFERRERS).toContain(of('referrer-policy')),
  );
});

it('a nonce is never said twice (W3C CSP 3, 7.1)', async () => {
  const said = await Promise.all(
    Array.from({ length: 20 }, async () => (await fetch(source.postUrl)).headers.get('content-security-policy')),
  );
  expect(new Set(said).size).toBe(20);
});

it('only forms that may be framed by a site are (HTML standard, 7.8: what CSP says of ancestors stands before X-Frame-Options)', async () => {
  const ancestors = (response: Response) =>
    directives(response.headers.get('content-security-policy') ?? '').get('frame-ancestors');
  expect(ancestors(await fetch(source.postUrl))).toBe(`frame-ancestors 'self' ${world.site}`);
  expect(ancestors(await fetch(link))).toBe("frame-ancestors 'self'");
});
