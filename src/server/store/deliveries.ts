import { and, asc, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import { groupBy } from '../../core/groupBy.ts';
import {
  DELIVERING,
  type Cause,
  type DeliveryEvent,
  type DeliveryState,
  type ProvedBy,
  type ReadBackRow,
} from '../../core/delivery/index.ts';
import type { ExchangeView } from '../../contract/deliveries.ts';
import type { ConsentNeed } from '../../core/consent/index.ts';
import type { Intent } from '../../core/plan/index.ts';
import { changedRows, byId, insertRows, oneOf, rowsOf, type Db } from './database.ts';
import { samePerson } from './people/tree.ts';
import { attempts, deliveries } from './schema/index.ts';

export type DeliveryRecord = typeof deliveries.$inferSelect;

export type NewDelivery = Pick<
  DeliveryRecord,
  | 'id'
  | 'submissionId'
  | 'contactId'
  | 'connectionId'
  | 'routeId'
  | 'routeVersion'
  | 'targetId'
  | 'confirmationId'
  | 'intent'
  | 'leftOut'
  | 'state'
  | 'cause'
  | 'causeDetail'
>;

export async function addDeliveries(db: Db, planned: NewDelivery[], now: number): Promise<void> {
  await insertRows(
    db,
    deliveries,
    planned.map((delivery) => ({ ...delivery, createdAt: now, dueAt: now })),
  );
}

export async function findDelivery(db: Db, id: string): Promise<DeliveryRecord | null> {
  const [row] = await db.select().from(deliveries).where(eq(deliveries.id, id));
  return row ?? null;
}

/** Deliveries that are held for one cause at one connection, oldest first. @param after the last one of the part before */
export async function heldDeliveries(
  db: Db,
  { cause, connectionId, after }: { cause: Cause; connectionId: string; after: string | null },
  limit: number,
): Promise<DeliveryRecord[]> {
  return db
    .select()
    .from(deliveries)
    .where(
      and(
        eq(deliveries.connectionId, connectionId),
        eq(deliveries.state, 'held'),
        eq(deliveries.cause, cause),
        after === null ? undefined : gt(deliveries.id, after),
      ),
    )
    .orderBy(asc(deliveries.id))
    .limit(limit);
}

/** What was last meant for a person at each connection and kind of record there. */
export async function newestIntents(db: Db, contactId: string): Promise<{ connectionId: string; intent: Intent }[]> {
  const rows = await db
    .select({ connectionId: deliveries.connectionId, intent: deliveries.intent })
    .from(deliveries)
    .where(sql`${deliveries.contactId} IN ${samePerson(contactId)}`)
    .orderBy(asc(deliveries.sequence));
  const newest = new Map(rows.map((row) => [`${row.connectionId} ${row.intent.kind}`, row]));
  return [...newest.values()];
}

export async function findDeliveries(db: Db, ids: string[]): Promise<DeliveryRecord[]> {
  if (ids.length === 0) return [];
  return db.select().from(deliveries).where(inArray(deliveries.id, ids));
}

/** One try; its number is given when it is stored. */
export interface AttemptRecord {
  startedAt: number;
  outcome: string;
  cause: Cause | null;
  said: string;
  exchanges: ExchangeView[];
}

/** How one try ended, and what follows. */
export interface TryEnd {
  id: string;
  /** The taking that made the try. */
  owner: string | null;
  end: {
    state: DeliveryState;
    cause: Cause | null;
    causeDetail: string;
    dueAt: number;
    readBack: ReadBackRow[] | null;
    /** How what was read back is known. */
    provedBy: ProvedBy | null;
    endedAt: number | null;
    /** Stays when something may have been added there: the next try looks before it adds again. */
    begunAt: number | null;
  };
  attempt: AttemptRecord;
}

/**
 * Stores how tries ended, and what follows, together. Only the taking that holds the lease may: of those that were taken
 * over, or once more, nothing is stored.
 * @returns those that were stored
 */
export async function endTries(db: Db, ends: TryEnd[]): Promise<Set<TryEnd>> {
  const rows = await rowsOf<{ id: string; owner: string | null; made: number }>(
    db,
    sql`SELECT d.id, d.lease_owner AS owner, (SELECT COALESCE(MAX(a.number), 0) FROM attempts a WHERE a.delivery_id = d.id) AS made
      FROM deliveries d WHERE d.id IN ${oneOf(ends.map(({ id }) => id))}
        AND d.state = 'sending' FOR UPDATE`,
  );
  const found = new Map(rows.map((row) => [row.id, row]));
  const ours = ends.filter(({ id, owner }) => owner !== null && found.get(id)?.owner === owner);
  if (ours.length === 0) return new Set();
  await insertRows(
    db,
    attempts,
    ours.map(({ id, attempt }) => ({
      ...attempt,
      deliveryId: id,
      number: (found.get(id)?.made ?? 0) + 1,
      said: attempt.said.slice(0, 600),
    })),
  );
  for (const same of groupBy(ours, ({ end: { readBack: _, ...rest } }) => JSON.stringify(rest)).values()) {
    const [first] = same;
    if (!first) continue;
    const { readBack: _, ...end } = first.end;
    const ids = same.map(({ id }) => id);
    await db
      .update(deliveries)
      .set({
        ...end,
        causeDetail: end.causeDetail.slice(0, 600),
        readBack: byId(
          ids,
          same.map(({ end: { readBack } }) => (readBack === null ? null : JSON.stringify(readBack))),
        ),
        leaseUntil: 0,
        leaseOwner: null,
      })
      .where(sql`id IN ${oneOf(ids)}`);
  }
  return new Set(ours);
}

/** Notes that sending begins, for a service at which it could not be seen later whether it arrived once. */
export async function markBegun(
  db: Db,
  { id, leaseOwner }: Pick<DeliveryRecord, 'id' | 'leaseOwner'>,
  now: number,
): Promise<boolean> {
  const [result] = await db
    .update(deliveries)
    .set({ begunAt: now })
    .where(and(eq(deliveries.id, id), eq(deliveries.leaseOwner, leaseOwner ?? '')));
  return result.affectedRows === 1;
}

/** What an event makes of deliveries to which it applies; of all others, nothing. */
const moved = (event: DeliveryEvent) => ({
  to: { state: DELIVERING.to(event) },
  of: inArray(deliveries.state, DELIVERING.before(event)),
});

const CONFIRMED = moved('confirmed');
const REPLAYED = moved('replayed');
const STOPPED = moved('stopped while waiting');
const DROPPED = moved('dropped');
const SEEN = moved('seen there');

/** As if it had never been tried. */
const ANEW = { ...REPLAYED.to, tries: 0, cause: null, causeDetail: null };
const isHeldFor = (...causes: Cause[]) =>
  and(REPLAYED.of, eq(deliveries.state, 'held'), inArray(deliveries.cause, causes));

/** Lets deliveries go that waited for a confirmation, or were held until the person confirms anew. */
export async function releaseConfirmed(db: Db, confirmationId: string, contactId: string, now: number): Promise<void> {
  await db
    .update(deliveries)
    .set({ ...CONFIRMED.to, dueAt: now })
    .where(and(eq(deliveries.confirmationId, confirmationId), CONFIRMED.of));
  await db
    .update(deliveries)
    .set({ ...ANEW, dueAt: now })
    .where(and(sql`${deliveries.contactId} IN ${samePerson(contactId)}`, isHeldFor('left there before')));
}

/** Gives up what waited for a confirmation that never came. */
export async function dropUnconfirmed(
  db: Db,
  confirmationId: string,
  now: number,
  why = 'Never confirmed in time.',
): Promise<void> {
  await db
    .update(deliveries)
    .set({ ...DROPPED.to, causeDetail: why, endedAt: now })
    .where(and(eq(deliveries.confirmationId, confirmationId), eq(deliveries.state, 'waiting'), DROPPED.of));
}

/**
 * Puts a held or retrying delivery back into the queue at once, optionally with a new intent. A person who does so with
 * one that may have arrived has looked, so it is sent as if nothing had been.
 */
export async function replayDelivery(
  db: Db,
  id: string,
  now: number,
  change: Partial<Pick<DeliveryRecord, 'intent' | 'leftOut' | 'routeVersion'>> = {},
): Promise<boolean> {
  await db
    .update(deliveries)
    .set({ begunAt: null })
    .where(and(eq(deliveries.id, id), eq(deliveries.state, 'held'), eq(deliveries.cause, 'unclear')));
  const [result] = await db
    .update(deliveries)
    .set({ ...change, ...ANEW, dueAt: now })
    .where(and(eq(deliveries.id, id), REPLAYED.of));
  return result.affectedRows === 1;
}

/** Ends a held delivery as delivered: a person saw that it had arrived. */
export async function settleDelivery(db: Db, id: string, now: number): Promise<boolean> {
  const [result] = await db
    .update(deliveries)
    .set({ ...SEEN.to, cause: null, causeDetail: null, provedBy: 'person', endedAt: now })
    .where(and(eq(deliveries.id, id), SEEN.of));
  return result.affectedRows === 1;
}

export async function dropDelivery(db: Db, id: string, reason: string, now: number): Promise<boolean> {
  const [result] = await db
    .update(deliveries)
    .set({ ...DROPPED.to, causeDetail: reason, endedAt: now })
    .where(and(eq(deliveries.id, id), DROPPED.of));
  return result.affectedRows === 1;
}

/** Gives up what is not sent yet of a submission. @returns how many deliveries of it were sent, or are being sent, and stay */
export async function dropOfSubmission(db: Db, submissionId: string, reason: string, now: number): Promise<number> {
  await db
    .update(deliveries)
    .set({ ...DROPPED.to, causeDetail: reason, endedAt: now })
    .where(and(eq(deliveries.submissionId, submissionId), DROPPED.of));
  const [sent] = await rowsOf<{ count: number }>(
    db,
    sql`SELECT COUNT(*) AS count FROM deliveries WHERE submission_id = ${submissionId} AND state <> 'dropped'`,
  );
  return sent?.count ?? 0;
}

/** Gives up what waits, or is held, on a consent that somebody took back: nothing of it is to be sent, and nothing is to wait for it. */
export async function dropWithdrawn(db: Db, contactId: string, needs: ConsentNeed[], now: number): Promise<void> {
  const standing = await db
    .select({ id: deliveries.id, intent: deliveries.intent })
    .from(deliveries)
    .where(and(sql`${deliveries.contactId} IN ${samePerson(contactId)}`, DROPPED.of));
  const dropped = standing.filter(
    ({ intent: { purpose, channel, ends } }) =>
      ends === null && needs.some((need) => need.purpose === purpose && need.channel === channel),
  );
  if (dropped.length === 0) return;
  await db
    .update(deliveries)
    .set({ ...DROPPED.to, cause: 'consent withdrawn', causeDetail: '', endedAt: now })
    .where(
      and(
        inArray(
          deliveries.id,
          dropped.map(({ id }) => id),
        ),
        DROPPED.of,
      ),
    );
}

/** Of which submission the last thing came that was meant for a person; null when nothing ever was. */
export async function newestOf(db: Db, contactId: string): Promise<string | null> {
  const [row] = await db
    .select({ submissionId: deliveries.submissionId })
    .from(deliveries)
    .where(sql`${deliveries.contactId} IN ${samePerson(contactId)}`)
    .orderBy(desc(deliveries.sequence))
    .limit(1);
  return row?.submissionId ?? null;
}

/** So many are held or let go by one statement: more would stop everybody else. */
const PART_OF_ALL = 1_000;

/**
 * Holds a part of what waits for a connection whose credentials are refused. What waits for a person's confirmation goes on waiting.
 * @returns whether there may be more
 */
export async function holdForCredentials(db: Db, connectionId: string, now: number): Promise<boolean> {
  const result = await db
    .update(deliveries)
    .set({ ...STOPPED.to, cause: 'credentials refused', causeDetail: '', endedAt: now })
    .where(and(eq(deliveries.connectionId, connectionId), STOPPED.of))
    .limit(PART_OF_ALL);
  return changedRows(result) === PART_OF_ALL;
}

/** Whether anything of a connection was held for one of these causes after a time. */
export async function wasHeldSince(db: Db, connectionId: string, causes: Cause[], after: number): Promise<boolean> {
  const [row] = await db
    .select({ id: deliveries.id })
    .from(deliveries)
    .where(
      and(
        eq(deliveries.connectionId, connectionId),
        eq(deliveries.state, 'held'),
        gt(deliveries.endedAt, after),
        inArray(deliveries.cause, causes),
      ),
    )
    .limit(1);
  return row !== undefined;
}

/** Holds a part of what goes to a connection that is removed. @returns whether there may be more */
export async function holdForRemoved(db: Db, connectionId: string, name: string, now: number): Promise<boolean> {
  const result = await db
    .update(deliveries)
    .set({ ...STOPPED.to, cause: 'place gone', causeDetail: `The connection ${name} was removed.`, endedAt: now })
    .where(and(eq(deliveries.connectionId, connectionId), STOPPED.of))
    .limit(PART_OF_ALL);
  return changedRows(result) === PART_OF_ALL;
}

/** Lets a part go of what was held because a connection's credentials were refused. @returns whether there may be more */
export async function releaseRefused(db: Db, connectionId: string, now: number): Promise<boolean> {
  const result = await db
    .update(deliveries)
    .set({ ...ANEW, dueAt: now })
    .where(and(eq(deliveries.connectionId, connectionId), isHeldFor('credentials refused', 'not permitted')))
    .limit(PART_OF_ALL);
  return changedRows(result) === PART_OF_ALL;
}

/** Forgets the requests and answers of attempts that began before a time: how each ended stays, and that something was sent. */
export async function forgetOldExchanges(db: Db, before: number, most: number): Promise<void> {
  await db.execute(
    sql`UPDATE attempts SET exchanges = 'null', said = '' WHERE started_at < ${before} AND exchanges NOT IN ('[]', 'null') LIMIT ${most}`,
  );
}
