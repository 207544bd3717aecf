import { readFile } from 'node:fs/promises';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OpenSessionView } from '../../src/contract/session.ts';
import { formOf, sourceField } from '../world/fields.ts';
import { saying } from '../../src/core/forms/index.ts';
import { Operator, PASSWORD } from '../world/operator.ts';
import { startProgram, endProgram, freePort } from '../world/processes.ts';
import { BROWSER } from '../world/visitors.ts';
import { BELL, World } from '../world/world.ts';
import { hashPassword } from '../../src/server/security/passwords.ts';
import { randomBytes } from 'node:crypto';
import { connect } from 'node:net';

let world: World;
let operator: Operator;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

const EMAIL = 'wren@pellam-ridge.example';
const signIn = (email: string, password: string) =>
  fetch(`${world.app}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password }),
  });

it.each([
  '/status',
  '/overview',
  '/connections',
  '/sources',
  '/routes',
  '/people',
  '/submissions',
  '/deliveries',
  '/submissions/x',
  '/anything',
])('%s is for those who signed in', async (path) => {
  expect((await fetch(`${world.app}/api${path}`)).status).toBe(401);
  expect((await fetch(`${world.app}/api${path}`, { headers: { cookie: 'iwashi_session=guess' } })).status).toBe(401);
});

describe('a session', () => {
  it('is a cookie that script cannot read and other sites do not send', async () => {
    const cookie = (await signIn(EMAIL, PASSWORD)).headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Lax/);
  });

  it('changes nothing without its CSRF token', async () => {
    expect((await operator.send('POST', '/sources', { name: 'X' }, { 'x-iwashi-csrf': 'guess' })).status).toBe(403);
  });

  it('is listed with what its browser said, and ended from another one: alone, or all others', async () => {
    const here = await Operator.signIn(world.app, EMAIL, PASSWORD);
    const from = (userAgent: string) =>
      fetch(`${world.app}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'user-agent': userAgent },
        body: JSON.stringify({ email: EMAIL, password: PASSWORD }),
      });
    const left = (await from(BROWSER)).headers.get('set-cookie')?.split(';')[0] ?? '';
    const isIn = async () => (await fetch(`${world.app}/api/session`, { headers: { cookie: left } })).status === 200;
    const all = () => here.get<OpenSessionView[]>('/session/all');
    const [there] = (await all()).filter(({ browser }) => browser === 'Chrome on Linux');
    expect(there).toMatchObject({ here: false });
    expect((await all()).filter((one) => one.here)).toHaveLength(1);
    // What it is called lets nobody in.
    expect(JSON.stringify(await all())).not.toContain(left.split('=')[1]);
    expect(await isIn()).toBe(true);
    expect((await here.send('DELETE', `/session/all/${there?.id}`)).status).toBe(204);
    expect(await isIn()).toBe(false);
    expect((await here.send('DELETE', `/session/all/${there?.id}`)).status).toBe(404);
    await from(BROWSER);
    expect((await here.send('DELETE', '/session/others')).status).toBe(200);
    expect(await all()).toMatchObject([{ here: true }]);
    operator = await Operator.signIn(world.app, EMAIL, PASSWORD);
  });

  it('outlives the password only where it was changed', async () => {
    const here = await Operator.signIn(world.app, EMAIL, PASSWORD);
    const other = await Operator.signIn(world.app, EMAIL, PASSWORD);
    const change = (present: string, next: string) => here.send('PUT', '/session/password', { present, next });
    expect((await change('not this one', 'three unusual words')).status).toBe(422);
    expect((await change(PASSWORD, 'too short')).status).toBe(422);
    expect((await other.send('GET', '/session')).status).toBe(200);
    expect((await change(PASSWORD, 'three unusual words')).status).toBe(200);
    expect((await other.send('GET', '/session')).status).toBe(401);
    expect((await here.send('GET', '/session')).status).toBe(200);
    expect((await signIn(EMAIL, PASSWORD)).status).toBe(401);
    const { rows } = await here.get<{ rows: { act: string; detail: string }[] }>('/changes');
    expect(rows[0]).toMatchObject({ act: 'changed the password' });
    expect(JSON.stringify(rows)).not.toContain('unusual');
    expect((await change('three unusual words', PASSWORD)).status).toBe(200);
    // Guessing the present one is slowed down as it is at the sign-in.
    const statuses = [];
    for (let tries = 0; tries < 10; tries += 1) statuses.push((await change('not this one', PASSWORD)).status);
    expect(statuses.slice(-2)).toEqual([429, 429]);
    operator = await Operator.signIn(world.app, EMAIL, PASSWORD);
  });

  it('ends when signed out', async () => {
    const other = await Operator.signIn(world.app, EMAIL, PASSWORD);
    expect((await other.send('DELETE', '/session')).status).toBe(204);
    expect((await other.send('GET', '/status')).status).toBe(401);
  });
});

