import type { SilenceFinding, SilenceView } from '../../contract/insight.ts';
import type { CountedWhat, Silence } from '../../core/insight/index.ts';
import { countOf, mayBeSilent, rhythmOf, silenceOf, type Rhythm } from '../../core/insight/index.ts';
import { isOpenAt } from '../../core/intake/index.ts';
import { checkInstallation } from '../connecting/installation.ts';
import type { Context } from '../context.ts';
import { firstCounted, readDayHours, readLastReceived, readSums } from '../store/counting.ts';
import type { Db } from '../store/database.ts';
import { DAY_MS, HOUR_MS } from '../store/figures.ts';
import type { SourceRecord } from '../store/sources.ts';
import { lookAtShop } from './shopFindings.ts';

/** The stretch of which a source's rhythm is learnt. */
const RHYTHM_MS = 28 * DAY_MS;
/** So many pages of a silent form are visited. */
const MOST_VISITED = 3;
const MOST_PAGES = 20;
/** So long what was found on pages stands: they are not visited at every look. */
const VISITED_MS = 5 * 60_000;

const hoursOf = (ms: number): number => Math.floor(ms / HOUR_MS);

/** The sources that are silent for longer than their own rhythm, by their ids. */
export async function silences(
  { store, now }: Context,
  sources: Pick<SourceRecord, 'id' | 'state' | 'archivedAt' | 'draft'>[],
): Promise<Map<string, Silence>> {
  const live = sources
    // Files come when somebody brings them.
    .filter(({ state, archivedAt, draft }) => state === 'live' && archivedAt === null && draft.kind !== 'file')
    .map(({ id }) => id);
  const start = now() - RHYTHM_MS;
  const [sums, last] = await Promise.all([
    readSums(store.db, 'source', {
      dimension: 'all',
      sourceIds: live,
      fromHour: hoursOf(start),
      toHour: hoursOf(now()) + 1,
    }),
    readLastReceived(store.db, live),
  ]);
  const known = live.map((id) => {
    const lastAt = last.get(id) ?? null;
    const came = countOf(
      sums.filter(({ of }) => of === id),
      'completed',
    );
    return { id, lastAt, came, stretchMs: (lastAt ?? 0) - start };
  });
  // Of few it has to be known in which hours of the day they come.
  const doubted = known.filter(({ came, stretchMs, lastAt }) => mayBeSilent(came, stretchMs, lastAt, now()));
  const rhythms = await rhythmsOf(
    store.db,
    doubted.map(({ id }) => id),
    now(),
    (id) => last.get(id) ?? now(),
  );
  const found = doubted.flatMap(({ id, came, stretchMs, lastAt }): [string, Silence][] => {
    const silence = silenceOf(came, stretchMs, lastAt, now(), rhythms.get(id) ?? null);
    return silence ? [[id, silence]] : [];
  });
  return new Map(found);
}

/**
 * How many of some sources usually come in each hour of the day, by the last four weeks.
 * @param until up to when one counts: after that it may be silent
 */
export async function rhythmsOf(
  db: Db,
  sourceIds: string[],
  now: number,
  until: (id: string) => number = () => now,
): Promise<Map<string, Rhythm>> {
  const span = { fromHour: hoursOf(now - RHYTHM_MS), toHour: hoursOf(now) };
  const hours = await readDayHours(db, { sourceIds, ...span });
  const first = await firstCounted(db, [...hours.keys()], span.fromHour);
  return new Map(
    [...hours].map(([id, counts]) => {
      const days = (hoursOf(until(id)) + 1 - (first.get(id) ?? span.fromHour)) / 24;
      return [id, rhythmOf(counts, days)];
    }),
  );
}

