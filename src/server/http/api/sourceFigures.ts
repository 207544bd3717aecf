import { Hono } from 'hono';
import type { SetAsideView, VariantsView, WaysView } from '../../../contract/source.ts';
import { readWay } from '../../../core/forms/index.ts';
import { groupBy } from '../../../core/groupBy.ts';
import { compareVariants, countOf, type CountedWhat, type Stretch } from '../../../core/insight/index.ts';
import { SUSPICIONS } from '../../../core/intake/index.ts';
import type { Context } from '../../context.ts';
import { pagesMetOn, whySilent } from '../../watching/silence.ts';
import { readDays, readSums } from '../../store/counting.ts';
import { HOUR_MS } from '../../store/figures.ts';
import type { SourceRecord } from '../../store/sources.ts';
import { allow, type Session } from '../gates.ts';

/** Of so many days ways through forms are told. */
const WAYS_DAYS = 30;
/** So far back variants are compared. */
const MOST_DAYS_COMPARED = 366;

/** What was counted of one source, as those need it who work on it. @param must finds it, or answers that there is none */
export function sourceFigureRoutes(context: Context, must: (id: string) => Promise<SourceRecord>): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now } = context;
  const present = () => Math.floor(now() / HOUR_MS);
  /** Sums by what a question is counted by, from an hour on. */
  const sumsSince = (id: string, fromHour: number) =>
    readSums(store.db, 'value', { dimension: 'question', sourceIds: [id], fromHour, toHour: present() + 1 });

  /** How many took which way through a form of several pages or endings, of those who sent it lately. */
  app.get('/:id/ways', allow('sources:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    const sums = await sumsSince(id, present() - WAYS_DAYS * 24);
    const ways = sums.flatMap(({ of, what, count }) => (what === 'way' ? [{ ...readWay(of), count }] : []));
    return c.json({ days: WAYS_DAYS, ways } satisfies WaysView);
  });

  /** The pages on which a form was met lately, those with most visitors first. */
  app.get('/:id/pages', allow('sources:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    return c.json(await pagesMetOn(context, id));
  });

  /** Why nothing comes of a source any more, as far as it can be found out. */
  app.get('/:id/silence', allow('sources:read'), async (c) => {
    return c.json(await whySilent(context, await must(c.req.param('id'))));
  });

  /** What a source set aside this month (of UTC), by why. */
  app.get('/:id/set-aside', allow('sources:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    const today = new Date(now());
    const since = Date.UTC(today.getUTCFullYear(), today.getUTCMonth(), 1);
    const sums = await sumsSince(id, Math.floor(since / HOUR_MS));
    const counts = sums.filter(({ what }) => what === 'aside');
    return c.json({
      since: new Date(since).toISOString(),
      counts: SUSPICIONS.map((why) => ({ why, count: counts.find(({ of }) => of === why)?.count ?? 0 })),
    } satisfies SetAsideView);
  });

  /** How the variants of a form or chat do by its goal, as far as they are live. */
  app.get('/:id/variants', allow('sources:read'), async (c) => {
    const { id, live } = await must(c.req.param('id'));
    const compared = live?.kind === 'form' || live?.kind === 'chat' ? live : null;
    if (!compared || compared.variants.length === 0) return c.json(null);
    const { goal } = compared;
    const variants = compared.variants.map((one) => one.id);
    const fromDay = Math.floor(present() / 24) - MOST_DAYS_COMPARED;
    const counts = await readDays(store.db, { dimension: 'variant', sourceId: id, fromDay });
    const own = counts.filter(({ value }) => variants.includes(value));
    const days = [...groupBy(own, ({ day }) => String(day))];
    const stretches = days.map(([, rows]): Stretch => {
      const of = (what: CountedWhat) =>
        variants.map((variant) =>
          countOf(
            rows.filter((row) => row.value === variant),
            what,
          ),
        );
      return { met: of('shown'), reached: of(goal) };
    });
    const comparison = compareVariants(stretches, variants.length);
    return c.json({ goal, variants, days: days.length, ...comparison } satisfies VariantsView);
  });

  return app;
}
