import { expect } from 'vitest';
import { STRETCHES } from '../../src/core/insight/index.ts';
import type { World } from './world.ts';

const HOUR = 3_600_000;

/** Each table with counts, and how many hours a row of it is of. */
const TABLES = STRETCHES.map((hours) =>
  hours === 1
    ? { hours, table: 'form_counts', stretch: 'hour', and: '' }
    : { hours, table: 'form_sums', stretch: 'stretch', and: `AND hours = ${hours}` },
);

/** Has a source counted as if so many had come some days ago: by stretches of every length, as counts are kept. */
export async function countEarlier(
  world: World,
  sourceId: string,
  more: { daysAgo: number; what: string; many: number; dimension?: string; value?: string },
): Promise<void> {
  const { daysAgo, what, many, dimension = 'all', value = '' } = more;
  const hour = Math.floor(Date.now() / HOUR) - daysAgo * 24;
  for (const { hours, table } of TABLES) {
    const row = [dimension, sourceId, Math.floor(hour / hours), value, what, many];
    await world.rows(`INSERT INTO ${table} VALUES (?) ON DUPLICATE KEY UPDATE count = count + VALUES(count)`, [
      hours === 1 ? row : [hours, ...row],
    ]);
  }
}

const COLUMNS = {
  page: 'page',
  device: 'device',
  campaign: 'campaign',
  medium: 'campaign_medium',
  referrer: 'referrer',
  cameBy: 'came_by',
  question: 'question',
};

/** Adds up what happened at forms once more, event by event, and compares it with the counts: of each source and of all, by every stretch. */
export async function expectRecounted(world: World): Promise<void> {
  for (const [dimension, column] of Object.entries(COLUMNS))
    for (const { hours, table, stretch, and } of TABLES)
      for (const whose of ['source_id', "''"]) {
        // Ways through a form, and why something was set aside, are told by themselves alone: as a question is.
        const alone = dimension === 'question' ? '' : "AND what NOT IN ('way', 'aside', 'took', 'replied')";
        const again = await world.rows(
          `SELECT ${whose} AS source_id, CAST(FLOOR(at / ${hours * HOUR}) AS INT) AS stretch, ${column} AS value, what, COUNT(*) AS count
            FROM form_events WHERE ${column} <> '' ${alone} GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4`,
        );
        const kept = await world.rows(
          `SELECT source_id, ${stretch} AS stretch, value, what, count FROM ${table}
            WHERE dimension = ? AND count <> 0 AND source_id ${whose === 'source_id' ? '<>' : '='} '' ${and} ORDER BY 1, 2, 3, 4`,
          [dimension],
        );
        expect(kept).toEqual(again);
      }
}
