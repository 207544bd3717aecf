import { expect } from 'vitest';
import { STRETCHES } from '../../src/core/insight/index.ts';
import type { World } from './world.ts';

const HOUR = 3_600_000;

/** Has a source counted as if so many had come some days ago: by stretches of every length, as counts are kept. */
export async function countEarlier(
  world: World,
  sourceId: string,
  more: { daysAgo: number; what: string; many: number; dimension?: string; value?: string },
): Promise<void> {
  const { daysAgo, what, many, dimension = 'all', value = '' } = more;
  const hour = Math.floor(Date.now() / HOUR) - daysAgo * 24;
  for (const hours of STRETCHES)
    await world.rows('INSERT INTO form_counts VALUES (?) ON DUPLICATE KEY UPDATE count = count + VALUES(count)', [
      [hours, dimension, sourceId, Math.floor(hour / hours), value, what, many],
    ]);
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
    for (const hours of STRETCHES)
      for (const whose of ['source_id', "''"]) {
        // Ways through a form, and why something was set aside, are told by themselves alone: as a question is.
        const alone = dimension === 'question' ? '' : "AND what NOT IN ('way', 'aside', 'took', 'replied')";
        const again = await world.rows(
          `SELECT ${whose} AS source_id, CAST(FLOOR(at / ${hours * HOUR}) AS INT) AS stretch, ${column} AS value, what, COUNT(*) AS count
            FROM form_events WHERE ${column} <> '' ${alone} GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4`,
        );
        const kept = await world.rows(
          `SELECT source_id, stretch, value, what, count FROM form_counts WHERE hours = ? AND dimension = ? AND count <> 0
            AND source_id ${whose === 'source_id' ? '<>' : '='} '' ORDER BY 1, 2, 3, 4`,
          [hours, dimension],
        );
        expect(kept).toEqual(again);
      }
}
