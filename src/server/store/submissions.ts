import type { Pool } from 'mysql2/promise';
import { and, asc, desc, eq, getTableColumns, inArray, isNull, or, sql } from 'drizzle-orm';
import type { SubmissionState } from '../../contract/submissions.ts';
import type { SampleView } from '../../contract/source.ts';
import {
  VISIT_PARTS,
  type RawSubmission,
  type Suspicion,
  type Visit,
  type VisitPart,
} from '../../core/intake/index.ts';
import { deliveriesIn, mailsIn, type Plan } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import {
  byId,
  DUPLICATE_ENTRY,
  errorNumber,
  executePlainly,
  firstIdAt,
  isAway,
  retryWhileUnavailable,
  oneOf,
  type Db,
  type Store,
  changedRows,
} from './database.ts';
import { batchCalls } from './batchCalls.ts';
import { samePerson } from './people/tree.ts';
import { deliveries, submissions } from './schema/index.ts';

export interface NewSubmission {
  id: string;
  sourceId: string;
  sourceVersion: number;
  receivedAt: number;
  raw: RawSubmission;
  /** The arrival that several came by; null when it was one. */
  arrivalId: string | null;
  /** By the ids of the source's fields. */
  values: FieldValues;
  visit: Visit;
  /** What makes it the same request as another, hashed. */
  contentHash: string;
  /** Whether that is what its sender calls it, which makes it the same however late it comes again. */
  isNamed: boolean;
  /** See `personKey`; '' when it names nobody. */
  personKey: string;
  suspicion: Suspicion | null;
  /** How long it took to fill in; null where nobody tells. */
  tookSeconds: number | null;
}

/** The same content within this time is the same request: a double click, a reload, a caller that tries again. */
const REPEAT_WITHIN_MS = 10 * 60_000;

const VISIT_COLUMNS = VISIT_PARTS.map((part) => submissions[part].name);

const ACCEPT = `INSERT INTO submissions
  (id, source_id, source_version, received_at, state, raw, arrival_id, field_values, repeat_key, person_key, suspicion, took_seconds,
    due_at, ${VISIT_COLUMNS.join(', ')}) VALUES `;
const ROW = `(${Array.from({ length: 13 + VISIT_COLUMNS.length }, () => '?').join(', ')})`;
/** The same for so many rows, made once each: what is prepared is known by its text. */
const STATEMENTS: string[] = [];
const acceptStatement = (rows: number): string =>
  (STATEMENTS[rows] ??= ACCEPT + Array.from({ length: rows }, () => ROW).join(', '));

/** So many rows go by one statement at most; and so many statements at once. */
const TOGETHER = { atOnce: 2, most: 32 };

type Row = (string | number | null)[];
/** Whether a row was stored (not where it is there already), or what kept it from that. */
type Stored = { stored: boolean } | { error: unknown };
const accepting = new WeakMap<Pool, (row: Row) => Promise<Stored>>();

/** Stores rows by one statement: all of them, or, where one is in the way of all, each by itself. */
async function acceptRows(pool: Pool, rows: Row[]): Promise<Stored[]> {
  try {
    // Each row is stored once by its keys.
    await retryWhileUnavailable(() => executePlainly(pool, acceptStatement(rows.length), rows.flat()));
    return rows.map(() => ({ stored: true }));
  } catch (error) {
    if (isAway(error)) return rows.map(() => ({ error }));
    if (rows.length > 1) return (await Promise.all(rows.map((row) => acceptRows(pool, [row])))).flat();
    return [errorNumber(error) === DUPLICATE_ENTRY ? { stored: false } : { error }];
  }
}

/** What stores rows together that come at the same time. */
function acceptingOf(pool: Pool): (row: Row) => Promise<Stored> {
  const known = accepting.get(pool) ?? batchCalls((rows: Row[]) => acceptRows(pool, rows), TOGETHER);
  accepting.set(pool, known);
  return known;
}

/** Under which the same content stands if it comes again in the same stretch of time, which a unique index forbids. */
const repeatKey = (contentHash: string, at: number): string => `${contentHash}.${Math.floor(at / REPEAT_WITHIN_MS)}`;

/** Under which what its sender names stands: it comes once, and never again. */
const NAMED = '.named';

const keyOf = (contentHash: string, at: number, isNamed: boolean): string =>
  isNamed ? contentHash + NAMED : repeatKey(contentHash, at);

/** What was set aside stands apart: it must not make a repeat of what the person themselves sends afterwards. */
const ASIDE = '.aside';

/**
 * Stores a submission durably, unless the same one came in this stretch of time. One that came at the end of the stretch
 * before is found by `absorbRepeat`, later, so that no visitor waits for the search. Those that come at the same time go by
 * one statement; a prepared one on the bare driver, for the same reason.
 * @returns false when it is a repeat; nothing is stored then
 */
