import { and, asc, count, desc, eq, gt, gte, inArray, lt, lte } from 'drizzle-orm';
import { SENDING, type SendingEvent } from '../../core/states/index.ts';
import { changedRows, type Db } from './database.ts';
import { deliveries, sendings, submissions } from './schema/index.ts';
import type { DeliveryRecord } from './deliveries.ts';
import type { SubmissionRecord } from './submissions.ts';

export type SendingRecord = typeof sendings.$inferSelect;
export type NewSending = typeof sendings.$inferInsert;

export async function addSending(db: Db, sending: NewSending): Promise<void> {
  await db.insert(sendings).values(sending);
}

export async function listSendings(db: Db, routeId: string): Promise<SendingRecord[]> {
  return db.select().from(sendings).where(eq(sendings.routeId, routeId)).orderBy(desc(sendings.startedAt)).limit(20);
}

export async function findSending(db: Db, id: string): Promise<SendingRecord | null> {
  const [row] = await db.select().from(sendings).where(eq(sendings.id, id));
  return row ?? null;
}

/** Moves a sending on, where the event applies. @returns false where it does not, and nothing changed */
export async function moveSending(db: Db, id: string, event: SendingEvent, now: number): Promise<boolean> {
  const to = SENDING.to(event);
  const isOver = to === 'done' || to === 'cancelled';
  const result = await db
    .update(sendings)
    .set({ state: to, endedAt: isOver ? now : null, dueAt: now })
    .where(and(eq(sendings.id, id), inArray(sendings.state, SENDING.before(event))));
  return changedRows(result) === 1;
}

/** A sending whose turn it is, held until the transaction ends; null when there is none. Others take others. */
export async function lockDueSending(db: Db, now: number): Promise<SendingRecord | null> {
  const [row] = await db
    .select()
    .from(sendings)
    .where(and(eq(sendings.state, 'running'), lte(sendings.dueAt, now)))
    .orderBy(asc(sendings.dueAt))
    .limit(1)
    .for('update', { skipLocked: true });
  return row ?? null;
}

/** Writes down how far a sending has come. */
export async function advanceSending(db: Db, id: string, part: Partial<SendingRecord>): Promise<void> {
  await db.update(sendings).set(part).where(eq(sendings.id, id));
}

/** What was received when, from which sources. */
export interface Received {
  sourceIds: string[];
  since: number;
  until: number;
}

const receivedIn = ({ sourceIds, since, until }: Received) =>
  and(
    inArray(submissions.sourceId, sourceIds),
    eq(submissions.state, 'planned'),
    gte(submissions.receivedAt, since),
    lt(submissions.receivedAt, until),
  );

export async function countReceived(db: Db, received: Received): Promise<number> {
  if (received.sourceIds.length === 0) return 0;
  const [row] = await db.select({ count: count() }).from(submissions).where(receivedIn(received));
  return row?.count ?? 0;
}

/** The next submissions of a period, the oldest first. @param after the last one of the part before; '' for the first part */
export async function nextReceived(
  db: Db,
  received: Received,
  after: string,
  limit: number,
): Promise<SubmissionRecord[]> {
  if (received.sourceIds.length === 0) return [];
  return db
    .select()
    .from(submissions)
    .where(and(receivedIn(received), gt(submissions.id, after)))
    .orderBy(asc(submissions.id))
    .limit(limit);
}

const heldIn = (routeId: string, { since, until }: Received) =>
  and(
    eq(deliveries.routeId, routeId),
    eq(deliveries.state, 'held'),
    gte(submissions.receivedAt, since),
    lt(submissions.receivedAt, until),
  );

export async function countHeld(db: Db, routeId: string, received: Received): Promise<number> {
  const [row] = await db
    .select({ count: count() })
    .from(deliveries)
    .innerJoin(submissions, eq(submissions.id, deliveries.submissionId))
    .where(heldIn(routeId, received));
  return row?.count ?? 0;
}

/** The next deliveries of a route that are held, with what they came of. @param after the last one of the part before */
export async function nextHeld(
  db: Db,
  routeId: string,
  received: Received,
  after: string,
  limit: number,
): Promise<{ delivery: DeliveryRecord; submission: SubmissionRecord }[]> {
  return db
    .select({ delivery: deliveries, submission: submissions })
    .from(deliveries)
    .innerJoin(submissions, eq(submissions.id, deliveries.submissionId))
    .where(and(heldIn(routeId, received), gt(deliveries.id, after)))
    .orderBy(asc(deliveries.id))
    .limit(limit);
}

/** Of some submissions, those that a route has sent somewhere already, whatever became of it. */
export async function sentBefore(db: Db, routeId: string, ids: string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .selectDistinct({ id: deliveries.submissionId })
    .from(deliveries)
    .where(and(inArray(deliveries.submissionId, ids), eq(deliveries.routeId, routeId)));
  return new Set(rows.map(({ id }) => id));
}
