import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { drizzle } from 'drizzle-orm/mysql2';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { createConnection, createPool, type RowDataPacket } from 'mysql2/promise';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OverviewView } from '../../src/contract/overview.ts';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { deliveriesIn, ROUTE_FORMAT } from '../../src/core/plan/index.ts';
import { hashPassword } from '../../src/server/security/passwords.ts';
import { addAccount } from '../../src/server/store/accounts.ts';
import { openStore } from '../../src/server/store/database.ts';
import { migrateStore } from '../../src/server/store/migrating.ts';
import { submitJson } from '../world/observatory.ts';
import { Operator } from '../world/operator.ts';
import { eventually, ROOT } from '../world/processes.ts';
import { ownDatabase, TERN_KEY, World } from '../world/world.ts';

const FOLDER = path.join(ROOT, 'src/server/store/migrations');

/** A database as an earlier version left it: only so many migrations were applied. */
async function databaseAt(migrations: number): Promise<string> {
  const url = await ownDatabase();
  const folder = await mkdtemp('/tmp/iwashi-migrations-');
  await cp(FOLDER, folder, { recursive: true });
  const journal = path.join(folder, 'meta/_journal.json');
  const whole = JSON.parse(await readFile(journal, 'utf8')) as { entries: unknown[] };
  await writeFile(journal, JSON.stringify({ ...whole, entries: whole.entries.slice(0, migrations) }));
  const pool = createPool(url);
  await migrate(drizzle(pool), { migrationsFolder: folder });
  await pool.end();
  await rm(folder, { recursive: true });
  return url;
}

/** A database as the demo of an earlier version left it, with some weeks of an observatory's data. */
async function databaseOf(day: string): Promise<{ url: string; key: string }> {
  const url = await ownDatabase();
  const folder = path.join(ROOT, 'test/system/folders');
  const statements = gunzipSync(await readFile(path.join(folder, `${day}.sql.gz`))).toString();
  const connection = await createConnection({ uri: url, multipleStatements: true });
  await connection.query(statements);
  await connection.end();
  return { url, key: (await readFile(path.join(folder, `${day}.key`), 'utf8')).trim() };
}

describe('a data folder of 2026-11-26', () => {
  let world: World;
  let operator: Operator;
  beforeAll(async () => {
    const { url, key } = await databaseOf('2026-11-26');
    const store = openStore(url);
    const [email, password] = ['upgraded@pellam-ridge.example', 'lantern hill comet'];
    const account = { id: '0', name: 'Wren', email, passwordHash: await hashPassword(password), createdAt: 0 };
    await addAccount(store.db, account);
    await store.close();
    world = await World.start({ DATABASE_URL: url, IWASHI_SECRET_KEY: key });
    operator = await Operator.signIn(world.app, email, password);
  });
  afterAll(() => world.stop());

  it('starts, and shows everything that was there', async () => {
    const { rows } = await operator.submissions();
    expect(rows).toHaveLength(50);
    for (const { id } of rows.slice(0, 10)) {
      const trail = await operator.trail(id);
      expect((trail.plan ? deliveriesIn(trail.plan) : []).every(({ targetId }) => targetId.startsWith('t'))).toBe(true);
    }
    const people = await operator.get<{ rows: { id: string }[] }>('/people');
    expect(people.rows).toHaveLength(50);
    await operator.get(`/people/${people.rows[0]?.id ?? ''}`);
    expect((await operator.get<OverviewView>('/overview')).flows).toHaveLength(6);
    const connections = await operator.get<ConnectionView[]>('/connections');
    expect(connections.map(({ profile }) => profile).sort()).toEqual(
      ['bellbuoy', 'capstan', 'mail', 'rowbarn', 'tern-post'].sort(),
    );
  });

  it('has its routes as documents of today, which can be saved and published', async () => {
    const routes = await operator.get<RouteView[]>('/routes');
    expect(routes.map(({ changed, draft }) => [changed, draft.format, draft.targets.map(({ id }) => id)])).toEqual([
      [false, ROUTE_FORMAT, ['t1', 't2']],
      [false, ROUTE_FORMAT, ['t1', 't2', 't3', 't4']],
    ]);
    for (const { id, draft } of routes) {
      await operator.put(`/routes/${id}/draft`, draft);
      await operator.post(`/routes/${id}/publish`);
    }
  });

  it('goes on with what was held, to the account that it was for', async () => {
    const [ternPost] = (await operator.get<ConnectionView[]>('/connections')).filter(
      ({ profile }) => profile === 'tern-post',
    );
    const held = await operator.deliveries('state=held');
    const [delivery] = held.rows.filter(({ connectionId }) => connectionId === ternPost?.id);
    const credentials = { key: TERN_KEY };
    await operator.put(`/connections/${ternPost?.id ?? ''}`, {
      profile: 'tern-post',
      name: 'Tern Post',
      baseUrl: world.ternPost,
      credentials,
    });
    await operator.post(`/deliveries/${delivery?.id ?? ''}/replan`);
    await operator.trailWhen(delivery?.submissionId ?? '', 'delivered');
    const there = (await world.members()).find(({ email }) => email === delivery?.email);
    expect(there).toMatchObject({ lists: ['L-200'], groups: ['G-210'] });
  });

  it('takes new submissions by the forms that are placed', async () => {
    const [source] = (await operator.get<SourceView[]>('/sources')).filter(
      ({ name }) => name === 'School visit request',
    );
    const visit = { first: 'Mara', last: 'Quill', email: 'new@hill.example', school: 'Hill', pupils: '7', visits: '' };
    const id = await submitJson(source as SourceView, visit);
    const trail = await eventually(
      () => operator.trail(id),
      ({ plan }) => plan !== null,
    );
    expect(trail.plan && deliveriesIn(trail.plan).map(({ targetId }) => targetId)).toEqual(['t1', 't2', 't3', 't4']);
  });
});

