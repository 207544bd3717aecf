import { and, desc, eq, gt, inArray, isNotNull, lt, sql, type SQL } from 'drizzle-orm';
import type { RawSubmission } from '../../core/intake/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import { changedRows, rowsOf, type Db } from './database.ts';
import { arrivals, notedArrivals, sourceSecrets, sourceShapes, submissions } from './schema/index.ts';

/** So many of what came are kept to be looked at, of each address. */
export const ARRIVALS_SHOWN = 200;

export type SourceSecret = typeof sourceSecrets.$inferSelect;

/** The sealed secret of a source, and since when; null while there is none. */
export async function readSourceSecret(db: Db, sourceId: string): Promise<SourceSecret | null> {
  const [row] = await db.select().from(sourceSecrets).where(eq(sourceSecrets.sourceId, sourceId));
  return row ?? null;
}

/** @param formerUntil until when the one of before is let in; 0 for not at all */
export async function setSourceSecret(
  db: Db,
  sourceId: string,
  { secret, setAt, formerUntil = 0 }: { secret: string; setAt: number; formerUntil?: number },
): Promise<void> {
  const before = formerUntil === 0 ? null : await readSourceSecret(db, sourceId);
  const row = { secret, setAt, former: before?.secret ?? null, formerUntil: before ? formerUntil : 0 };
  await db
    .insert(sourceSecrets)
    .values({ sourceId, ...row })
    .onDuplicateKeyUpdate({ set: row });
}

/** Lets the secret of before in no more. @returns false where there is none */
export async function endFormerSecret(db: Db, sourceId: string): Promise<boolean> {
  const result = await db
    .update(sourceSecrets)
    .set({ former: null, formerUntil: 0 })
    .where(and(eq(sourceSecrets.sourceId, sourceId), isNotNull(sourceSecrets.former)));
  return changedRows(result) === 1;
}

export type NotedArrival = typeof notedArrivals.$inferSelect;

export async function noteArrival(db: Db, arrival: NotedArrival): Promise<void> {
  await db.insert(notedArrivals).values(arrival);
}

/** Whether it has a payload that stands nowhere else: what was taken, or came again, is with its submissions. */
export const isOfItsOwn = ({ outcome, body }: Pick<NotedArrival, 'outcome' | 'body'>): boolean =>
  body !== '' && outcome !== 'repeated' && outcome !== 'taken';

/** Notes what became of something that was noted, once somebody had it taken after all. */
export async function setNotedOutcome(
  db: Db,
  id: string,
  part: Pick<NotedArrival, 'outcome' | 'why' | 'submissions'>,
): Promise<void> {
  await db.update(notedArrivals).set(part).where(eq(notedArrivals.id, id));
}

/** What was noted of a source, the newest first. */
export const listNoted = (db: Db, sourceId: string): Promise<NotedArrival[]> =>
  db
    .select()
    .from(notedArrivals)
    .where(eq(notedArrivals.sourceId, sourceId))
    .orderBy(desc(notedArrivals.id))
    .limit(ARRIVALS_SHOWN);

export async function findNoted(db: Db, sourceId: string, id: string): Promise<NotedArrival | null> {
  const [row] = await db
    .select()
    .from(notedArrivals)
    .where(and(eq(notedArrivals.sourceId, sourceId), eq(notedArrivals.id, id)));
  return row ?? null;
}

/** What became submissions, as it came: several by one arrival are one. */
export interface TakenArrival {
  id: string;
  receivedAt: number;
  /** The submissions in it, in their order. */
  submissions: string[];
  raw: RawSubmission;
}

/** So many submissions are looked through for the arrivals that they came by. */
const LOOKED_THROUGH = 1_000;

/** What a source took, the newest first. @param id one of its submissions: that arrival alone */
export async function listTaken(db: Db, sourceId: string, id?: string): Promise<TakenArrival[]> {
  const rows = await db
    .select({ id: submissions.id, receivedAt: submissions.receivedAt, arrivalId: submissions.arrivalId })
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), id === undefined ? undefined : eq(submissions.id, id)))
    .orderBy(desc(submissions.id))
    .limit(id === undefined ? LOOKED_THROUGH : 1);
  const byArrival = [...groupBy(rows, (row) => row.arrivalId ?? row.id).values()].slice(0, ARRIVALS_SHOWN);
  const newest = byArrival.flatMap(([row]) => (row ? [row] : []));
  const [own, together] = await Promise.all([
    readRaws(
      db,
      newest.map((row) => row.id),
    ),
    readArrivals(
      db,
      newest.flatMap(({ arrivalId }) => (arrivalId === null ? [] : [arrivalId])),
    ),
  ]);
  return byArrival.flatMap((ofOne) => {
    const [row] = ofOne;
    const raw = row && (together.get(row.arrivalId ?? '') ?? own.get(row.id));
    return raw
      ? [{ id: row.id, receivedAt: row.receivedAt, submissions: ofOne.map((one) => one.id).reverse(), raw }]
      : [];
  });
}

async function readRaws(db: Db, ids: string[]): Promise<Map<string, RawSubmission>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ id: submissions.id, raw: submissions.raw })
    .from(submissions)
    .where(inArray(submissions.id, ids));
  return new Map(rows.map(({ id, raw }) => [id, raw]));
}

