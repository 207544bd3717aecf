import { sql } from 'drizzle-orm';
import type { OverviewView } from '../../contract/overview.ts';
import type { DotLineData } from '../../contract/connection.ts';
import { groupBy } from '../../core/groupBy.ts';
import { firstIdAt, rowsOf, type Db } from './database.ts';
import { isNoInboundEvent } from './inboundEvents.ts';

export const HOUR_MS = 3_600_000;
export const DAY_MS = 24 * HOUR_MS;

interface HourRow {
  owner: string;
  hour: number;
  count: number;
  held: number;
}

/** What a dot line is drawn of: submissions of each source, or deliveries of each connection or route. */
export type DotLineOwner = 'source' | 'connection' | 'route';

/** The last 24 hours of every source, connection or route that had any. */
export async function readDotLines(db: Db, owner: DotLineOwner, now: number): Promise<(id: string) => DotLineData> {
  const start = Math.floor(now / HOUR_MS) * HOUR_MS - 23 * HOUR_MS;
  const rows =
    owner === 'source'
      ? await rowsOf<HourRow>(
          db,
          // What looks like a robot's is set aside and holds nothing up; what could not be planned does, as do deliveries that are held.
          sql`SELECT s.source_id AS owner, FLOOR((s.received_at - ${start}) / ${HOUR_MS}) AS hour, COUNT(*) AS count,
              SUM(s.state = 'failed' OR h.id IS NOT NULL) AS held
            FROM submissions s
            LEFT JOIN (SELECT DISTINCT submission_id AS id FROM deliveries WHERE state = 'held' AND submission_id >= ${firstIdAt(start)}) h ON h.id = s.id
            WHERE s.id >= ${firstIdAt(start)} GROUP BY s.source_id, hour`,
        )
      : await rowsOf<HourRow>(
          db,
          sql`SELECT ${sql.identifier(`${owner}_id`)} AS owner, FLOOR((ended_at - ${start}) / ${HOUR_MS}) AS hour, SUM(state = 'delivered') AS count, SUM(state = 'held') AS held
            FROM deliveries WHERE state IN ('delivered', 'held') AND ended_at >= ${start} GROUP BY owner, hour`,
        );
  const byOwner = groupBy(rows, ({ owner: id }) => id);
  return (id) => {
    const found = new Map((byOwner.get(id) ?? []).map((row) => [row.hour, row]));
    return Array.from({ length: 24 }, (_, hour) => ({
      from: new Date(start + hour * HOUR_MS).toISOString(),
      count: found.get(hour)?.count ?? 0,
      held: found.get(hour)?.held ?? 0,
    }));
  };
}

/** What waits and is held at each connection or route, and its last success; each by its index, never by the whole table. */
export async function readStanding(
  db: Db,
  owner: 'connection' | 'route',
): Promise<Map<string, { waiting: number; held: number; lastSuccess: number | null }>> {
  const column = sql.identifier(`${owner}_id`);
  const count = (...states: string[]) =>
    sql`(SELECT COUNT(*) FROM deliveries d WHERE d.${column} = o.id AND d.state IN (${sql.join(
      states.map((state) => sql`${state}`),
      sql`, `,
    )}))`;
  const rows = await rowsOf<{ owner: string; waiting: number; held: number; lastSuccess: number | null }>(
    db,
    sql`SELECT o.id AS owner, ${count('queued', 'sending', 'retrying')} AS waiting, ${count('held')} AS held,
      (SELECT d.ended_at FROM deliveries d WHERE d.${column} = o.id AND d.state = 'delivered' ORDER BY d.ended_at DESC LIMIT 1) AS lastSuccess
      FROM ${sql.identifier(`${owner}s`)} o`,
  );
  return new Map(rows.map(({ owner: id, ...standing }) => [id, standing]));
}

export async function readStatusFigures(db: Db, now: number, workerGoneMs: number) {
  const [row] = await rowsOf<{
    workers: number;
    waiting: number;
    unconfirmed: number;
    held: number;
    last: number | null;
  }>(
    db,
    sql`SELECT
      (SELECT COUNT(*) FROM workers WHERE seen_at > ${now - workerGoneMs}) AS workers,
      (SELECT COUNT(*) FROM submissions WHERE state = 'received')
        + (SELECT COUNT(*) FROM deliveries WHERE state IN ('queued', 'sending', 'retrying'))
        + (SELECT COUNT(*) FROM mails WHERE state IN ('queued', 'sending')) AS waiting,
      (SELECT COUNT(*) FROM deliveries WHERE state = 'waiting') AS unconfirmed,
      (SELECT COUNT(*) FROM deliveries WHERE state = 'held') AS held,
      (SELECT MAX(ended_at) FROM deliveries WHERE state = 'delivered') AS last`,
  );
  return {
    workers: row?.workers ?? 0,
    waiting: row?.waiting ?? 0,
    unconfirmed: row?.unconfirmed ?? 0,
    held: row?.held ?? 0,
    lastDeliveryAt: row?.last ?? null,
  };
}

