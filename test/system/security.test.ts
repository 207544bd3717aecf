import { readFile } from 'node:fs/promises';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { formOf, sourceField } from '../world/fields.ts';
import { Operator, PASSWORD } from '../world/operator.ts';
import { startProgram, endProgram } from '../world/processes.ts';
import { World } from '../world/world.ts';

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

  it('ends when signed out', async () => {
    const other = await Operator.signIn(world.app, EMAIL, PASSWORD);
    expect((await other.send('DELETE', '/session')).status).toBe(204);
    expect((await other.send('GET', '/status')).status).toBe(401);
  });
});

it('the one-time link makes one account', async () => {
  await expect(Operator.first(world.app, world.firstLink.split('#')[1] ?? '')).rejects.toThrow('403');
});

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
