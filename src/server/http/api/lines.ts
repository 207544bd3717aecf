import type { ConnectionLine, RouteLine, SourceLine } from '../../../contract/entries.ts';
import { routeChecker } from '../../commands/routes/checkRoutes.ts';
import { profileFor } from '../../connecting/profiles.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { listConnections } from '../../store/connections.ts';
import { countBySource, DAY_MS, readDotLines, readStanding } from '../../store/figures.ts';
import { readHealths } from '../../store/health.ts';
import { listRoutes, targetsOf } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';
import { mapYielding } from '../../mapYielding.ts';
import { isChanged } from '../../store/versions.ts';

/** Sources as their list shows them. */
export async function sourceLines({ store, now }: Context): Promise<SourceLine[]> {
  const hours = await readDotLines(store.db, 'source', now());
  const today = await countBySource(store.db, now() - DAY_MS);
  return (await listSources(store.db)).map((record) => {
    const { id, name, folder, state, liveVersion, createdAt, archivedAt, draft } = record;
    return {
      id,
      name,
      folder,
      kind: draft.kind,
      state,
      liveVersion,
      changed: isChanged(record),
      madeAt: isoTime(createdAt),
      archivedAt: isoTime(archivedAt),
      today: today.get(id) ?? 0,
      hours: hours(id),
    };
  });
}

/** Routes as their list shows them. */
export async function routeLines(context: Context): Promise<RouteLine[]> {
  const { store, now } = context;
  const routes = await listRoutes(store.db);
  const sources = new Map((await listSources(store.db)).map(({ id, name }) => [id, name]));
  const connections = new Map((await listConnections(store.db)).map(({ id, name }) => [id, name]));
  const check = await routeChecker(context, store.db, routes);
  const hours = await readDotLines(store.db, 'route', now());
  const standing = await readStanding(store.db, 'route');
  const found = await mapYielding(routes, ({ id, draft, archivedAt }) => (archivedAt === null ? check(id, draft) : []));
  return routes.map((record, at) => {
    const { id, name, folder, state, liveVersion, createdAt, archivedAt, draft } = record;
    return {
      id,
      name,
      folder,
      state,
      liveVersion,
      changed: isChanged(record),
      madeAt: isoTime(createdAt),
      archivedAt: isoTime(archivedAt),
      sourceNames: draft.sourceIds.map((sourceId) => sources.get(sourceId) ?? 'removed source'),
      targetNames: draft.targets.map(({ connectionId }) => connections.get(connectionId) ?? 'no connection'),
      blockers: (found[at] ?? []).filter(({ level }) => level === 'blocker').length,
      warnings: (found[at] ?? []).filter(({ level, accepted }) => level === 'warning' && accepted === undefined).length,
      held: standing.get(id)?.held ?? 0,
      hours: hours(id),
    };
  });
}

/** Connections as their list shows them. */
export async function connectionLines({ store, now }: Context): Promise<ConnectionLine[]> {
  const routes = await listRoutes(store.db);
  const uses = new Map<string, number>();
  for (const route of routes)
    for (const id of new Set(targetsOf(route).map(({ connectionId }) => connectionId)))
      uses.set(id, (uses.get(id) ?? 0) + 1);
  const hours = await readDotLines(store.db, 'connection', now());
  const standing = await readStanding(store.db, 'connection');
  const healths = await readHealths(store.db);
  return (await listConnections(store.db)).map((record) => {
    const { id, name, folder, state, verify, createdAt } = record;
    return {
      id,
      name,
      folder,
      madeAt: isoTime(createdAt),
      serviceName: profileFor(record).name,
      state,
      verify,
      failures: healths.get(id)?.failures ?? 0,
      lastSuccessAt: isoTime(standing.get(id)?.lastSuccess),
      held: standing.get(id)?.held ?? 0,
      waiting: standing.get(id)?.waiting ?? 0,
      routes: uses.get(id) ?? 0,
      hours: hours(id),
    };
  });
}