it('under https the cookie is one that no page of a name above or below ours can set', async () => {
  const port = await freePort();
  const { child } = await startProgram('server/main.js', ['serve'], {
    ...world.env,
    PORT: String(port),
    IWASHI_PUBLIC_URL: 'https://iwashi.pellam-ridge.example',
  });
  const at = `http://127.0.0.1:${port}/api/session`;
  const given = await fetch(at, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: EMAIL, password: PASSWORD }),
  });
  const cookie = given.headers.getSetCookie().find((one) => one.includes('session=')) ?? '';
  // RFC 6265bis, 4.1.3.2: what such a cookie has to say.
  expect(cookie).toMatch(/^__Host-iwashi_session=/);
  expect(cookie).toMatch(/; Path=\/(;|$)/);
  expect(cookie).toMatch(/; Secure/);
  expect(cookie).not.toMatch(/; Domain/i);
  const [pair = ''] = cookie.split(';');
  expect((await fetch(at, { headers: { cookie: pair } })).status).toBe(200);
  expect((await fetch(at, { headers: { cookie: pair.replace('__Host-', '') } })).status).toBe(401);
  await endProgram(child);
});

it('the one-time link makes one account', async () => {
  await expect(Operator.first(world.app, world.firstLink.split('#')[1] ?? '')).rejects.toThrow('403');
});

it('nobody without the one-time link has a password hashed', async () => {
  const first = (token: string, type: string) =>
    fetch(`${world.app}/api/session/first`, {
      method: 'POST',
      headers: { 'content-type': type },
      body: JSON.stringify({ token, name: 'X', email: 'x@pellam-ridge.example', password: 'a long enough one' }),
    });
  const begun = performance.now();
  const answers = await Promise.all(
    Array.from({ length: 200 }, (_, at) => first(`${at}`.padStart(30, 'x'), 'application/json')),
  );
  const refusals = performance.now() - begun;
  expect(new Set(answers.map(({ status }) => status))).toEqual(new Set([403]));
  const once = performance.now();
  await Promise.all(Array.from({ length: 40 }, () => hashPassword('a long enough one')));
  expect(refusals).toBeLessThan(5 * (performance.now() - once));
  expect((await first('x'.repeat(30), 'text/plain')).status).toBe(415);
});

it('an address with an accent is another one than the plain one', async () => {
  expect((await signIn(EMAIL.replace('wren', 'wrén'), PASSWORD)).status).not.toBe(200);
});

