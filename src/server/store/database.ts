import { getTableColumns, sql, type SQL } from 'drizzle-orm';
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import { createPool, type Pool } from 'mysql2/promise';
import * as schema from './schema/index.ts';

type Database = MySql2Database<typeof schema>;
/** The database, or a transaction in it. */
export type Db = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute' | 'selectDistinct' | '$count'>;

export interface Store {
  db: Database;
  pool: Pool;
  close(): Promise<void>;
}

/** ER_LOCK_WAIT_TIMEOUT and ER_LOCK_DEADLOCK: another transaction was in the way. */
const PASSING_ERRORS = new Set([1205, 1213]);
const MOST_TRIES = 8;

export function openStore(url: string, connections = 12): Store {
  const pool = createPool({
    uri: url,
    connectionLimit: connections,
    timezone: 'Z',
    supportBigNumbers: true,
    decimalNumbers: true,
    charset: 'utf8mb4',
    // Otherwise the driver takes down a stack for every call, along everything that awaits it, in case that it fails.
    trace: false,
  });
  pool.pool.on('connection', (connection) => {
    // Claims and plans lock the rows they name; locks on the gaps between them would only cause deadlocks.
    connection.query('SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED');
  });
  return { db: drizzle(pool, { schema, mode: 'default' }), pool, close: () => pool.end() };
}

/** The query builder on one connection of the pool: made once each. */
const onConnection = new WeakMap<object, Db>();

/**
 * Runs `work` between a beginning and its COMMIT, on a connection of its own. A connection that cannot even be rolled back is of
 * no use to the next one: it is closed rather than given back.
 */
async function onOwnConnection<T>({ pool }: Store, begin: string[], work: (db: Db) => Promise<T>): Promise<T> {
  const connection = await pool.getConnection();
  let isWell = false;
  try {
    const db = onConnection.get(connection.connection) ?? drizzle(connection, { schema, mode: 'default' });
    onConnection.set(connection.connection, db);
    for (const statement of begin) await connection.query(statement);
    const result = await work(db);
    await connection.query('COMMIT');
    isWell = true;
    return result;
  } catch (error) {
    isWell = await connection.query('ROLLBACK').then(
      () => true,
      () => false,
    );
    throw error;
  } finally {
    if (isWell) connection.release();
    else connection.destroy();
  }
}

/**
 * Runs `change` in a transaction and again when the database says that it lost against another one.
 * @param alsoRetry further MariaDB error numbers that mean "try again"
 */
export async function inTransaction<T>(
  store: Store,
  change: (db: Db) => Promise<T>,
  alsoRetry: number[] = [],
): Promise<T> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await onOwnConnection(store, ['BEGIN'], change);
    } catch (error) {
      const number = errorNumber(error);
      if (tries >= MOST_TRIES || number === null || !(PASSING_ERRORS.has(number) || alsoRetry.includes(number)))
        throw error;
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 20 * tries));
    }
  }
}

/** Something small that is written in the same transaction as what it goes with, such as a note of who did it. */
export type Alongside = (db: Db) => Promise<void>;

export const nothingAlongside: Alongside = () => Promise.resolve();

/** Reads several things as they stand at one moment, whatever is written meanwhile. */
export function inSnapshot<T>(store: Store, read: (db: Db) => Promise<T>): Promise<T> {
  const begin = ['SET TRANSACTION ISOLATION LEVEL REPEATABLE READ', 'START TRANSACTION WITH CONSISTENT SNAPSHOT'];
  return onOwnConnection(store, begin, read);
}

/**
 * Carries out a prepared statement on the driver itself. Its promises take down a stack for every call, along everything that
 * awaits it: a tenth of what it costs to accept a submission.
 */
export const executePlainly = (pool: Pool, statement: string, values: (string | number | null)[]): Promise<void> =>
  new Promise((resolve, reject) => {
    pool.pool.execute(statement, values, (error) => (error ? reject(error) : resolve()));
  });

export const DUPLICATE_ENTRY = 1062;

/** MariaDB's number of an error, through the wrapping of the query builder; null when it is none of MariaDB's. */
export function errorNumber(error: unknown): number | null {
  if (typeof error !== 'object' || error === null) return null;
  if ('errno' in error && typeof error.errno === 'number') return error.errno;
  return 'cause' in error ? errorNumber(error.cause) : null;
}

/**
 * MariaDB's own ways to say, besides those above, that it may well go another time: ER_CON_COUNT_ERROR, ER_UNKNOWN_COM_ERROR,
 * ER_SERVER_SHUTDOWN, ER_ERROR_DURING_COMMIT, ER_NEW_ABORTING_CONNECTION, ER_QUERY_INTERRUPTED, ER_CONNECTION_KILLED.
 */
