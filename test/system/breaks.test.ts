import { createConnection, type RowDataPacket } from 'mysql2/promise';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { inTransaction, openStore, rowsOf, type Store } from '../../src/server/store/database.ts';
import { migrateStore } from '../../src/server/store/migrating.ts';
import { sql } from 'drizzle-orm';
import { Breaking, type Break } from '../world/breaking.ts';
import { ROOT } from '../world/processes.ts';
import { ownDatabase, World } from '../world/world.ts';
import { ownContext } from '../world/context.ts';
import type { OverviewView } from '../../src/contract/overview.ts';
import { readiness } from '../../src/server/watching/machine.ts';

let database: string;
let breaking: Breaking;
beforeAll(async () => {
  database = await ownDatabase();
  breaking = await Breaking.before(database);
});
afterAll(() => breaking.stop());

/** How every table of a database is made. */
async function schemaOf(url: string): Promise<Record<string, string>> {
  const connection = await createConnection(url);
  const [tables] = await connection.query<RowDataPacket[]>('SHOW TABLES');
  const schema: Record<string, string> = {};
  for (const table of tables) {
    const [name] = Object.values(table) as [string];
    const [[made]] = await connection.query<({ 'Create Table': string } & RowDataPacket)[]>(
      `SHOW CREATE TABLE \`${name}\``,
    );
    schema[name] = (made?.['Create Table'] ?? '').replace(/ AUTO_INCREMENT=\d+/, '');
  }
  await connection.end();
  return schema;
}

/** Brings a schema up to date, and is cut off at its so-manieth statement. @returns what it failed with; null when it was done */
async function migrateUntil(at: number, how: Break): Promise<unknown> {
  let seen = 0;
  breaking.at = (statement) => (/(create|alter|insert|update|drop) /i.test(statement) && ++seen === at ? how : null);
  const store = openStore(breaking.url, 1);
  try {
    await migrateStore(store, ROOT);
    return null;
  } catch (error) {
    return error;
  } finally {
    breaking.at = () => null;
    await store.close().catch(() => null);
  }
}

it('a schema that is brought up to date goes on where it was cut off, at whatever step', async () => {
  const whole = await ownDatabase();
  const store = openStore(whole, 1);
  await migrateStore(store, ROOT);
  await store.close();
  let cuts = 0;
  for (let failure: unknown = true; failure !== null; cuts += 1)
    failure = await migrateUntil(6 + (cuts % 4), cuts % 2 === 0 ? 'before' : 'after');
  expect(cuts).toBeGreaterThan(20);
  expect(await schemaOf(database)).toEqual(await schemaOf(whole));
});

it('says at which step a schema cannot be brought up to date', async () => {
  const url = await ownDatabase();
  const connection = await createConnection(url);
  await connection.query('CREATE TABLE submissions (something int)');
  await connection.end();
  const store = openStore(url, 1);
  await expect(migrateStore(store, ROOT)).rejects.toThrow(/at step \d+ of \d+: Table 'submissions' already exists/);
  await store.close();
});

it.each([
  ['begins', /begin/i],
  ['is rolled back', /rollback/i],
  ['is committed', /commit/i],
])('a connection that breaks while a transaction %s is not handed to the next', async (_when, statement) => {
  const store: Store = openStore(breaking.url, 1);
  const work = (fails: boolean) =>
    inTransaction(store, async (db) => {
      const rows = await rowsOf<{ one: number }>(db, sql`SELECT 1 AS one`);
      if (fails) throw new Error('not wanted after all');
      return rows;
    });
  await work(false);
  breaking.at = (said) => (statement.test(said) ? 'before' : null);
  await expect(work(statement.test('rollback'))).rejects.toThrow();
  breaking.at = () => null;
  expect(await work(false)).toEqual([{ one: 1 }]);
  await store.close();
});

it('is ready only where what comes in can be kept', async () => {
  const context = await ownContext();
  const through = await Breaking.before(context.config.databaseUrl);
  let now = 1_000_000;
  const store = openStore(through.url, 1);
  const isReady = readiness({ ...context, store, now: () => now });
  expect(await isReady()).toBe(true);
  // It answers questions, and takes nothing.
  through.at = (said) => (/insert into/i.test(said) ? 'before' : null);
  now += 1_000;
  expect(await rowsOf(store.db, sql`SELECT 1 AS one`)).toEqual([{ one: 1 }]);
  expect(await isReady()).toBe(false);
  through.at = () => null;
  now += 1_000;
  expect(await isReady()).toBe(true);
  await store.close();
  await context.close();
  through.stop();
});

it('says that a disk is nearly full before it is', async () => {
  // The kernel's own file system has no room at all.
  const world = await World.start({ IWASHI_DATABASE_FOLDER: '/sys' });
  const operator = await world.operator();
  const { needs } = await operator.get<OverviewView>('/overview');
  expect(needs.filter(({ kind }) => kind === 'disk').map(({ text }) => text)).toEqual([
    expect.stringContaining('The disk that holds the database is nearly full: 0 bytes are left.'),
  ]);
  await world.stop();
});
