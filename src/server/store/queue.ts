import { type SQL, sql } from 'drizzle-orm';
import { changedRows, inTransaction, rowsOf, type Db, type Store } from './database.ts';

/** One of the tables that workers take rows from in turns. */
export interface Queue {
  table: 'submissions' | 'mails' | 'deliveries';
  /** States in which a row may be taken; the last one is the state of a row that is being worked on. */
  states: string[];
  /** The state that a taken row is put into; absent when taking does not change it. */
  taken?: string;
  /** A further condition on the row, called `job`. */
  only?: SQL;
}

export const SUBMISSION_QUEUE: Queue = { table: 'submissions', states: ['received'] };
export const MAIL_QUEUE: Queue = { table: 'mails', states: ['queued', 'sending'], taken: 'sending' };
export const DELIVERY_QUEUE: Queue = {
  table: 'deliveries',
  states: ['queued', 'retrying', 'sending'],
  taken: 'sending',
  // In order for one person at one connection: nothing overtakes an earlier delivery that has not ended.
  only: sql`NOT EXISTS (
    SELECT 1 FROM deliveries earlier
    WHERE earlier.contact_id = job.contact_id AND earlier.connection_id = job.connection_id
      AND earlier.sequence < job.sequence AND earlier.state IN ('queued', 'retrying', 'sending', 'held'))`,
};

export interface Lease {
  owner: string;
  until: number;
}

/**
 * Takes up to `limit` due rows for one worker. A row that another worker is taking is skipped; a row whose lease ran
 * out is taken over.
 * @returns their ids, and whether each was taken over from a worker that vanished
 */
export function claim(
  store: Store,
  queue: Queue,
  limit: number,
  now: number,
  lease: Lease,
): Promise<{ id: string; takenOver: boolean }[]> {
  return inTransaction(store, async (db) => {
    const table = sql.identifier(queue.table);
    const rows = await rowsOf<{ id: string; owner: string | null }>(
      db,
      sql`SELECT job.id, job.lease_owner AS owner FROM ${table} job
        WHERE job.state IN (${sql.join(
          queue.states.map((state) => sql`${state}`),
          sql`, `,
        )})
          AND job.due_at <= ${now} AND job.lease_until <= ${now}
          ${queue.only ? sql`AND ${queue.only}` : sql``}
        ORDER BY job.due_at LIMIT ${limit} FOR UPDATE SKIP LOCKED`,
    );
    if (rows.length === 0) return [];
    const ids = sql.join(
      rows.map(({ id }) => sql`${id}`),
      sql`, `,
    );
    const state = queue.taken ? sql`, state = ${queue.taken}` : sql``;
    await db.execute(
      sql`UPDATE ${table} SET lease_until = ${lease.until}, lease_owner = ${lease.owner}, tries = tries + 1 ${state} WHERE id IN (${ids})`,
    );
    return rows.map(({ id, owner }) => ({ id, takenOver: owner !== null }));
  });
}

/** Keeps a worker's rows its own for longer. */
export async function renewLease(db: Db, queue: Queue, ids: string[], lease: Lease): Promise<number> {
  if (ids.length === 0) return 0;
  const list = sql.join(
    ids.map((id) => sql`${id}`),
    sql`, `,
  );
  return changedRows(
    await db.execute(
      sql`UPDATE ${sql.identifier(queue.table)} SET lease_until = ${lease.until} WHERE id IN (${list}) AND lease_owner = ${lease.owner}`,
    ),
  );
}