const AWAY_ERRORS = new Set([...PASSING_ERRORS, 1040, 1047, 1053, 1180, 1184, 1317, 1927]);
/** What Node calls a connection that broke, or could not be made. */
const BROKEN = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOENT']);

/** Whether an error says that the database was busy, or away: what was asked may be asked again. */
export function isAway(error: unknown): boolean {
  const number = errorNumber(error);
  if (number !== null && AWAY_ERRORS.has(number)) return true;
  if (typeof error !== 'object' || error === null) return false;
  // So the driver marks whatever ended a connection; not all of it has a code.
  if ('fatal' in error && error.fatal === true && (number === null || number < 0)) return true;
  if ('code' in error && typeof error.code === 'string' && BROKEN.has(error.code)) return true;
  return 'cause' in error && isAway(error.cause);
}

/** For so long somebody who waits for an answer waits for a database that is away; and it rests between two tries. */
const AWAY_MS = 5_000;
const AWAY_REST_MS = 100;

/**
 * Does something again while the database is away, changes hands, or breaks connections.
 * @param work what may be done twice: it is not known whether it was done when its connection broke
 * @param limitMs for how long, in milliseconds
 */
export async function retryWhileUnavailable<T>(work: () => Promise<T>, limitMs = AWAY_MS): Promise<T> {
  const until = Date.now() + limitMs;
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (!isAway(error) || Date.now() >= until) throw error;
      await new Promise((resolve) => setTimeout(resolve, AWAY_REST_MS));
    }
  }
}

/** How many rows a writing statement changed. */
export function changedRows(result: unknown): number {
  const [header] = result as [{ affectedRows?: number }];
  return header.affectedRows ?? 0;
}

/** A LIKE pattern for texts that begin with this one. */
export const beginning = (text: string): string => `${text.replace(/[\\%_]/g, '\\$&')}%`;

/** Values in brackets, for IN. The driver writes them out: for many, that costs far less than a parameter each. */
export const oneOf = (values: (string | number)[]): SQL => sql`(${sql.param(values)})`;

/** A value of its own for each of several rows, by their ids, so that one statement changes them all. */
export const byId = (ids: string[], values: (string | null)[]): SQL =>
  sql`ELT(FIELD(id, ${sql.param(ids)}), ${sql.param(values)})`;

/**
 * Inserts rows by one statement, written out by the driver: for many, that costs far less than a parameter each.
 * @param onDuplicate what to set where a row is there already, as in `ON DUPLICATE KEY UPDATE`; without it that is an error
 */
export async function insertRows<Table extends MySqlTable>(
  db: Db,
  table: Table,
  rows: Table['$inferInsert'][],
  onDuplicate?: SQL,
): Promise<void> {
  const [first] = rows;
  if (!first) return;
  const columns = Object.entries(getTableColumns(table)).filter(([name]) => name in first);
  const values = (rows as Record<string, unknown>[]).map((row) =>
    columns.map(([name, column]) => {
      const value = row[name] ?? null;
      return value === null ? null : column.mapToDriverValue(value);
    }),
  );
  const names = sql.join(
    columns.map(([, column]) => sql.identifier(column.name)),
    sql`, `,
  );
  await db.execute(
    sql`INSERT INTO ${table} (${names}) VALUES ${sql.param(values)} ${onDuplicate ? sql`ON DUPLICATE KEY UPDATE ${onDuplicate}` : sql``}`,
  );
}

/** How many rows there are of something; of more than `most` it only says that there are more: that many plus one. */
export async function countUpTo(db: Db, most: number, rows: SQL): Promise<number> {
  const [row] = await rowsOf<{ count: number }>(
    db,
    sql`SELECT COUNT(*) AS count FROM (SELECT 1 ${rows} LIMIT ${sql.raw(String(most + 1))}) some`,
  );
  return row?.count ?? 0;
}

/** The lowest id that was made at a time: ids are UUID version 7 (RFC 9562, 5.7), which begin with it. */
export function firstIdAt(at: number): string {
  const time = at.toString(16).padStart(12, '0');
  return `${time.slice(0, 8)}-${time.slice(8)}-7000-8000-000000000000`;
}

/** The rows of a raw statement. */
export async function rowsOf<Row>(db: Db, query: ReturnType<typeof sql>): Promise<Row[]> {
  const [rows] = (await db.execute(query)) as unknown as [Row[]];
  return rows;
}