/** The pages on which a form was met lately, those with most visitors first. @param id 'every': any form @param what what happened there; anything unless it is said */
export async function pagesMetOn({ store, now }: Context, id: string, what?: CountedWhat): Promise<string[]> {
  const sums = await readSums(store.db, 'value', {
    dimension: 'page',
    sourceIds: id === 'every' ? id : [id],
    fromHour: hoursOf(now() - RHYTHM_MS),
    toHour: hoursOf(now()) + 1,
  });
  const counts = new Map<string, number>();
  for (const { of, count } of what ? sums.filter((sum) => sum.what === what) : sums)
    counts.set(of, (counts.get(of) ?? 0) + count);
  return [...counts]
    .sort(([, one], [, other]) => other - one)
    .slice(0, MOST_PAGES)
    .map(([page]) => page);
}

const visited = new Map<string, { until: number; findings: SilenceFinding[] }>();

/** Why nothing comes of a source any more, as far as it can be found out from here. */
export async function whySilent(context: Context, source: SourceRecord): Promise<SilenceView> {
  const { store, now } = context;
  const { id, live, publishedAt, liveVersion } = source;
  const silence = (await silences(context, [source])).get(id);
  if (!silence || live === null) return { since: null, findings: [] };
  const { since } = silence;
  const over = (fromHour: number, toHour: number, dimension: 'all' | 'question') =>
    readSums(store.db, dimension === 'all' ? 'source' : 'value', { dimension, sourceIds: [id], fromHour, toHour });
  const [sinceThen, before, aside] = await Promise.all([
    over(hoursOf(since) + 1, hoursOf(now()) + 1, 'all'),
    over(hoursOf(now() - RHYTHM_MS), hoursOf(since) + 1, 'all'),
    over(hoursOf(since), hoursOf(now()) + 1, 'question'),
  ]);
  const findings: SilenceFinding[] = [];
  const note = (ok: boolean, found: string) => void findings.push({ ok, found });
  if (live.kind === 'form' && !isOpenAt(live.open, now()))
    note(false, 'Its times are over or have not begun: it is closed to visitors.');
  if (publishedAt !== null && publishedAt > since - DAY_MS && (liveVersion ?? 0) > 1)
    note(
      false,
      `Version ${liveVersion} went live within a day before the last one came: what changed may keep people from sending it.`,
    );
  const [shown, usually] = [countOf(sinceThen, 'shown'), countOf(before, 'shown')];
  if (usually > 0 && shown === 0) note(false, 'Nobody has seen it since: it is gone from its pages, or our script is.');
  else if (shown > 0) {
    const started = countOf(sinceThen, 'started');
    note(false, `It was seen ${shown} times since, begun ${started} times, and sent by nobody.`);
  }
  const kept = countOf(aside, 'aside');
  if (kept > 0) note(false, `${kept} were set aside since then. Look whether real people are among them.`);
  else note(true, 'Nothing was set aside since then.');
  if (live.kind === 'form') findings.push(...(await onPages(context, source, live)));
  else if (live.kind === 'shop') findings.push(...(await lookAtShop(context, source, live)));
  else note(true, 'Its address answers. Whoever posts to it has not done so since then.');
  return { since: new Date(since).toISOString(), findings };
}

/** What is found on the pages of a form, by visiting those that most people met it on. */
async function onPages(
  context: Context,
  { id, publicId }: SourceRecord,
  live: Extract<SourceRecord['live'], { kind: 'form' }>,
): Promise<SilenceFinding[]> {
  const known = visited.get(id);
  if (known && known.until > context.now()) return known.findings;
  const own = `${context.config.publicUrl}/`;
  const pages = (await pagesMetOn(context, id)).filter((page) => !page.startsWith(own)).slice(0, MOST_VISITED);
  const found = await checkInstallation(context, { publicId, live }, pages);
  const findings = found.flatMap(({ page, findings: all }): SilenceFinding[] => {
    const wrong = all.filter(({ ok }) => !ok);
    return wrong.length === 0
      ? [{ ok: true, found: `${page} answers, and has the form on it.` }]
      : wrong.map((one) => ({ ok: false, found: `${page}: ${one.found} ${one.fix}` }));
  });
  visited.set(id, { until: context.now() + VISITED_MS, findings });
  return findings;
}
