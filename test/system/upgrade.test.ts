import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { drizzle } from 'drizzle-orm/mysql2';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { createPool, type RowDataPacket } from 'mysql2/promise';
import { expect, it } from 'vitest';
import { migrateStore, openStore } from '../../src/server/store/database.ts';
import { ROOT } from '../world/processes.ts';
import { ownDatabase } from '../world/world.ts';

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