it('counts of an earlier version are counted by longer stretches, and of all sources together', async () => {
  const store = openStore(await databaseAt(24));
  const rows = [
    ['page', 'a', 47, '/one', 'shown', 3],
    ['page', 'a', 48, '/one', 'shown', 5],
    ['page', 'a', 50, '/one', 'shown', 7],
    ['page', 'b', 50, '/one', 'shown', 11],
    ['all', 'b', 50, '', 'completed', 2],
  ];
  await store.pool.query('INSERT INTO form_counts VALUES ?', [rows]);
  await migrateStore(store, ROOT);
  const read = async (sql: string): Promise<unknown[][]> => {
    const [found] = await store.pool.query<RowDataPacket[]>(`${sql} ORDER BY 1, 2, 3, 4`);
    return found.map((row): unknown[] => Object.values(row));
  };
  expect(
    await read("SELECT dimension, stretch, value, what, count FROM form_counts WHERE hours = 1 AND source_id = ''"),
  ).toEqual([
    ['all', 50, '', 'completed', 2],
    ['page', 47, '/one', 'shown', 3],
    ['page', 48, '/one', 'shown', 5],
    ['page', 50, '/one', 'shown', 18],
  ]);
  expect(
    await read(
      "SELECT dimension, source_id, stretch, value, what, count FROM form_counts WHERE hours = 1 AND source_id <> ''",
    ),
  ).toEqual([
    ['all', 'b', 50, '', 'completed', 2],
    ['page', 'a', 47, '/one', 'shown', 3],
    ['page', 'a', 48, '/one', 'shown', 5],
    ['page', 'a', 50, '/one', 'shown', 7],
    ['page', 'b', 50, '/one', 'shown', 11],
  ]);
  expect(
    await read("SELECT hours, source_id, stretch, count FROM form_counts WHERE hours > 1 AND what = 'shown'"),
  ).toEqual([
    [24, '', 1, 3],
    [24, '', 2, 23],
    [24, 'a', 1, 3],
    [24, 'a', 2, 12],
    [24, 'b', 2, 11],
    ...[168, 672].flatMap((hours) => [
      [hours, '', 0, 26],
      [hours, 'a', 0, 15],
      [hours, 'b', 0, 11],
    ]),
  ]);
  await store.close();
});

it('routes and deliveries of the first version say afterwards that nobody leaves any place', async () => {
  const url = await databaseAt(1);
  const store = openStore(url);
  const target = { connectionId: 'c', list: 'L', tags: ['a'] };
  const document = JSON.stringify({ sourceId: 's', targets: [target, target], consent: {} });
  const intent = JSON.stringify({ email: 'a@b.example', tags: [] });
  const plan = JSON.stringify({ deliveries: [{ connectionId: 'c', intent: JSON.parse(intent) as object }], notes: [] });
  await store.pool.query(
    "INSERT INTO routes (id, name, source_id, state, draft, draft_at, created_at) VALUES ('r', 'R', 's', 'live', ?, 0, 0)",
    [document],
  );
  await store.pool.query("INSERT INTO route_versions VALUES ('r', 1, ?, 0)", [document]);
  await store.pool.query(
    `INSERT INTO deliveries (id, submission_id, contact_id, connection_id, route_id, route_version, target_index, intent,
      left_out, state, created_at, due_at) VALUES ('d', 's', 'c', 'c', 'r', 1, 0, ?, '[]', 'held', 0, 0)`,
    [intent],
  );
  await store.pool.query(
    `INSERT INTO submissions (id, source_id, source_version, received_at, state, raw, field_values, repeat_key, person_key,
      plan, due_at) VALUES ('s', 's', 1, 0, 'planned', '{}', '{}', 'k', '', ?, 0)`,
    [plan],
  );
  await migrateStore(store, ROOT);
  const read = async (sql: string): Promise<Record<string, unknown>> => {
    const [rows] = await store.pool.query<RowDataPacket[]>(sql);
    const value: unknown = rows[0]?.document;
    return (typeof value === 'string' ? JSON.parse(value) : value) as Record<string, unknown>;
  };
  const leaving = { ...target, leaves: [], tagsOff: [] };
  expect((await read('SELECT draft AS document FROM routes')).targets).toEqual([leaving, leaving]);
  expect((await read('SELECT document FROM route_versions')).targets).toEqual([leaving, leaving]);
  expect(await read('SELECT intent AS document FROM deliveries')).toMatchObject({ leaves: [], tagsOff: [] });
  expect(await read('SELECT plan AS document FROM submissions')).toMatchObject({
    deliveries: [{ intent: { leaves: [], tagsOff: [] } }],
  });
  await store.close();
});
