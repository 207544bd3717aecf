import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { RouteDocument } from '../../core/plan/index.ts';
import { PUBLISHING, type PublishEvent } from '../../core/states/index.ts';
import { changedRows, countUpTo, insertRows, type Db } from './database.ts';
import { routes, routeSources, routeVersions, sendings, trials } from './schema/index.ts';
import type { Versioned } from './versions.ts';

export interface RouteRecord extends Versioned<RouteDocument> {
  /** In which folder of the list it stands; '' for none. */
  folder: string;
  createdAt: number;
  /** null while it is in use. */
  archivedAt: number | null;
}

const joined = (db: Db) =>
  db
    .select({ route: routes, live: routeVersions.document, publishedAt: routeVersions.publishedAt })
    .from(routes)
    .leftJoin(routeVersions, and(eq(routeVersions.routeId, routes.id), eq(routeVersions.version, routes.liveVersion)));

type Joined = Awaited<ReturnType<typeof joined>>[number];

const toRecord = ({ route, live, publishedAt }: Joined): RouteRecord => ({
  ...route,
  live,
  publishedAt,
});

export async function listRoutes(db: Db): Promise<RouteRecord[]> {
  return (await joined(db).orderBy(asc(routes.createdAt))).map(toRecord);
}

export async function findRoute(db: Db, id: string): Promise<RouteRecord | null> {
  const [row] = await joined(db).where(eq(routes.id, id));
  return row ? toRecord(row) : null;
}

/** Which version of which route is live for a source, oldest route first. */
export async function liveVersionsOf(
  db: Db,
  sourceId: string,
): Promise<{ id: string; name: string; version: number }[]> {
  const rows = await db
    .select({ id: routes.id, name: routes.name, version: routes.liveVersion })
    .from(routes)
    .innerJoin(routeSources, eq(routeSources.routeId, routes.id))
    .where(and(eq(routeSources.sourceId, sourceId), eq(routes.state, 'live')))
    .orderBy(asc(routes.createdAt));
  return rows.flatMap(({ id, name, version }) => (version === null ? [] : [{ id, name, version }]));
}

/** The routes that are live beside one. */
export const liveBeside = (all: RouteRecord[], id: string): { id: string; name: string; document: RouteDocument }[] =>
  all.flatMap((route) =>
    route.id !== id && route.state === 'live' && route.live
      ? [{ id: route.id, name: route.name, document: route.live }]
      : [],
  );

/** Where a route goes, as it is live and as it is drafted. */
export const targetsOf = ({ draft, live }: RouteRecord): RouteDocument['targets'] => [
  ...(live?.targets ?? []),
  ...draft.targets,
];

/** The routes that go to a connection, as they are live or drafted. */
export async function routesInto(db: Db, connectionId: string): Promise<RouteRecord[]> {
  const goesThere = (route: RouteRecord) => targetsOf(route).some((target) => target.connectionId === connectionId);
  return (await listRoutes(db)).filter(goesThere);
}

/** Whether a route asks people for a purpose, as it is live or drafted. */
export const asksFor = ({ draft, live }: RouteRecord, purpose: string): boolean =>
  [draft, live].some((document) => document?.consent.asks.some((ask) => ask.purpose === purpose) ?? false);

export async function routesAskingFor(db: Db, purpose: string): Promise<RouteRecord[]> {
  return (await listRoutes(db)).filter((route) => asksFor(route, purpose));
}

export async function readRouteVersion(db: Db, routeId: string, version: number): Promise<RouteDocument | null> {
  const [row] = await db
    .select({ document: routeVersions.document })
    .from(routeVersions)
    .where(and(eq(routeVersions.routeId, routeId), eq(routeVersions.version, version)));
  return row?.document ?? null;
}

export interface RouteVersion {
  version: number;
  publishedAt: number;
  note: string;
  byName: string;
}

/** What was published of a route, the newest first. */
export async function listRouteVersions(db: Db, routeId: string): Promise<RouteVersion[]> {
  const { version, publishedAt, note, byName } = routeVersions;
  return db
    .select({ version, publishedAt, note, byName })
    .from(routeVersions)
    .where(eq(routeVersions.routeId, routeId))
    .orderBy(desc(version));
}

export async function addRoute(
  db: Db,
  route: { id: string; name: string; draft: RouteDocument; now: number },
): Promise<void> {
  const { now, ...rest } = route;
  await db.insert(routes).values({ ...rest, state: 'draft', draftAt: now, createdAt: now });
}

/**
 * Saves a draft.
 * @param revision when what it replaces was saved; null for whenever
 * @returns false when it is another one by now, and nothing was saved
 */
export async function saveRouteDraft(
  db: Db,
  id: string,
  draft: RouteDocument,
  revision: number | null,
  now: number,
): Promise<boolean> {
  const result = await db
    .update(routes)
    // Never the same time twice: it tells revisions apart.
    .set({ draft, draftAt: sql`GREATEST(${now}, draft_at + 1)` })
    .where(and(eq(routes.id, id), revision === null ? undefined : eq(routes.draftAt, revision)));
  return changedRows(result) === 1;
}

/** Moves a route on, where the event applies. @returns false where it does not, and nothing changed */
export async function moveRoute(db: Db, id: string, event: PublishEvent): Promise<boolean> {
  const applies = and(eq(routes.id, id), inArray(routes.state, PUBLISHING.before(event)));
  const result = await db
    .update(routes)
    .set({ state: PUBLISHING.to(event) })
    .where(applies);
  return changedRows(result) === 1;
}

/** Freezes the draft as the next version and makes it live. */
export async function publishRoute(
  db: Db,
  route: RouteRecord,
  now: number,
  { note, byName }: { note: string; byName: string } = { note: '', byName: '' },
): Promise<void> {
  const version = (route.liveVersion ?? 0) + 1;
  await db
    .insert(routeVersions)
    .values({ routeId: route.id, version, document: route.draft, publishedAt: now, note, byName });
  await db
    .update(routes)
    .set({ liveVersion: version, state: PUBLISHING.to('published') })
    .where(eq(routes.id, route.id));
  await db.delete(routeSources).where(eq(routeSources.routeId, route.id));
  const sources = [...new Set(route.draft.sourceIds)];
  await insertRows(
    db,
    routeSources,
    sources.map((sourceId) => ({ routeId: route.id, sourceId })),
  );
}

/** Puts a route aside, paused, or takes it out again, paused still. @param at null to take it out @returns false where it is so already */
export async function archiveRoute(db: Db, id: string, at: number | null): Promise<boolean> {
  const result = await db
    .update(routes)
    .set({ archivedAt: at })
    .where(and(eq(routes.id, id), at === null ? isNotNull(routes.archivedAt) : isNull(routes.archivedAt)));
  if (at !== null) await moveRoute(db, id, 'paused');
  return changedRows(result) === 1;
}

/** How many deliveries went by a route, whatever became of them; of many only that there are more. */
export const countDeliveriesOf = (db: Db, id: string, most: number): Promise<number> =>
  countUpTo(db, most, sql`FROM deliveries WHERE route_id = ${id}`);

/** Deletes a route by which nothing went. */
export async function removeRoute(db: Db, id: string): Promise<void> {
  for (const table of [routeSources, routeVersions, trials, sendings])
    await db.delete(table).where(eq(table.routeId, id));
  await db.delete(routes).where(eq(routes.id, id));
}
