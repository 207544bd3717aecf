import { eq, sql, type SQL } from 'drizzle-orm';
import {
  addedUp,
  cameBy,
  countsOf,
  coverOf,
  DIMENSIONS,
  hostOf,
  saidByMedium,
  spanOf,
  STRETCHES,
  type Count,
  type CountedEvent,
  type CountedWhat,
  type Dimension,
  type SiteKind,
} from '../../core/insight/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import type { VisitPart } from '../../core/intake/index.ts';
import { insertRows, oneOf, rowsOf, type Db } from './database.ts';
import { DAY_MS } from './figures.ts';
import { deliveryCounts, formCounts, formEvents } from './schema/index.ts';
import { readSiteKinds } from './siteKinds.ts';

export type FormEvent = Omit<typeof formEvents.$inferInsert, 'countedBy'>;

/** Notes what happened at forms; what was noted before is not noted twice. */
export async function noteEvents(db: Db, events: FormEvent[]): Promise<void> {
  // Where nobody came from another site, nobody asks what sites are.
  const came = events.some(({ referrer }) => referrer);
  const kinds = came ? await readSiteKinds(db) : new Map<string, SiteKind>();
  // Whatever a campaign says of itself counts before that.
  const known = events.map((event) => {
    const kind = kinds.get(event.referrer ?? '');
    const isOpen = event.cameBy !== 'inside' && saidByMedium(event.medium ?? '') === null;
    return kind && isOpen ? { ...event, cameBy: kind } : event;
  });
  await insertRows(db, formEvents, known, sql`subject = form_events.subject`);
}

/** Notes that submissions were completed: they came, and are no robot's. */
export const noteCompleted = (db: Db, submissions: CompletedSubmission[]): Promise<void> =>
  noteEvents(
    db,
    submissions.flatMap((submission) => {
      const { id, sourceId, receivedAt, tookSeconds } = submission;
      const own = { subject: id, sourceId, at: receivedAt, ...visitColumns(submission) };
      const took = { ...own, what: 'took' as const, question: spanOf(tookSeconds ?? 0) };
      return [{ ...own, what: 'completed' as const, question: '' }, ...(tookSeconds === null ? [] : [took])];
    }),
  );

/** Notes by which ways submissions went through their forms. */
export const noteWays = (db: Db, taken: { submission: CompletedSubmission; ways: string[] }[]): Promise<void> =>
  noteEvents(
    db,
    taken.flatMap(({ submission, ways }) => {
      const { id, sourceId, receivedAt } = submission;
      const how = visitColumns(submission);
      return ways.map((question) => ({
        subject: id,
        what: 'way' as const,
        question,
        sourceId,
        at: receivedAt,
        ...how,
      }));
    }),
  );

type CompletedSubmission = Parameters<typeof visitColumns>[0] & {
  id: string;
  sourceId: string;
  receivedAt: number;
  tookSeconds: number | null;
};

/** How somebody came, as counts are kept apart by it. */
export function visitColumns(visit: { [part in VisitPart]?: string | null }) {
  const { page, device, campaign, source, medium, term, content, variant, referrer } = visit;
  return {
    page: page ?? '',
    device: device ?? '',
    campaign: campaign ?? '',
    source: source ?? '',
    medium: medium ?? '',
    term: term ?? '',
    content: content ?? '',
    variant: variant ?? '',
    referrer: hostOf(referrer ?? '').slice(0, 120),
    cameBy: cameBy(medium ?? '', referrer ?? '', page ?? ''),
  };
}

/** What became of completed submissions, or of showings, and what was noted of those before. */
const AFTER = {
  confirmed: 'completed',
  delivered: 'completed',
  downloaded: 'completed',
  replied: 'completed',
  reached: 'shown',
} as const satisfies Partial<Record<CountedWhat, CountedWhat>>;

/**
 * Notes what became of completed submissions, or of showings, once each. It counts for when they came, so that of those who
 * came, as many or fewer went on.
 * @param question by what it is told further; '' for nothing
 */
export async function noteProgress(db: Db, what: keyof typeof AFTER, subjects: string[], question = ''): Promise<void> {
  if (subjects.length === 0) return;
  const copied = sql`source_id, at, page, device, campaign, campaign_source, campaign_medium, campaign_term, campaign_content, referrer, came_by, variant`;
  await db.execute(
    sql`INSERT INTO form_events (subject, what, question, ${copied})
      SELECT subject, ${what}, ${question}, ${copied} FROM form_events e
      WHERE e.subject IN ${oneOf(subjects)} AND e.what = ${AFTER[what]}
      ON DUPLICATE KEY UPDATE subject = form_events.subject`,
  );
}