async function readArrivals(db: Db, ids: string[]): Promise<Map<string, RawSubmission>> {
  if (ids.length === 0) return new Map();
  const rows = await db.select({ id: arrivals.id, raw: arrivals.raw }).from(arrivals).where(inArray(arrivals.id, ids));
  return new Map(rows.map(({ id, raw }) => [id, raw]));
}

/** Forgets what was noted beyond what is shown of each source, so many at a time. */
export async function forgetNoted(db: Db, most: number): Promise<void> {
  const over = await rowsOf<{ sourceId: string }>(
    db,
    sql`SELECT source_id AS sourceId FROM noted_arrivals GROUP BY source_id HAVING COUNT(*) > ${ARRIVALS_SHOWN}`,
  );
  for (const { sourceId } of over) {
    const [end] = await db
      .select({ id: notedArrivals.id })
      .from(notedArrivals)
      .where(eq(notedArrivals.sourceId, sourceId))
      .orderBy(desc(notedArrivals.id))
      .limit(1)
      .offset(ARRIVALS_SHOWN - 1);
    if (end)
      await db
        .delete(notedArrivals)
        .where(and(eq(notedArrivals.sourceId, sourceId), lt(notedArrivals.id, end.id)))
        .limit(most);
  }
}

export type Learnt = typeof sourceShapes.$inferSelect;

const NOTHING_READ = '';

/** What was learnt of a source. */
export async function readLearnt(db: Db, sourceId: string): Promise<Learnt> {
  const [row] = await db.select().from(sourceShapes).where(eq(sourceShapes.sourceId, sourceId));
  return row ?? { sourceId, submissionId: NOTHING_READ, notedId: NOTHING_READ, kinds: {}, gone: [] };
}

/** Stores what was learnt. @returns false where another worker did so meanwhile, and nothing was stored */
export async function saveLearnt(db: Db, before: Learnt, after: Learnt): Promise<boolean> {
  const { submissionId, notedId, kinds, gone } = after;
  if (before.submissionId === NOTHING_READ && before.notedId === NOTHING_READ) {
    const result = await db.insert(sourceShapes).ignore().values(after);
    return changedRows(result) === 1;
  }
  const result = await db
    .update(sourceShapes)
    .set({ submissionId, notedId, kinds, gone })
    .where(
      and(
        eq(sourceShapes.sourceId, before.sourceId),
        eq(sourceShapes.submissionId, before.submissionId),
        eq(sourceShapes.notedId, before.notedId),
      ),
    );
  return changedRows(result) === 1;
}

/** What does not come any more to which source. */
export async function readGone(db: Db): Promise<Map<string, Learnt['gone']>> {
  const rows = await db
    .select({ sourceId: sourceShapes.sourceId, gone: sourceShapes.gone })
    .from(sourceShapes)
    .where(sql`${sourceShapes.gone} <> '[]'`);
  return new Map(rows.map(({ sourceId, gone }) => [sourceId, gone]));
}

/** What is not read yet of what came to a source, oldest first. */
export async function listUnread(db: Db, { sourceId, submissionId, notedId }: Learnt, most: number) {
  const taken = await db
    .select({ id: submissions.id, at: submissions.receivedAt, raw: submissions.raw, arrivalId: submissions.arrivalId })
    .from(submissions)
    .where(and(eq(submissions.sourceId, sourceId), gt(submissions.id, submissionId)))
    .orderBy(submissions.id)
    .limit(most);
  const noted = await db
    .select()
    .from(notedArrivals)
    .where(and(eq(notedArrivals.sourceId, sourceId), gt(notedArrivals.id, notedId)))
    .orderBy(notedArrivals.id)
    .limit(most);
  const raws = await readArrivals(
    db,
    taken.flatMap(({ arrivalId }) => (arrivalId === null ? [] : [arrivalId])),
  );
  return {
    noted,
    taken: taken.map((one) => ({
      ...one,
      raw: (one.arrivalId === null ? undefined : raws.get(one.arrivalId)) ?? one.raw,
    })),
  };
}

/** Forgets everything about what came to a source that is deleted. */
export async function forgetWebhook(db: Db, sourceId: string): Promise<void> {
  for (const table of [sourceSecrets, notedArrivals, sourceShapes])
    await db.delete(table).where(eq(table.sourceId, sourceId));
}

/** The ids of the addresses for programs to which something came that was not read yet. */
export async function listUnreadWebhooks(db: Db): Promise<string[]> {
  const newer = (table: SQL, read: SQL) =>
    sql`EXISTS (SELECT 1 FROM ${table} came WHERE came.source_id = src.id AND came.id > COALESCE(${read}, ''))`;
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT src.id FROM sources src LEFT JOIN source_shapes shape ON shape.source_id = src.id
      WHERE src.archived_at IS NULL AND JSON_VALUE(src.draft, '$.kind') IN ('posts', 'registration')
        AND (${newer(sql`submissions`, sql`shape.submission_id`)} OR ${newer(sql`noted_arrivals`, sql`shape.noted_id`)})`,
  );
  return rows.map(({ id }) => id);
}
