import { inArray, type SQL, sql } from 'drizzle-orm';
import { DELIVERING, HOLDING_BACK, takeFromBudget, type Pace } from '../../core/delivery/index.ts';
import { changedRows, inTransaction, oneOf, rowsOf, type Db, type Store } from './database.ts';

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

export const SUBMISSION_QUEUE: Queue = {
  table: 'submissions',
  states: ['received'],
  // One person's are planned in the order in which they came, so that a later answer is never overwritten by an earlier one.
  only: sql`(job.person_key = '' OR NOT EXISTS (
    SELECT 1 FROM submissions earlier
    WHERE earlier.person_key = job.person_key AND earlier.state = 'received' AND earlier.id < job.id))`,
};
export const MAIL_QUEUE: Queue = { table: 'mails', states: ['queued', 'sending'], taken: 'sending' };
export const DELIVERY_QUEUE: Queue = {
  table: 'deliveries',
  states: DELIVERING.before('claimed'),
  taken: DELIVERING.to('claimed'),
};

export interface Lease {
  /** The taking, not the worker: what a worker took, lost and took once more is two takings, and the first has it no longer. */
  owner: string;
  until: number;
  /** Whether what another worker took and did not end in time is taken over. */
  takesOver: boolean;
}

/** Whether a row is nobody's: or somebody's who seems to have vanished. */
const isFree = ({ takesOver }: Lease, now: number): SQL =>
  sql`job.lease_until <= ${now} ${takesOver ? sql`` : sql`AND job.lease_owner IS NULL`}`;

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
        WHERE job.state IN ${oneOf(queue.states)}
          AND job.due_at <= ${now} AND ${isFree(lease, now)} ${queue.only ? sql`AND ${queue.only}` : sql``}
        ORDER BY job.due_at LIMIT ${limit} FOR UPDATE SKIP LOCKED`,
    );
    return take(db, queue, rows, lease);
  });
}

async function take(
  db: Db,
  queue: Queue,
  rows: { id: string; owner: string | null }[],
  lease: Lease,
): Promise<{ id: string; takenOver: boolean }[]> {
  if (rows.length === 0) return [];
  const ids = oneOf(rows.map(({ id }) => id));
  const state = queue.taken ? sql`, state = ${queue.taken}` : sql``;
  await db.execute(
    sql`UPDATE ${sql.identifier(queue.table)} SET lease_until = ${lease.until}, lease_owner = ${lease.owner}, tries = tries + 1 ${state} WHERE id IN ${ids}`,
  );
  return rows.map(({ id, owner }) => ({ id, takenOver: owner !== null }));
}

/** A connection for which something is due, and what is known of how it fares. */
export interface DueConnection {
  id: string;
  profile: string;
  ownProfile: unknown;
  failures: number;
}

/** The connections to which something may go now: neither paused nor refused, and not left alone for a while. */
export async function dueConnections(db: Db, now: number): Promise<DueConnection[]> {
  return rowsOf<DueConnection>(
    db,
    sql`SELECT c.id, c.profile, p.document AS ownProfile, COALESCE(h.failures, 0) AS failures
      FROM connections c LEFT JOIN connection_health h ON h.connection_id = c.id LEFT JOIN profiles p ON p.id = c.profile
      WHERE c.state = 'active' AND COALESCE(h.rest_until, 0) <= ${now}
        AND (SELECT 1 FROM deliveries d FORCE INDEX (deliveries_work)
          WHERE d.connection_id = c.id AND d.state IN ${oneOf(DELIVERING.before('claimed'))}
            AND d.due_at <= ${now} AND d.lease_until <= ${now} LIMIT 1) IS NOT NULL`,
  );
}

/** What is to be taken for one connection. */
export interface Share {
  connectionId: string;
  most: number;
  /**
   * The service's pace, how many deliveries go by one try, and how many requests a try makes at most, by itself and for
   * each person in it; null when there is none to keep.
   */
  pace: (Pace & { together: number; perTry: number; perPerson: number }) | null;
  /** Whether only one delivery at a time, of all workers, may try if the service is back. */
  tryingOut: boolean;
}

/**
 * Takes due deliveries of one connection, in order for each person: nothing overtakes an earlier one that has not ended.
 * The requests that they may make are taken out of the budget that all workers share, in the same transaction.
 */
export function claimDeliveries(
  store: Store,
  { connectionId, most, pace, tryingOut }: Share,
  now: number,
  lease: Lease,
): Promise<{ id: string; takenOver: boolean }[]> {
  return inTransaction(store, async (db) => {
    let limit = most;
    let fullAt = 0;
    if (pace || tryingOut) {
      // The row is the connection's gate: workers pass one by one.
      await db.execute(sql`INSERT IGNORE INTO connection_health (connection_id) VALUES (${connectionId})`);
      const [gate] = await rowsOf<{ budgetFullAt: number }>(
        db,
        sql`SELECT budget_full_at AS budgetFullAt FROM connection_health WHERE connection_id = ${connectionId} FOR UPDATE`,
      );
      fullAt = gate?.budgetFullAt ?? 0;
      if (tryingOut) limit = (await isAnyoneTrying(db, connectionId, now)) ? 0 : 1;
      if (pace) {
        limit = Math.min(limit, roomFor(pace, fullAt, limit, now));
        // What a clock said that was ahead is put right at once: nothing may be granted for a while, and it would be read again.
        const told = takeFromBudget(fullAt, pace, 0, now).fullAt;
        if (told < fullAt) await setFullAt(db, connectionId, told);
        fullAt = told;
      }
    }
    if (limit === 0) return [];
    const rows: { id: string; owner: string | null }[] = [];
    // State by state, so that the index gives them in order: sorting would read, and lock, all that is due.
    for (const state of [...DELIVERING.before('claimed')].reverse()) {
      if (rows.length === limit) break;
      const more = await rowsOf<{ id: string; owner: string | null }>(
        db,
        sql`SELECT job.id, job.lease_owner AS owner FROM deliveries job FORCE INDEX (deliveries_work)
          WHERE job.connection_id = ${connectionId} AND job.state = ${state}
            AND job.due_at <= ${now} AND ${isFree(lease, now)}
            AND NOT EXISTS (
              SELECT 1 FROM deliveries earlier
              WHERE earlier.contact_id = job.contact_id AND earlier.connection_id = job.connection_id
                AND earlier.sequence < job.sequence AND ${inArray(sql`earlier.state`, HOLDING_BACK)})
          ORDER BY job.due_at LIMIT ${limit - rows.length} FOR UPDATE SKIP LOCKED`,
      );
      rows.push(...more);
    }
    if (pace && rows.length > 0) {
      const spent = takeFromBudget(fullAt, pace, requestsFor(pace, rows.length), now);
      await setFullAt(db, connectionId, spent.fullAt);
    }
    return take(db, DELIVERY_QUEUE, rows, lease);
  });
}

async function setFullAt(db: Db, connectionId: string, fullAt: number): Promise<void> {
  await db.execute(
    sql`UPDATE connection_health SET budget_full_at = ${Math.ceil(fullAt)} WHERE connection_id = ${connectionId}`,
  );
}

type SharedPace = NonNullable<Share['pace']>;

const requestsFor = ({ together, perTry, perPerson }: SharedPace, deliveries: number): number =>
  Math.ceil(deliveries / together) * perTry + deliveries * perPerson;

/** How many deliveries the budget has room for. */
function roomFor(pace: SharedPace, fullAt: number, wanted: number, now: number): number {
  const { granted } = takeFromBudget(fullAt, pace, requestsFor(pace, wanted), now);
  let count = wanted;
  while (count > 0 && requestsFor(pace, count) > granted) count -= 1;
  return count;
}

async function isAnyoneTrying(db: Db, connectionId: string, now: number): Promise<boolean> {
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT id FROM deliveries WHERE connection_id = ${connectionId} AND state = 'sending' AND lease_until > ${now} LIMIT 1`,
  );
  return rows.length > 0;
}

/** Keeps rows for longer, as far as they are still those takings'. @returns how many are */
export async function renewLease(
  db: Db,
  queue: Queue,
  held: { ids: string[]; owners: string[] },
  until: number,
): Promise<number> {
  if (held.ids.length === 0) return 0;
  return changedRows(
    await db.execute(
      sql`UPDATE ${sql.identifier(queue.table)} SET lease_until = ${until} WHERE id IN ${oneOf(held.ids)} AND lease_owner IN ${oneOf(held.owners)}`,
    ),
  );
}

/** Gives back deliveries that were taken and not begun, as if they had never been taken. */
export async function giveBack(db: Db, ids: string[], owner: string): Promise<void> {
  if (ids.length === 0) return;
  await db.execute(
    sql`UPDATE deliveries SET state = ${DELIVERING.to('given back')}, lease_until = 0, lease_owner = NULL, tries = tries - 1
      WHERE id IN ${oneOf(ids)} AND lease_owner = ${owner} AND state IN ${oneOf(DELIVERING.before('given back'))}`,
  );
}
