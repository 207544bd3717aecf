import { Hono } from 'hono';
import { DateTime, IANAZone } from 'luxon';
import {
  SiteKindInput,
  TREND_UNITS,
  type Counts,
  type InsightView,
  type SourceInsight,
  type TrendUnit,
  type TrendPoint,
  type ValueInsight,
} from '../../../contract/insight.ts';
import { groupBy } from '../../../core/groupBy.ts';
import {
  countOf,
  DIMENSIONS,
  FUNNEL,
  hostOf,
  isStep,
  type SiteKind,
  spansOf,
  type CountedWhat,
  type Dimension,
} from '../../../core/insight/index.ts';
import type { Context } from '../../context.ts';
import { silences } from '../../watching/silence.ts';
import { readHours, readSpans, readSums } from '../../store/counting.ts';
import { HOUR_MS } from '../../store/figures.ts';
import { readSiteKinds, writeSiteKind } from '../../store/siteKinds.ts';
import { listSources } from '../../store/sources.ts';
import { allow, type Session } from '../gates.ts';
import { known, Problem, readInput } from '../problems.ts';

const MOST_DAYS = 366;
const MOST_DAYS_BY_HOUR = 31;
const MOST_VALUES = 50;

/** What came in, from where, and what became of it. */
export function insightRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now } = context;

  app.get('/', allow('overview:read'), async (c) => {
    const query = c.req.query();
    const zone = query.zone ?? 'UTC';
    if (!IANAZone.isValidZone(zone)) throw new Problem(422, 'invalid', `"${zone.slice(0, 40)}" is no time zone.`);
    const { from, to } = period(query.from, query.to, zone, now());
    const by = known(query.by || 'page', DIMENSIONS, 'by');
    const per = known(query.per || 'day', TREND_UNITS, 'per');
    if (per === 'hour' && to.diff(from, 'days').days >= MOST_DAYS_BY_HOUR)
      throw new Problem(422, 'invalid', `By the hour, at most ${MOST_DAYS_BY_HOUR} days are shown at once.`);
    const sources = (await listSources(store.db)).filter(({ id }) => !query.source || id === query.source);
    const ids = sources.map(({ id }) => id);
    // All of them together are counted together.
    const asked = query.source ? ids : 'every';
    const [start, end] = [from.toMillis(), to.plus({ days: 1 }).toMillis()];
    const hours = (ms: number) => Math.floor(ms / HOUR_MS);
    const days = Math.round(to.diff(from, 'days').days) + 1;
    const before = from.minus({ days }).toMillis();
    const over = (dimension: Dimension, begin: number, finish: number) => ({
      dimension,
      sourceIds: ids,
      fromHour: hours(begin),
      toHour: hours(finish),
    });
    const [counts, trend, former, sums, spans, silent] = await Promise.all([
      readSums(store.db, 'source', over('all', start, end)),
      readHours(store.db, { ...over('all', start, end), sourceIds: asked }, ['shown', 'completed']),
      readSums(store.db, 'source', over('all', before, start)),
      by === 'all' ? [] : readSums(store.db, 'value', { ...over(by, start, end), sourceIds: asked }),
      readSpans(store.db, over('question', start, end)),
      silences(context, sources),
    ]);
    const nowOf = groupBy(counts, ({ of }) => of);
    const formerOf = groupBy(former, ({ of }) => of);
    const values = valuesOf(sums);
    const kinds = by === 'referrer' ? await readSiteKinds(store.db) : new Map<string, SiteKind>();
    return c.json({
      from: from.toISODate(),
      to: to.toISODate(),
      fromMs: start,
      toMs: end,
      sources: sources.map(({ id, name, draft }): SourceInsight => {
        const own = nowOf.get(id) ?? [];
        const spansFor = (wanted: CountedWhat) =>
          spansOf(spans.filter(({ sourceId, what }) => sourceId === id && what === wanted));
        return {
          id,
          name,
          kind: draft.kind,
          counts: sumOf(own),
          before: sumOf(formerOf.get(id)),
          silence: silent.get(id) ?? null,
          opened: countOf(own, 'opened'),
          downloaded: countOf(own, 'downloaded'),
          reached: countOf(own, 'reached'),
          took: spansFor('took'),
          replied: spansFor('replied'),
        };
      }),
      per,
      trend: trendOf(trend, { from, to, per }),
      by,
      values: values.slice(0, MOST_VALUES).map((one): ValueInsight => {
        const kind = kinds.get(one.value);
        return kind ? { ...one, kind } : one;
      }),
      more: Math.max(0, values.length - MOST_VALUES),
    } satisfies InsightView);
  });

  /** Says what a site is that visitors come from. It counts so from here on. */
  app.put('/sites', allow('sources:write'), async (c) => {
    const { host, kind } = await readInput(c, SiteKindInput);
    await writeSiteKind(store.db, hostOf(`https://${host}`), kind);
    return c.body(null, 204);
  });

  return app;
}

/** A stretch of whole days in a zone: the last four weeks, unless it is said. */
function period(from: string | undefined, to: string | undefined, zone: string, now: number) {
  const today = DateTime.fromMillis(now, { zone }).startOf('day');
  const end = to ? DateTime.fromISO(to, { zone }).startOf('day') : today;
  const begin = from ? DateTime.fromISO(from, { zone }).startOf('day') : end.minus({ days: 27 });
  if (!begin.isValid || !end.isValid) throw new Problem(422, 'invalid', 'A day is written like 2026-11-27.');
  if (begin > end) throw new Problem(422, 'invalid', 'The period ends before it begins.');
  if (end.diff(begin, 'days').days >= MOST_DAYS) throw new Problem(422, 'invalid', 'At most a year is shown at once.');
  return { from: begin, to: end };
}

const none = (): Counts => Object.fromEntries(FUNNEL.map((step) => [step, 0])) as Counts;

function sumOf(rows: { what: CountedWhat; count: number }[] = []): Counts {
  const sum = none();
  for (const { what, count } of rows) if (isStep(what)) sum[what] += count;
  return sum;
}

/** How many came in each step of a period, also where none did. Weeks begin on Monday (ISO 8601). @param rows from the first hour on */
function trendOf(
  rows: { hour: number; what: CountedWhat; count: number }[],
  { from, to, per }: { from: DateTime; to: DateTime; per: TrendUnit },
): TrendPoint[] {
  const trend: TrendPoint[] = [];
  const end = to.plus({ days: 1 });
  let row = 0;
  for (let at = from.startOf(per); at < end;) {
    const next = at.plus({ [per]: 1 });
    const begun = row;
    while (row < rows.length && (rows[row]?.hour ?? 0) * HOUR_MS < next.toMillis()) row += 1;
    const { shown, completed } = sumOf(rows.slice(begun, row));
    trend.push({ from: at.toFormat("yyyy-MM-dd'T'HH:mm"), shown, completed });
    at = next;
  }
  return trend;
}

/** Each value with its counts, those with most first. */
function valuesOf(rows: { of: string; what: CountedWhat; count: number }[]): ValueInsight[] {
  const told = rows.filter(({ what }) => isStep(what) || what === 'answered');
  const values = [...groupBy(told, ({ of }) => of)].map(([value, own]): ValueInsight => {
    return { value, counts: sumOf(own), answered: countOf(own, 'answered') };
  });
  const weight = ({ counts, answered }: ValueInsight) => counts.completed + answered;
  return values.sort((one, other) => weight(other) - weight(one) || other.counts.shown - one.counts.shown);
}
