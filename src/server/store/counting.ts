import { sql, type SQL } from 'drizzle-orm';
import {
  cameBy,
  DIMENSIONS,
  hostOf,
  saidByMedium,
  spanOf,
  TOLD_ALONE,
  type CountedWhat,
  type Dimension,
  type SiteKind,
} from '../../core/insight/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import type { VisitPart } from '../../core/intake/index.ts';
import { insertRows, oneOf, rowsOf, type Db } from './database.ts';
import { DAY_MS, HOUR_MS } from './figures.ts';
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
 * Adds a stroke of what was noted and is not counted yet to the counts. In one transaction with its caller's: it is counted
 * once, whatever happens.
 * @param stroke an id of its own
 * @returns how many were counted
 */
export async function countEvents(db: Db, stroke: string, most: number): Promise<number> {
  const [result] = (await db.execute(
    sql`UPDATE form_events SET counted_by = ${stroke} WHERE counted_by IS NULL LIMIT ${sql.raw(String(most))}`,
  )) as unknown as [{ affectedRows: number }];
  if (result.affectedRows === 0) return 0;
  const each = DIMENSIONS.map((dimension) => {
    const value = dimension === 'all' ? sql`''` : COLUMNS[dimension];
    const only = dimension === 'all' ? sql`` : sql`AND ${value} <> ''`;
    const counted = dimension === 'question' ? sql`` : sql`AND what NOT IN ${oneOf([...TOLD_ALONE])}`;
    return sql`SELECT ${dimension} AS dimension, source_id, FLOOR(at / ${HOUR_MS}) AS hour, ${value} AS value, what, COUNT(*) AS count
      FROM form_events WHERE counted_by = ${stroke} ${only} ${counted} GROUP BY source_id, FLOOR(at / ${HOUR_MS}), ${value}, what`;
  });
  await db.execute(
    // In the order of the key, so that two strokes lock the rows that they share in the same order.
    sql`INSERT INTO form_counts (dimension, source_id, hour, value, what, count)
      SELECT * FROM (${sql.join(each, sql` UNION ALL `)}) counted ORDER BY dimension, source_id, hour, value, what
      ON DUPLICATE KEY UPDATE count = form_counts.count + VALUES(count)`,
  );
  return result.affectedRows;
}

/** Forgets what is counted and old; the counts stay. */
export async function forgetEvents(db: Db, before: number, most: number): Promise<void> {
  await db.execute(
    sql`DELETE FROM form_events WHERE at < ${before} AND counted_by IS NOT NULL LIMIT ${sql.raw(String(most))}`,
  );
}

export interface CountRow {
  sourceId: string;
  hour: number;
  value: string;
  what: CountedWhat;
  count: number;
}

/** Counts of sources by one thing, from an hour up to another one (not with it), by the hour. */
export const readCounts = (
  db: Db,
  dimension: Dimension,
  sourceIds: string[],
  fromHour: number,
  toHour: number,
): Promise<CountRow[]> =>
  sourceIds.length === 0
    ? Promise.resolve([])
    : db
        .select({
          sourceId: formCounts.sourceId,
          hour: formCounts.hour,
          value: formCounts.value,
          what: formCounts.what,
          count: formCounts.count,
        })
        .from(formCounts)
        .where(
          sql`dimension = ${dimension} AND source_id IN ${oneOf(sourceIds)} AND hour >= ${fromHour} AND hour < ${toHour}`,
        );

/** The same in sums. @param per what each sum is of: one source, or one value of all of them together */
export async function readSums(
  db: Db,
  per: 'source' | 'value',
  {
    dimension,
    sourceIds,
    fromHour,
    toHour,
  }: { dimension: Dimension; sourceIds: string[]; fromHour: number; toHour: number },
): Promise<{ of: string; what: CountedWhat; count: number }[]> {
  if (sourceIds.length === 0) return [];
  const of = per === 'source' ? sql`source_id` : sql`value`;
  const rows = await rowsOf<{ of: string; what: CountedWhat; count: string }>(
    db,
    sql`SELECT ${of} AS of, what, SUM(count) AS count FROM form_counts
      WHERE dimension = ${dimension} AND source_id IN ${oneOf(sourceIds)} AND hour >= ${fromHour} AND hour < ${toHour}
      GROUP BY ${of}, what`,
  );
  return rows.map((row) => ({ ...row, count: Number(row.count) }));
}

/** How long things took at sources, from an hour up to another one (not with it), by stretches of time. */
export async function readSpans(
  db: Db,
  sourceIds: string[],
  fromHour: number,
  toHour: number,
): Promise<{ sourceId: string; what: CountedWhat; span: string; count: number }[]> {
  if (sourceIds.length === 0) return [];
  const rows = await rowsOf<{ sourceId: string; what: CountedWhat; span: string; count: string }>(
    db,
    sql`SELECT source_id AS sourceId, what, value AS span, SUM(count) AS count FROM form_counts
      WHERE dimension = 'question' AND source_id IN ${oneOf(sourceIds)} AND hour >= ${fromHour} AND hour < ${toHour}
        AND what IN ('took', 'replied')
      GROUP BY source_id, what, value`,
  );
  return rows.map((row) => ({ ...row, count: Number(row.count) }));
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