/** In so many rows each figure of deliveries is kept. */
const SHARES = 8;

/** Notes that deliveries arrived, for their submissions and for their ways through their routes. */
export async function noteDelivered(db: Db, deliveryIds: string[], now: number): Promise<void> {
  if (deliveryIds.length === 0) return;
  const rows = await rowsOf<{ id: string; routeId: string; sourceId: string; connectionId: string }>(
    db,
    sql`SELECT d.submission_id AS id, d.route_id AS routeId, s.source_id AS sourceId, d.connection_id AS connectionId
      FROM deliveries d STRAIGHT_JOIN submissions s ON s.id = d.submission_id WHERE d.id IN ${oneOf(deliveryIds)}`,
  );
  await noteProgress(db, 'delivered', [...new Set(rows.map(({ id }) => id))]);
  const day = Math.floor(now / DAY_MS);
  const share = Math.floor(Math.random() * SHARES);
  const byWay = groupBy(rows, ({ routeId, sourceId, connectionId }) => `${routeId} ${sourceId} ${connectionId}`);
  // In the order of the key, so that two that share rows lock them in the same order.
  const inOrder = [...byWay].sort(([a], [b]) => (a < b ? -1 : 1));
  const counts = inOrder.flatMap(([, ways]) =>
    ways.slice(0, 1).map(({ routeId, sourceId, connectionId }) => {
      const delivered = ways.length;
      return { day, routeId, sourceId, connectionId, share, delivered };
    }),
  );
  await insertRows(db, deliveryCounts, counts, sql`delivered = delivery_counts.delivered + VALUES(delivered)`);
}

const COLUMNS: Record<Exclude<Dimension, 'all'>, SQL> = {
  page: sql`page`,
  device: sql`device`,
  campaign: sql`campaign`,
  source: sql`campaign_source`,
  medium: sql`campaign_medium`,
  term: sql`campaign_term`,
  content: sql`campaign_content`,
  referrer: sql`referrer`,
  cameBy: sql`came_by`,
  variant: sql`variant`,
  question: sql`question`,
};

/** Whether a submission `s` was counted as something, by one thing with a value: the very ones that a figure is of. */
export const wasCounted = (what: CountedWhat, dimension: Dimension, value: string): SQL =>
  sql`(SELECT 1 FROM form_events e FORCE INDEX (PRIMARY) WHERE e.subject = s.id AND e.what = ${what}
    ${dimension === 'all' ? sql`` : sql`AND e.${COLUMNS[dimension]} = ${value}`} LIMIT 1) = 1`;

/**
 * Adds a part of what was noted and is not counted yet to the counts, as one rollup. In one transaction with its caller's: it is counted
 * once, whatever happens.
 * @param rollupId an id of its own, by which the rows are marked
 * @returns how many were counted
 */
export async function countEvents(db: Db, rollupId: string, most: number): Promise<number> {
  const [result] = (await db.execute(
    sql`UPDATE form_events SET counted_by = ${rollupId} WHERE counted_by IS NULL LIMIT ${sql.raw(String(most))}`,
  )) as unknown as [{ affectedRows: number }];
  if (result.affectedRows > 0) await addCounts(db, rollupId);
  return result.affectedRows;
}

/** Under this name everything is counted once more, whichever source it is of. */
const EVERY = '';

/** Adds what is marked with a rollup's id to the counts. */
export async function addCounts(db: Db, rollupId: string): Promise<void> {
  const names = sql.join(
    Object.entries(COLUMNS).map(([dimension, column]) => sql`${column} AS ${sql.identifier(dimension)}`),
    sql`, `,
  );
  const byHour = countsOf(
    await rowsOf<CountedEvent>(
      db,
      sql`SELECT source_id AS sourceId, what, at, ${names} FROM form_events WHERE counted_by = ${rollupId}`,
    ),
  );
  const everyHour = [...byHour, ...addedUp(byHour, () => ({ sourceId: EVERY }))];
  for (const hours of STRETCHES) {
    const counts = addedUp(everyHour, ({ at }) => ({ at: Math.floor(at / hours) }));
    for (const piece of inPieces(inOrder(counts)))
      await insertRows(
        db,
        formCounts,
        piece.map(({ at: stretch, ...count }) => ({ hours, ...count, stretch })),
        sql`count = count + VALUES(count)`,
      );
  }
}

