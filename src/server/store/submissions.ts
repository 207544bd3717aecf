import { and, desc, eq, sql } from 'drizzle-orm';
import type { SubmissionState } from '../../contract/activity.ts';
import type { SampleView } from '../../contract/source.ts';
import type { Suspicion } from '../../core/intake/index.ts';
import type { Plan } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import { changedRows, DUPLICATE_ENTRY, errorNumber, rowsOf, type Db } from './database.ts';
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
  contentHash: string;
  repeatKey: string;
  suspicion: Suspicion | null;
  /** How far back the same content counts as the same request, in milliseconds. */
  repeatWithinMs: number;
}

/**
 * Stores a submission in one durable statement, unless the same one came a moment ago.
 * @returns false when it is a repeat; nothing is stored then
 */
export async function acceptSubmission(db: Db, submission: NewSubmission): Promise<boolean> {
  const { id, sourceId, receivedAt, contentHash } = submission;
  const state: SubmissionState = submission.suspicion ? 'set aside' : 'received';
  try {
    const result = await db.execute(sql`
      INSERT INTO submissions
        (id, source_id, source_version, received_at, state, raw, field_values, content_hash, repeat_key, suspicion, due_at)
      SELECT ${id}, ${sourceId}, ${submission.sourceVersion}, ${receivedAt}, ${state}, ${JSON.stringify(submission.raw)},
        ${JSON.stringify(submission.values)}, ${contentHash}, ${submission.repeatKey}, ${submission.suspicion}, ${receivedAt}
      FROM DUAL WHERE NOT EXISTS (
        SELECT 1 FROM submissions earlier WHERE earlier.source_id = ${sourceId} AND earlier.content_hash = ${contentHash}
          AND earlier.received_at > ${receivedAt - submission.repeatWithinMs})`);
    return changedRows(result) === 1;
  } catch (error) {
    if (errorNumber(error) === DUPLICATE_ENTRY) return false;
    throw error;
  }
}

/** Notes on the earlier submission that the same request came again. @returns its id */
export async function noteRepeat(db: Db, sourceId: string, contentHash: string, now: number): Promise<string | null> {
  const [earlier] = await rowsOf<{ id: string }>(
    db,
    sql`SELECT id FROM submissions WHERE source_id = ${sourceId} AND content_hash = ${contentHash} ORDER BY received_at DESC LIMIT 1`,
  );
  if (!earlier) return null;
  await db
    .update(submissions)
    .set({ repeats: sql`repeats + 1`, lastRepeatAt: now })
    .where(eq(submissions.id, earlier.id));
  return earlier.id;
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
    .orderBy(desc(submissions.receivedAt))
    .limit(limit);
  return rows.map(({ id, receivedAt, values }) => ({
    id,
    receivedAt: new Date(receivedAt).toISOString(),
    values: values as FieldValues,
  }));
}