it('whoever signed in at a browser before is not kept out by others behind the same address', async () => {
  const device = (await signIn(EMAIL, PASSWORD)).headers
    .getSetCookie()
    .find((cookie) => cookie.startsWith('iwashi_device='))
    ?.split(';')[0];
  const tries = await Promise.all(
    Array.from({ length: 70 }, (_, at) => signIn(`guess${at}@pellam-ridge.example`, 'wrong password')),
  );
  expect(tries.filter(({ status }) => status === 429).length).toBeGreaterThan(0);
  const again = (cookie: string) =>
    fetch(`${world.app}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie },
      body: JSON.stringify({ email: EMAIL, password: PASSWORD }),
    });
  expect((await again('')).status).toBe(429);
  expect((await again(device ?? '')).status).toBe(200);
  await world.rows('DELETE FROM throttles');
});

it('an address that nothing stands at is not found, also by programs', async () => {
  for (const path of ['/wp-login', '/.env', '/sources.bak'])
    expect((await fetch(`${world.app}${path}`)).status).toBe(404);
  for (const path of ['/', '/sources', '/sources/x', '/activity/deliveries', '/sign-in'])
    expect((await fetch(`${world.app}${path}`)).status).toBe(200);
});

it.each(['before=x', "before=' OR 1=1"])('a place in a list that is none (%s) is refused', async (query) => {
  for (const list of ['submissions', 'deliveries', 'changes'])
    expect((await operator.send('GET', `/${list}?${query}`)).status).toBe(422);
});

it('starts only with the key that its database was filled with', async () => {
  const other = startProgram('server/main.js', ['serve'], {
    ...world.env,
    PORT: String(await freePort()),
    IWASHI_SECRET_KEY: randomBytes(32).toString('base64'),
  });
  await expect(other).rejects.toThrow();
});

it('an address that is a secret itself is kept encrypted, also one from before', async () => {
  const others = await world.others();
  const { id } = await operator.connectTo('bellbuoy', `${others.bellbuoy.url}${BELL}`, {});
  const kept = async () =>
    (await world.rows<{ address: string }>('SELECT base_url AS address FROM connections WHERE id = ?', [id]))[0]
      ?.address ?? '';
  expect(await kept()).toMatch(/^sealed /);
  expect((await operator.connection(id)).baseUrl).not.toContain('hook-for-tests');
  await world.rows('UPDATE connections SET base_url = ? WHERE id = ?', [`${others.bellbuoy.url}${BELL}`, id]);
  await world.kill('server');
  await world.startServer();
  expect(await kept()).toMatch(/^sealed /);
  expect((await operator.verify(id)).verify?.ok).toBe(true);
});

it('what is sent a second time tells nobody when the first came', async () => {
  const source = await operator.form('Twice', formOf([sourceField('email', 'email', { required: true })]));
  const send = (headers: Record<string, string> = {}) =>
    fetch(source.postUrl, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...headers },
      body: JSON.stringify({ email: 'twice@hill.example' }),
    }).then((response) => response.json());
  expect(await send()).toMatchObject({ accepted: true, submission: expect.any(String) as string });
  expect(await send()).not.toHaveProperty('submission');
  const named = { 'idempotency-key': 'one' };
  const first: unknown = await send(named);
  expect(await send(named)).toEqual(first);
});

it('a page to go on to may have any letters in its address', async () => {
  const source = await operator.form(
    'Goes on',
    formOf([sourceField('email', 'email', { required: true })], {
      ending: saying('', { next: 'https://hügel.example/дякую?was=“sent”' }),
    }),
  );
  const sent = await fetch(source.postUrl, {
    method: 'POST',
    redirect: 'manual',
    headers: { accept: 'text/html' },
    body: new URLSearchParams({ email: 'goes@hill.example' }),
  });
  expect([sent.status, sent.headers.get('location')]).toEqual([
    303,
    'https://xn--hgel-0ra.example/%D0%B4%D1%8F%D0%BA%D1%83%D1%8E?was=%E2%80%9Csent%E2%80%9D',
  ]);
});

it('a body that comes too slowly is not waited for', async () => {
  const source = await operator.form('Slowly', formOf([sourceField('email', 'email', { required: true })]));
  const { hostname, port, pathname } = new URL(source.postUrl);
  const begun = Date.now();
  const socket = connect(Number(port), hostname);
  socket.on('error', () => null);
  const ended = new Promise<void>((resolve) => socket.on('close', () => resolve()));
  socket.write(
    `POST ${pathname} HTTP/1.1\r\nhost: ${hostname}\r\ncontent-type: application/json\r\ncontent-length: 100\r\n\r\n`,
  );
  const dribble = setInterval(() => socket.write(' '), 1_000);
  await ended;
  clearInterval(dribble);
  expect(Date.now() - begun).toBeGreaterThan(5_000);
}, 40_000);

it('passwords are kept as argon2id, tokens as hashes', async () => {
  const [account] = await world.rows<{ password_hash: string }>('SELECT password_hash FROM accounts');
  expect(account?.password_hash).toMatch(/^\$argon2id\$/);
  const [session] = await world.rows<{ token_hash: string }>('SELECT token_hash FROM sessions');
  expect(session?.token_hash).toMatch(/^[0-9a-f]{64}$/);
});

it('guessing a password is slowed down, and does not tell whether the account exists', async () => {
  const unknown = await signIn('nobody@pellam-ridge.example', 'wrong password');
  const known = await signIn(EMAIL, 'wrong password');
  expect([unknown.status, await unknown.text()]).toEqual([known.status, await known.text()]);
  const answers = await Promise.all(Array.from({ length: 12 }, () => signIn(EMAIL, 'wrong password')));
  const refused = answers.filter(({ status }) => status === 429);
  expect(refused.length).toBeGreaterThanOrEqual(4);
  expect(Number(refused[0]?.headers.get('retry-after'))).toBeGreaterThan(0);
});

it('public pages carry headers against framing, sniffing and leaking', async () => {
  const { headers } = await fetch(`${world.app}/in/unknown`);
  expect([
    headers.get('x-content-type-options'),
    headers.get('x-frame-options'),
    headers.get('referrer-policy'),
  ]).toEqual(['nosniff', 'SAMEORIGIN', 'same-origin']);
  expect((await fetch(world.app)).headers.get('content-security-policy')).toContain("default-src 'self'");
});

it('the public address takes only so many from one place', async () => {
  await endProgram(world.server as NonNullable<typeof world.server>);
  world.env.IWASHI_SUBMISSIONS_PER_MINUTE = '5';
  await world.startServer();
  const source = await (
    await Operator.signIn(world.app, EMAIL, PASSWORD).catch(() => operator)
  ).form(
    'Limited',
    formOf([sourceField('email', 'email', { required: true, keepAs: 'email' })], { statement: 'I agree' }),
  );
  const answers = await Promise.all(
    Array.from({ length: 8 }, (_, index) =>
      fetch(source.postUrl, {
        method: 'POST',
        redirect: 'manual',
        body: new URLSearchParams({ email: `a${index}@hill.example` }),
      }),
    ),
  );
  expect(answers.filter(({ status }) => status === 303)).toHaveLength(5);
  const late = answers.find(({ status }) => status === 429);
  expect(Number(late?.headers.get('retry-after'))).toBeGreaterThan(0);
});

it('two processes that start at once migrate once', async () => {
  const database = `${new URL(world.databaseUrl).pathname.slice(1)}_b`;
  const connection = await createConnection(world.databaseUrl);
  await connection.query(`CREATE DATABASE \`${database}\``);
  const env = { ...world.env, DATABASE_URL: world.databaseUrl.replace(/\/[^/]*$/, `/${database}`) };
  const started = await Promise.all([1, 2, 3].map(() => startProgram('server/main.js', ['work'], env)));
  const [rows] = await connection.query(`SELECT COUNT(*) AS count FROM \`${database}\`.__drizzle_migrations`);
  const journal = await readFile('src/server/store/migrations/meta/_journal.json', 'utf8');
  const { entries } = JSON.parse(journal) as { entries: unknown[] };
  expect(rows).toEqual([{ count: entries.length }]);
  await Promise.all(started.map(({ child }) => endProgram(child)));
  await connection.end();
});

it('guesses from many addresses are counted for the account, and one network of IPv6 is one address', async () => {
  await endProgram(world.server as NonNullable<typeof world.server>);
  world.env.IWASHI_TRUSTED_PROXIES = '1';
  await world.startServer();
  await world.rows('DELETE FROM throttles');
  const from = (address: string, email = EMAIL) =>
    fetch(`${world.app}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-forwarded-for': address },
      body: JSON.stringify({ email, password: 'wrong password' }),
    }).then(({ status }) => status);
  // Nine of one network, each with an address of its own.
  const near = [];
  for (let host = 1; host <= 9; host += 1) near.push(await from(`2001:db8:1:2::${host}`));
  expect(near).toEqual([...Array<number>(8).fill(401), 429]);
  await world.rows('DELETE FROM throttles');
  const far = await Promise.all(Array.from({ length: 110 }, (_, net) => from(`2001:db8:${net + 1}::1`)));
  expect(far.filter((status) => status === 401)).toHaveLength(100);
  expect(far.filter((status) => status === 429)).toHaveLength(10);
  await world.rows('DELETE FROM throttles');
}, 60_000);