/** So many rows are counted by one statement. */
const COUNTED_TOGETHER = 2_000;

function* inPieces<Item>(items: Item[]): Generator<Item[]> {
  for (let at = 0; at < items.length; at += COUNTED_TOGETHER) yield items.slice(at, at + COUNTED_TOGETHER);
}

/** In the order of the key, so that two rollups lock the rows that they share in the same order. */
function inOrder(counts: Count[]): Count[] {
  const keyOf = ({ dimension, sourceId, at, value, what }: Count) =>
    [dimension, sourceId, String(at).padStart(8), value, what].join('\n');
  const keys = new Map(counts.map((count) => [count, keyOf(count)]));
  const rank = (count: Count) => keys.get(count) ?? '';
  return [...counts].sort((one, other) => (rank(one) < rank(other) ? -1 : 1));
}

/** Forgets what is counted and old; the counts stay. */
export async function forgetEvents(db: Db, before: number, most: number): Promise<void> {
  await db.execute(
    sql`DELETE FROM form_events WHERE at < ${before} AND counted_by IS NOT NULL LIMIT ${sql.raw(String(most))}`,
  );
}

/** Whose counts are asked for, by what, from an hour on up to another one (not with it). */
export interface Counted {
  dimension: Dimension;
  /** 'every': all sources together. */
  sourceIds: string[] | 'every';
  fromHour: number;
  toHour: number;
}

/** Sums over a stretch of time. @param per what each sum is of: one source, or one value of all of them together */
export async function readSums(
  db: Db,
  per: 'source' | 'value',
  counted: Counted,
): Promise<{ of: string; what: CountedWhat; count: number }[]> {
  const rows = await readAddedUp(db, counted, [per], []);
  return rows.map(({ sourceId, value, what, count }) => ({ of: per === 'source' ? sourceId : value, what, count }));
}

/** How long things took at sources, over a stretch of time, by stretches. */
export async function readSpans(
  db: Db,
  over: Omit<Counted, 'dimension'>,
): Promise<{ sourceId: string; what: CountedWhat; span: string; count: number }[]> {
  const counted: Counted = { ...over, dimension: 'question' };
  const rows = await readAddedUp(db, counted, ['source', 'value'], ['took', 'replied']);
  return rows.map(({ value, ...row }) => ({ ...row, span: value }));
}

type Sum = Omit<Count, 'at' | 'dimension'>;

/** Sums, in one look: what is added while it is read is in all of it or in nothing. */
async function readAddedUp(
  db: Db,
  { dimension, sourceIds, fromHour, toHour }: Counted,
  per: ('source' | 'value')[],
  only: CountedWhat[],
): Promise<Sum[]> {
  const covers = coverOf(fromHour, toHour);
  if (sourceIds.length === 0 || covers.length === 0) return [];
  const sourceId = per.includes('source') ? sql`source_id` : sql`''`;
  const value = per.includes('value') ? sql`value` : sql`''`;
  // Values are long, and adding them up here is quicker than the database's sorting them.
  const sums = per.includes('value')
    ? { count: sql`count`, by: sql`` }
    : { count: sql`SUM(count)`, by: sql`GROUP BY 1, 3` };
  const parts = covers.map(
    ({
      hours,
      from,
      to,
      sign,
    }) => sql`(SELECT ${sourceId} AS sourceId, ${value} AS value, what, ${sign} * ${sums.count} AS count
      FROM form_counts WHERE hours = ${hours} AND dimension = ${dimension} AND ${ofSources(sourceIds)}
        AND stretch >= ${from} AND stretch < ${to} ${only.length > 0 ? sql`AND what IN ${oneOf(only)}` : sql``} ${sums.by})`,
  );
  const rows = await rowsOf<Omit<Sum, 'count'> & { count: string }>(db, sql.join(parts, sql` UNION ALL `));
  return addedUp(rows.map((row) => ({ ...row, dimension, at: 0, count: Number(row.count) }))).filter(
    ({ count }) => count > 0,
  );
}

const ofSources = (ids: string[] | 'every'): SQL =>
  ids === 'every' ? sql`source_id = ${EVERY}` : sql`source_id IN ${oneOf(ids)}`;

