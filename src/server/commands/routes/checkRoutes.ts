import {
  knowledgeFields,
  preflight,
  type CheckedConnection,
  type Finding,
  type PreflightSource,
  type RouteDocument,
} from '../../../core/plan/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { offeredBy, profileFor } from '../../connecting/profiles.ts';
import { cataloguesOf, listConnections, type ConnectionRecord } from '../../store/connections.ts';
import type { Context } from '../../context.ts';
import type { Db } from '../../store/database.ts';
import { DAY_MS } from '../../store/figures.ts';
import { readOrganisationNames } from '../../store/organisation.ts';
import { listPurposes } from '../../store/purposes.ts';
import { liveBeside, type RouteRecord } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';
import { readSamples } from '../../store/submissions.ts';
import { isChanged } from '../../store/versions.ts';

const MOST_SAMPLES = 200;
const MINUTE_MS = 60_000;
/** What came of late is looked at anew no more often than this. */
const LATELY_MS = 30_000;

interface Lately {
  at: number;
  samples: Map<string, FieldValues[]>;
  paces: Map<string, number>;
}

/** What came of late, for all routes that are looked at again and again. One process, one database. */
let lately: Lately | null = null;

async function readLately(db: Db, sourceIds: string[], now: number): Promise<Lately> {
  if (lately && now - lately.at < LATELY_MS && sourceIds.every((id) => lately?.samples.has(id))) return lately;
  const samples = new Map<string, FieldValues[]>();
  const paces = new Map<string, number>();
  for (const id of sourceIds) {
    const newest = await readSamples(db, id, MOST_SAMPLES);
    samples.set(
      id,
      newest.map(({ values }) => values),
    );
    paces.set(
      id,
      busiestMinute(newest.map(({ receivedAt }) => Date.parse(receivedAt)).filter((at) => at > now - DAY_MS)),
    );
  }
  lately = { at: now, samples, paces };
  return lately;
}

/** How many came in the busiest minute, of the newest that are looked at. @param times in milliseconds since 1970 */
function busiestMinute(times: number[]): number {
  const minutes = new Map<number, number>();
  for (const at of times) minutes.set(Math.floor(at / MINUTE_MS), (minutes.get(Math.floor(at / MINUTE_MS)) ?? 0) + 1);
  return Math.max(0, ...minutes.values());
}

/** Whether an address is another one, or below it, whatever is asked for there. */
function leadsTo(address: string, other: string): boolean {
  const [one, two] = [URL.parse(address), URL.parse(other)];
  return one !== null && two !== null && one.origin === two.origin && `${one.pathname}/`.startsWith(`${two.pathname}/`);
}

/** What was wrong when a connection was last checked. */
function troubleOf({ verify }: ConnectionRecord): CheckedConnection['trouble'] {
  if (verify === null || verify.ok) return null;
  const { problem, nextStep, lacks = [] } = verify;
  return { problem, nextStep, lacks };
}

/** What was found in routes, as long as nothing has changed that they are checked against. One process, one database. */
let found: { stamp: string; findings: Map<string, Finding[]> } = { stamp: '', findings: new Map() };

/**
 * Reads all that routes are checked against, once for many.
 * What was found stays known until something of that changes: many routes are looked at again and again.
 * @param all every route there is, beside which each is checked
 * @returns what preflight finds in a document of a route
 */
export async function routeChecker(
  { config, now: clock }: Pick<Context, 'config' | 'now'>,
  db: Db,
  all: RouteRecord[],
): Promise<(id: string, document: RouteDocument) => Finding[]> {
  const now = clock();
  const sources = new Map((await listSources(db)).map((source) => [source.id, source]));
  const { samples, paces } = await readLately(db, [...sources.keys()], now);
  const purposes = await listPurposes(db);
  const records = await listConnections(db);
  const ownSource = (address: string): string | null =>
    [...sources.values()].find(({ publicId }) => leadsTo(address, `${config.publicUrl}/in/${publicId}`))?.id ?? null;
  const connections = Object.fromEntries(
    records.map((record): [string, CheckedConnection] => {
      const { name, state, catalogueAt } = record;
      const { perSecond } = profileFor(record).limits;
      const perMinute = perSecond === undefined ? null : perSecond * 60;
      return [
        record.id,
        { name, state, catalogueAt, perMinute, trouble: troubleOf(record), leadsTo: ownSource(record.baseUrl) },
      ];
    }),
  );
  const catalogues = cataloguesOf(records.map((record) => ({ id: record.id, catalogue: offeredBy(record) })));
  const names = await readOrganisationNames(db);
  const knowledge = knowledgeFields(purposes, records);
  // Once each: many routes take from one source.
  const known = new Map<string, PreflightSource>();
  const sourceOf = (id: string): PreflightSource => {
    const before = known.get(id);
    if (before) return before;
    const record = sources.get(id);
    const source = {
      name: record?.name ?? 'removed source',
      live: record?.live ?? null,
      isChanged: record ? isChanged(record) : false,
      samples: samples.get(id) ?? [],
      pace: paces.get(id) ?? 0,
    };
    known.set(id, source);
    return source;
  };
  const live = liveBeside(all, '');
  const stamp = JSON.stringify([
    lately?.at,
    all.map(({ id, name, state, liveVersion }) => [id, name, state, liveVersion]),
    [...sources.values()].map((one) => [one.id, one.name, one.state, one.liveVersion, one.draftAt, one.archivedAt]),
    records.map((one) => [one.id, one.name, one.state, one.baseUrl, one.catalogueAt, one.verify?.at, one.ownProfile]),
    purposes,
    names,
  ]);
  if (found.stamp !== stamp) found = { stamp, findings: new Map() };
  const { findings: kept } = found;
  const routes = new Map(all.map((route) => [route.id, route]));
  const check = (id: string, document: RouteDocument): Finding[] =>
    preflight({
      document,
      sources: document.sourceIds.map(sourceOf),
      catalogues,
      connections,
      purposes,
      knowledge,
      others: live.filter((other) => other.id !== id),
      names,
      now,
    });
  return (id, document) => {
    const route = routes.get(id);
    // Only what is kept under a name that changes with it.
    const name =
      document === route?.live
        ? `${id} live ${route.liveVersion}`
        : document === route?.draft
          ? `${id} draft ${route.draftAt}`
          : null;
    const findings = (name === null ? undefined : kept.get(name)) ?? check(id, document);
    if (name !== null) kept.set(name, findings);
    return findings;
  };
}