export async function acceptSubmission({ pool }: Store, submission: NewSubmission): Promise<boolean> {
  const { id, sourceId, sourceVersion, receivedAt, raw, arrivalId, values, visit, contentHash, personKey } = submission;
  const { suspicion, tookSeconds } = submission;
  const state: SubmissionState = suspicion ? 'set aside' : 'received';
  const key = keyOf(contentHash, receivedAt, submission.isNamed) + (suspicion ? ASIDE : '');
  const start = [id, sourceId, sourceVersion, receivedAt, state];
  const json = [JSON.stringify(raw), arrivalId, JSON.stringify(values)];
  const came = VISIT_PARTS.map((part) => visit[part] ?? null);
  const rest = [key, personKey, suspicion, tookSeconds, receivedAt];
  const outcome = await acceptingOf(pool)([...start, ...json, ...rest, ...came]);
  if ('error' in outcome) throw outcome.error;
  return outcome.stored;
}

/** The submissions of a source that came under names, by the hashes of those; with whom they are of. */
export const namedSubmissions = (
  db: Db,
  sourceId: string,
  contentHashes: string[],
): Promise<{ id: string; state: SubmissionState; contactId: string | null; undoneAt: number | null }[]> =>
  db
    .select({
      id: submissions.id,
      state: submissions.state,
      contactId: submissions.contactId,
      undoneAt: submissions.undoneAt,
    })
    .from(submissions)
    .where(
      and(
        eq(submissions.sourceId, sourceId),
        inArray(
          submissions.repeatKey,
          contentHashes.map((one) => one + NAMED),
        ),
      ),
    )
    .orderBy(asc(submissions.id));

/** The earlier submission of a source that stands for the same request; null when there is none. */
export async function findEarlier(
  db: Db,
  request: Pick<NewSubmission, 'sourceId' | 'contentHash' | 'receivedAt' | 'isNamed'>,
  isSetAside: boolean,
): Promise<{ id: string; values: FieldValues } | null> {
  const { sourceId, contentHash, receivedAt, isNamed } = request;
  const key = keyOf(contentHash, receivedAt, isNamed) + (isSetAside ? ASIDE : '');
  const [earlier] = await db
    .select({ id: submissions.id, values: submissions.values })
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), eq(submissions.repeatKey, key)));
  return earlier ?? null;
}

/** Notes on an earlier submission that the same request came again. */
export async function countRepeat(db: Db, id: string, now: number): Promise<void> {
  await db
    .update(submissions)
    .set({ repeats: sql`repeats + 1`, lastRepeatAt: now })
    .where(eq(submissions.id, id));
}

/**
 * Finds out which submissions repeat one of the stretch of time before. They are counted on those and taken away, as they
 * would have been refused had they come a moment earlier.
 * @returns the ids of those that are gone
 */
export async function absorbRepeats(db: Db, taken: SubmissionRecord[]): Promise<Set<string>> {
  const gone = new Set<string>();
  if (taken.length === 0) return gone;
  const before = (submission: SubmissionRecord) => {
    const [contentHash = ''] = submission.repeatKey.split('.');
    return repeatKey(contentHash, submission.receivedAt - REPEAT_WITHIN_MS);
  };
  const earlier = await db
    .select({
      id: submissions.id,
      sourceId: submissions.sourceId,
      key: submissions.repeatKey,
      at: submissions.receivedAt,
      values: submissions.values,
    })
    .from(submissions)
    .where(
      and(
        inArray(submissions.sourceId, [...new Set(taken.map(({ sourceId }) => sourceId))]),
        inArray(submissions.repeatKey, taken.map(before)),
      ),
    );
  for (const submission of taken) {
    const { id, sourceId, receivedAt } = submission;
    const first = earlier.find((other) => other.sourceId === sourceId && other.key === before(submission));
    // A caller's own name for its request may have been used for something else before.
    if (first && JSON.stringify(first.values) !== JSON.stringify(submission.values)) continue;
    if (!first || first.at <= receivedAt - REPEAT_WITHIN_MS) continue;
    await countRepeat(db, first.id, receivedAt);
    await db.delete(submissions).where(eq(submissions.id, id));
    gone.add(id);
  }
  return gone;
}

/** Has what a person sends from now on count as new, also when they sent the very same shortly before. */
export async function endRepeats(db: Db, contactId: string, now: number): Promise<void> {
  await db.execute(
    sql`UPDATE submissions SET repeat_key = id WHERE id >= ${firstIdAt(now - 2 * REPEAT_WITHIN_MS)} AND contact_id IN ${samePerson(contactId)}
      AND repeat_key NOT LIKE ${`%${NAMED}`}`,
  );
}

export type SubmissionRecord = typeof submissions.$inferSelect;