/** What happened hour by hour, from the first to the last. */
export async function readHours(
  db: Db,
  { dimension, sourceIds, fromHour, toHour }: Counted,
  only: CountedWhat[],
): Promise<{ hour: number; what: CountedWhat; count: number }[]> {
  if (sourceIds.length === 0) return [];
  const rows = await rowsOf<{ hour: number; what: CountedWhat; count: string }>(
    db,
    sql`SELECT stretch AS hour, what, SUM(count) AS count FROM form_counts
      WHERE hours = 1 AND dimension = ${dimension} AND ${ofSources(sourceIds)} AND stretch >= ${fromHour}
        AND stretch < ${toHour} AND what IN ${oneOf(only)}
      GROUP BY stretch, what ORDER BY stretch`,
  );
  return rows.map((row) => ({ ...row, count: Number(row.count) }));
}

/** How many completed in each hour of the day (UTC), of each source. @returns by source, by hour; nothing where there were none */
export async function readDayHours(
  db: Db,
  { sourceIds, fromHour, toHour }: Pick<Counted, 'fromHour' | 'toHour'> & { sourceIds: string[] },
): Promise<Map<string, Map<number, number>>> {
  if (sourceIds.length === 0) return new Map();
  const rows = await rowsOf<{ source: string; hour: number; count: string }>(
    db,
    sql`SELECT source_id AS source, MOD(stretch, 24) AS hour, SUM(count) AS count FROM form_counts
      WHERE hours = 1 AND dimension = 'all' AND ${ofSources(sourceIds)} AND stretch >= ${fromHour}
        AND stretch < ${toHour} AND what = 'completed'
      GROUP BY source_id, MOD(stretch, 24)`,
  );
  return new Map(
    [...groupBy(rows, ({ source }) => source)].map(([source, own]) => [
      source,
      new Map(own.map(({ hour, count }) => [hour, Number(count)])),
    ]),
  );
}

/** In which hour since one the first of each source was counted. */
export async function firstCounted(db: Db, sourceIds: string[], fromHour: number): Promise<Map<string, number>> {
  if (sourceIds.length === 0) return new Map();
  const rows = await rowsOf<{ source: string; hour: number }>(
    db,
    sql`SELECT source_id AS source, MIN(stretch) AS hour FROM form_counts
      WHERE hours = 1 AND dimension = 'all' AND ${ofSources(sourceIds)} AND stretch >= ${fromHour} GROUP BY source_id`,
  );
  return new Map(rows.map(({ source, hour }) => [source, hour]));
}

/** What was counted of a source by one thing, from a day (UTC, since 1970) on, in the order of days. */
export const readDays = (
  db: Db,
  { dimension, sourceId, fromDay }: { dimension: Dimension; sourceId: string; fromDay: number },
): Promise<{ day: number; value: string; what: CountedWhat; count: number }[]> =>
  db
    .select({ day: formCounts.stretch, value: formCounts.value, what: formCounts.what, count: formCounts.count })
    .from(formCounts)
    .where(sql`hours = 24 AND dimension = ${dimension} AND source_id = ${sourceId} AND stretch >= ${fromDay}`)
    .orderBy(formCounts.stretch);

/** Takes what was counted of a source out of what was counted of all of them, and forgets it. */
export async function forgetCounts(db: Db, sourceId: string): Promise<void> {
  const own = sql`own.hours IN ${oneOf([...STRETCHES])} AND own.dimension IN ${oneOf([...DIMENSIONS])} AND own.source_id = ${sourceId}`;
  await db.execute(
    sql`UPDATE form_counts own STRAIGHT_JOIN form_counts every ON every.hours = own.hours AND every.dimension = own.dimension
        AND every.source_id = ${EVERY} AND every.stretch = own.stretch AND every.value = own.value AND every.what = own.what
      SET every.count = every.count - own.count WHERE ${own}`,
  );
  await db.execute(sql`DELETE own FROM form_counts own WHERE ${own}`);
  await db.delete(formEvents).where(eq(formEvents.sourceId, sourceId));
}

/** When each source last brought something, whatever became of it. Milliseconds since 1970. */
export async function readLastReceived(db: Db, sourceIds: string[]): Promise<Map<string, number>> {
  if (sourceIds.length === 0) return new Map();
  const rows = await rowsOf<{ id: string; at: number | null }>(
    db,
    sql`SELECT s.id, (SELECT received_at FROM submissions WHERE source_id = s.id ORDER BY id DESC LIMIT 1) AS at
      FROM sources s WHERE s.id IN ${oneOf(sourceIds)}`,
  );
  return new Map(rows.flatMap(({ id, at }): [string, number][] => (at === null ? [] : [[id, at]])));
}