/** What came in since a moment. */
export async function readToday(db: Db, since: number): Promise<OverviewView['today']> {
  const [row] = await rowsOf<OverviewView['today']>(
    db,
    sql`SELECT
      (SELECT COUNT(*) FROM submissions WHERE id >= ${firstIdAt(since)} AND ${isNoInboundEvent(sql`source_id`)}) AS submissions,
      (SELECT COUNT(*) FROM consent_events WHERE kind = 'confirmed' AND at >= ${since}) AS confirmed,
      (SELECT COUNT(*) FROM deliveries WHERE state = 'delivered' AND ended_at >= ${since}) AS delivered,
      (SELECT COUNT(*) FROM contacts WHERE id >= ${firstIdAt(since)}) AS people`,
  );
  return {
    submissions: row?.submissions ?? 0,
    confirmed: row?.confirmed ?? 0,
    delivered: row?.delivered ?? 0,
    people: row?.people ?? 0,
  };
}

/** How much went by each route from each source to each connection on so many days, today with them, and what is held now. */
export async function readFlows(
  db: Db,
  days: number,
  now: number,
): Promise<Map<string, { delivered: number; held: number }>> {
  const rows = await rowsOf<{
    routeId: string;
    sourceId: string;
    connectionId: string;
    delivered: number;
    held: number;
  }>(
    db,
    // What was delivered was counted as it happened; what is held is looked up by its index.
    sql`SELECT routeId, sourceId, connectionId, SUM(delivered) AS delivered, SUM(held) AS held FROM (
        SELECT route_id AS routeId, source_id AS sourceId, connection_id AS connectionId, SUM(delivered) AS delivered, 0 AS held
          FROM delivery_counts WHERE day > ${Math.floor(now / DAY_MS) - days} GROUP BY route_id, source_id, connection_id
        UNION ALL
        SELECT d.route_id, s.source_id, d.connection_id, 0, COUNT(*)
          FROM deliveries d STRAIGHT_JOIN submissions s ON s.id = d.submission_id
          WHERE d.state = 'held' GROUP BY d.route_id, s.source_id, d.connection_id) flow
      GROUP BY routeId, sourceId, connectionId`,
  );
  return new Map(
    rows.map((row) => [
      `${row.routeId} ${row.sourceId} ${row.connectionId}`,
      { delivered: row.delivered, held: row.held },
    ]),
  );
}

interface Stopped {
  setAside: number;
  failed: number;
  /** About submissions. */
  mailsHeld: number;
  /** About conversations that have not become submissions. */
  chatMailsHeld: number;
  /** Of the mails, those that ask to confirm. */
  asksHeld: number;
}

export async function countSetAside(db: Db): Promise<Stopped> {
  const [row] = await rowsOf<Stopped>(
    db,
    sql`SELECT (SELECT COUNT(*) FROM submissions WHERE state = 'set aside') AS setAside, (SELECT COUNT(*) FROM submissions WHERE state = 'failed') AS failed,
      (SELECT COUNT(*) FROM mails WHERE state = 'held' AND about_kind = 'submission') AS mailsHeld,
      (SELECT COUNT(*) FROM mails WHERE state = 'held' AND about_kind = 'conversation') AS chatMailsHeld,
      (SELECT COUNT(*) FROM mails WHERE state = 'held' AND kind = 'ask') AS asksHeld`,
  );
  return {
    setAside: row?.setAside ?? 0,
    failed: row?.failed ?? 0,
    mailsHeld: row?.mailsHeld ?? 0,
    chatMailsHeld: row?.chatMailsHeld ?? 0,
    asksHeld: row?.asksHeld ?? 0,
  };
}

/** How many submissions each source took since a moment. */
export async function countBySource(db: Db, since: number): Promise<Map<string, number>> {
  const rows = await rowsOf<{ id: string; count: number }>(
    db,
    sql`SELECT source_id AS id, COUNT(*) AS count FROM submissions WHERE id >= ${firstIdAt(since)} GROUP BY source_id`,
  );
  return new Map(rows.map(({ id, count }) => [id, count]));
}

/** How many deliveries are in each state, and since when the oldest thing that is due waits. */
export async function countDeliveries(
  db: Db,
): Promise<{ byState: { state: string; count: number }[]; oldestDueAt: number | null }> {
  const byState = await rowsOf<{ state: string; count: number }>(
    db,
    sql`SELECT state, COUNT(*) AS count FROM deliveries GROUP BY state`,
  );
  const [oldest] = await rowsOf<{ at: number | null }>(
    db,
    sql`SELECT MIN(at) AS at FROM (
      SELECT MIN(due_at) AS at FROM submissions WHERE state = 'received'
      UNION ALL SELECT MIN(due_at) FROM deliveries WHERE state IN ('queued', 'retrying')) due`,
  );
  return { byState, oldestDueAt: oldest?.at ?? null };
}
