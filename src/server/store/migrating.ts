import path from 'node:path';
import { readMigrationFiles, type MigrationMeta } from 'drizzle-orm/migrator';
import type { PoolConnection, RowDataPacket } from 'mysql2/promise';
import { errorNumber, type Store } from './database.ts';

/** For so long the second of two that start waits for the first. */
const LOCK_SECONDS = 120;

/**
 * What MariaDB says of a change of the schema that was made before: ER_TABLE_EXISTS_ERROR, ER_BAD_TABLE_ERROR,
 * ER_DUP_FIELDNAME, ER_DUP_KEYNAME, ER_CANT_DROP_FIELD_OR_KEY, ER_DUP_CONSTRAINT_NAME, and ER_BAD_FIELD_ERROR of a column that
 * has its new name already.
 */
const MADE_BEFORE = new Set([1050, 1051, 1060, 1061, 1091, 1826, 1054]);

/** Whether a statement changes the schema, which MariaDB commits by itself. */
const changesSchema = (statement: string): boolean => /^(\s|--.*\n)*(create|alter|drop|rename)\b/i.test(statement);

/**
 * Brings the schema up to date. Two processes at once are safe: the second waits, then finds nothing to do. One that was
 * killed on its way goes on where it was: each step is noted, together with what it changed where the database can do that;
 * of a change of the schema whose note is missing, it may have been made or not.
 * @throws with the migration and the step at which it cannot go on
 */
export async function migrateStore(store: Store, root: string): Promise<void> {
  const connection = await store.pool.getConnection();
  try {
    const [[lock]] = await connection.query<({ got: number | null } & RowDataPacket)[]>(
      `SELECT GET_LOCK('iwashi-migrations', ${LOCK_SECONDS}) AS got`,
    );
    if (lock?.got !== 1) throw new Error('the schema is being brought up to date by another process, for too long');
    await migrateWith(connection, path.join(root, 'src/server/store/migrations'));
  } finally {
    // Its lock ends with it, whatever happened to it.
    connection.destroy();
  }
}

async function migrateWith(connection: PoolConnection, folder: string): Promise<void> {
  // As the query builder's own tool has it, which made the ones before.
  await connection.query(
    'CREATE TABLE IF NOT EXISTS __drizzle_migrations (id serial PRIMARY KEY, hash text NOT NULL, created_at bigint)',
  );
  await connection.query(
    'CREATE TABLE IF NOT EXISTS migration_steps (made_at bigint NOT NULL PRIMARY KEY, done int NOT NULL)',
  );
  const [[last]] = await connection.query<({ at: number | null } & RowDataPacket)[]>(
    'SELECT MAX(created_at) AS at FROM __drizzle_migrations',
  );
  for (const migration of readMigrationFiles({ migrationsFolder: folder })) {
    if (migration.folderMillis <= (last?.at ?? 0)) continue;
    await applyMigration(connection, migration);
    await connection.query('INSERT INTO __drizzle_migrations (hash, created_at) VALUES (?, ?)', [
      migration.hash,
      migration.folderMillis,
    ]);
  }
}

async function applyMigration(connection: PoolConnection, { folderMillis, sql }: MigrationMeta): Promise<void> {
  const [[known]] = await connection.query<({ done: number } & RowDataPacket)[]>(
    'SELECT done FROM migration_steps WHERE made_at = ?',
    [folderMillis],
  );
  await connection.query('INSERT IGNORE INTO migration_steps VALUES (?, 0)', [folderMillis]);
  for (const [step, statement] of sql.entries()) {
    if (step < (known?.done ?? 0)) continue;
    const note = () =>
      connection.query('UPDATE migration_steps SET done = ? WHERE made_at = ?', [step + 1, folderMillis]);
    try {
      await connection.query('BEGIN');
      await connection.query(statement).catch((error: unknown) => {
        const mayBeMade = step === known?.done && changesSchema(statement);
        if (!mayBeMade || !MADE_BEFORE.has(errorNumber(error) ?? 0)) throw error;
      });
      await note();
      await connection.query('COMMIT');
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      throw new Error(`the schema cannot be brought up to date, at step ${step + 1} of ${sql.length}: ${why}`, {
        cause: error,
      });
    }
  }
}