/** How a submission came, out of its columns. */
export const visitOf = (record: Pick<SubmissionRecord, VisitPart>): Visit =>
  Object.fromEntries(VISIT_PARTS.flatMap((part) => (record[part] === null ? [] : [[part, record[part]]])));

/** Notes that a colleague answered. @returns false where one did before, and nothing changed */
export async function noteReplied(db: Db, id: string, at: number, by: string): Promise<boolean> {
  const result = await db
    .update(submissions)
    .set({ repliedAt: at, repliedBy: by })
    .where(and(eq(submissions.id, id), isNull(submissions.repliedAt)));
  return changedRows(result) === 1;
}

export async function findSubmission(db: Db, id: string): Promise<SubmissionRecord | null> {
  const [row] = await db.select().from(submissions).where(eq(submissions.id, id));
  return row ?? null;
}

/** Those of the submissions that still have to be planned, in order of their coming; nobody else can plan them meanwhile. */
export async function lockUnplanned(db: Db, ids: string[]): Promise<SubmissionRecord[]> {
  return db
    .select()
    .from(submissions)
    .where(and(inArray(submissions.id, ids), eq(submissions.state, 'received')))
    .orderBy(asc(submissions.id))
    .for('update');
}

const sends = (plan: Plan): boolean => deliveriesIn(plan).length + mailsIn(plan).length > 0;

/** Stores the plans of submissions that were locked. */
export async function endPlanning(
  db: Db,
  planned: { id: string; plan: Plan; contactId: string | null }[],
): Promise<void> {
  if (planned.length === 0) return;
  const ids = planned.map(({ id }) => id);
  await db
    .update(submissions)
    .set({
      state: 'planned',
      plan: byId(
        ids,
        planned.map(({ plan }) => JSON.stringify(plan)),
      ),
      contactId: byId(
        ids,
        planned.map(({ contactId }) => contactId),
      ),
      sendsNothing: byId(
        ids,
        planned.map(({ plan, contactId }) => (contactId === null || !sends(plan) ? '1' : null)),
      ),
      leaseUntil: 0,
      leaseOwner: null,
    })
    .where(sql`id IN ${oneOf(ids)}`);
}

/** The submissions whose deliveries wait for a confirmation, and the one that asked for it, oldest first. */
export async function submissionsOfConfirmation(
  db: Db,
  { id, submissionId }: { id: string; submissionId: string },
): Promise<SubmissionRecord[]> {
  const waiting = db.select({ id: deliveries.submissionId }).from(deliveries).where(eq(deliveries.confirmationId, id));
  return db
    .select()
    .from(submissions)
    .where(or(eq(submissions.id, submissionId), inArray(submissions.id, waiting)))
    .orderBy(asc(submissions.id));
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

/**
 * Lets a submission through that was set aside or failed.
 * @returns why it was not: it is neither, or the person sent the same again, which was taken
 */
export async function releaseSubmission(
  db: Db,
  id: string,
  now: number,
): Promise<'released' | 'neither' | 'came again'> {
  try {
    const [result] = await db
      .update(submissions)
      .set({
        state: 'received',
        repeatKey: sql`REPLACE(repeat_key, ${ASIDE}, '')`,
        dueAt: now,
        tries: 0,
        failure: null,
        leaseUntil: 0,
        leaseOwner: null,
      })
      .where(and(eq(submissions.id, id), sql`state IN ('set aside', 'failed')`));
    return result.affectedRows === 1 ? 'released' : 'neither';
  } catch (error) {
    if (errorNumber(error) === DUPLICATE_ENTRY) return 'came again';
    throw error;
  }
}

/** Every column but what came and what was planned: both are long, and samples need neither. */
const { raw: _raw, plan: _plan, ...WITHOUT_LONG } = getTableColumns(submissions);

/** The newest submissions of a source, as samples to map with. */
export async function readSamples(db: Db, sourceId: string, limit: number): Promise<SampleView[]> {
  const rows = await db
    .select(WITHOUT_LONG)
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), eq(submissions.state, 'planned')))
    .orderBy(desc(submissions.id))
    .limit(limit);
  return rows.map((row) => ({
    id: row.id,
    receivedAt: new Date(row.receivedAt).toISOString(),
    values: row.values,
    visit: visitOf(row),
  }));
}

/** By which of several sources something came of a person. */
export async function sourcesOf(db: Db, contactId: string, sourceIds: string[]): Promise<Set<string>> {
  const rows = await db
    .selectDistinct({ sourceId: submissions.sourceId })
    .from(submissions)
    .where(and(sql`${submissions.contactId} IN ${samePerson(contactId)}`, inArray(submissions.sourceId, sourceIds)));
  return new Set(rows.map(({ sourceId }) => sourceId));
}
