import { and, desc, eq, sql } from 'drizzle-orm';
import type { SubmissionState } from '../../contract/activity.ts';
import type { SampleView } from '../../contract/source.ts';
import type { Suspicion } from '../../core/intake/index.ts';
import type { Plan } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import { DUPLICATE_ENTRY, errorNumber, type Db, type Store } from './database.ts';
import { submissions } from './schema.ts';

/** A submission as it arrived, without secrets. */
export interface RawSubmission {
  contentType: string;
  entries: [string, string][];
  headers: Record<string, string>;
}

export interface NewSubmission {
  id: string;
  sourceId: string;
  sourceVersion: number;
  receivedAt: number;
  raw: RawSubmission;
  values: FieldValues;
  /** What makes it the same request as another, hashed. */
  contentHash: string;
  /** See `personKey`; '' when it names nobody. */
  personKey: string;
  suspicion: Suspicion | null;
}

/** The same content within this time is the same request: a double click, a reload, a caller that tries again. */
const REPEAT_WITHIN_MS = 10 * 60_000;

const ACCEPT = `INSERT INTO submissions
  (id, source_id, source_version, received_at, state, raw, field_values, repeat_key, person_key, suspicion, due_at)
  VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`;

/** Under which the same content stands if it comes again in the same stretch of time, which a unique index forbids. */
const repeatKey = (contentHash: string, at: number): string => `${contentHash}.${Math.floor(at / REPEAT_WITHIN_MS)}`;

/**
 * Stores a submission in one durable statement, unless the same one came in this stretch of time. One that came at the
 * end of the stretch before is found by `absorbRepeat`, later, so that no visitor waits for the search. A prepared
 * statement on the bare driver, for the same reason.
 * @returns false when it is a repeat; nothing is stored then
 */
export async function acceptSubmission({ pool }: Store, submission: NewSubmission): Promise<boolean> {
  const { id, sourceId, sourceVersion, receivedAt, raw, values, contentHash, personKey, suspicion } = submission;
  const state: SubmissionState = suspicion ? 'set aside' : 'received';
  const key = repeatKey(contentHash, receivedAt);
  const json = [JSON.stringify(raw), JSON.stringify(values)];
  try {
    const start = [id, sourceId, sourceVersion, receivedAt, state];
    await pool.execute(ACCEPT, [...start, ...json, key, personKey, suspicion, receivedAt]);
    return true;
  } catch (error) {
    if (errorNumber(error) === DUPLICATE_ENTRY) return false;
    throw error;
  }
}

/** Notes on the earlier submission that the same request came again. @returns its id */
export async function noteRepeat(db: Db, sourceId: string, contentHash: string, now: number): Promise<string | null> {
  const [earlier] = await db
    .select({ id: submissions.id })
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), eq(submissions.repeatKey, repeatKey(contentHash, now))));
  if (earlier) await countRepeat(db, earlier.id, now);
  return earlier?.id ?? null;
}

async function countRepeat(db: Db, id: string, now: number): Promise<void> {
  await db
    .update(submissions)
    .set({ repeats: sql`repeats + 1`, lastRepeatAt: now })
    .where(eq(submissions.id, id));
}

/**
 * Finds out whether a submission repeats one of the stretch of time before. If so it is counted on that one and taken
 * away, as it would have been refused had it come a moment earlier.
 */
export async function absorbRepeat(
  db: Db,
  { id, sourceId, repeatKey: key, receivedAt }: SubmissionRecord,
): Promise<boolean> {
  const [contentHash = ''] = key.split('.');
  const before = repeatKey(contentHash, receivedAt - REPEAT_WITHIN_MS);
  const [earlier] = await db
    .select({ id: submissions.id, receivedAt: submissions.receivedAt })
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), eq(submissions.repeatKey, before)));
  if (!earlier || earlier.receivedAt <= receivedAt - REPEAT_WITHIN_MS) return false;
  await countRepeat(db, earlier.id, receivedAt);
  await db.delete(submissions).where(eq(submissions.id, id));
  return true;
}

export interface SubmissionRecord extends Omit<
  typeof submissions.$inferSelect,
  'raw' | 'values' | 'plan' | 'state' | 'suspicion'
> {
  raw: RawSubmission;
  values: FieldValues;
  plan: Plan | null;
  state: SubmissionState;
  suspicion: Suspicion | null;
}

export async function findSubmission(db: Db, id: string): Promise<SubmissionRecord | null> {
  const [row] = await db.select().from(submissions).where(eq(submissions.id, id));
  return row ? (row as SubmissionRecord) : null;
}

/** @returns false when it was planned already, by a worker that was thought dead */
export async function endPlanning(db: Db, id: string, plan: Plan, contactId: string | null): Promise<boolean> {
  const [result] = await db
    .update(submissions)
    .set({ state: 'planned', plan, contactId, leaseUntil: 0, leaseOwner: null })
    .where(and(eq(submissions.id, id), eq(submissions.state, 'received')));
  return result.affectedRows === 1;
}

/** Stops trying to plan a submission; it stays visible, with the reason. */
export async function failPlanning(db: Db, id: string, failure: string): Promise<void> {
  await db
    .update(submissions)
    .set({ state: 'failed', failure: failure.slice(0, 500) })
    .where(eq(submissions.id, id));
}

export async function delayPlanning(db: Db, id: string, dueAt: number): Promise<void> {
  await db.update(submissions).set({ dueAt, leaseUntil: 0, leaseOwner: null }).where(eq(submissions.id, id));
}

/** Lets a submission through that was set aside or failed. @returns false when it was neither */
export async function releaseSubmission(db: Db, id: string, now: number): Promise<boolean> {
  const [result] = await db
    .update(submissions)
    .set({ state: 'received', dueAt: now, tries: 0, failure: null, leaseUntil: 0, leaseOwner: null })
    .where(and(eq(submissions.id, id), sql`state IN ('set aside', 'failed')`));
  return result.affectedRows === 1;
}

/** The newest submissions of a source, as samples to map with. */
export async function readSamples(db: Db, sourceId: string, limit: number): Promise<SampleView[]> {
  const rows = await db
    .select({ id: submissions.id, receivedAt: submissions.receivedAt, values: submissions.values })
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), eq(submissions.state, 'planned')))
    .orderBy(desc(submissions.id))
    .limit(limit);
  return rows.map(({ id, receivedAt, values }) => ({
    id,
    receivedAt: new Date(receivedAt).toISOString(),
    values: values as FieldValues,
  }));
}
