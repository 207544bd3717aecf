import { Hono } from 'hono';
import {
  PublishInput,
  RouteDocumentInput,
  RouteInput,
  type RouteVersionView,
  type RouteView,
} from '../../../contract/route.ts';
import { readRoute } from '../../../core/plan/index.ts';
import { entryRoutes, archiveAndDeleteRoutes } from './entries.ts';
import { routeLines } from './lines.ts';
import { addRoute } from '../../commands/routes/addRoute.ts';
import { routeChecker } from '../../commands/routes/checkRoutes.ts';
import { duplicateRoute } from '../../commands/routes/duplicateRoute.ts';
import { importRoute } from '../../commands/routes/importRoute.ts';
import { publishRoute } from '../../commands/routes/publishRoute.ts';
import { saveRouteDraft } from '../../commands/routes/saveRouteDraft.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { listConnections, readCatalogues } from '../../store/connections.ts';
import { readDotLines, readStanding } from '../../store/figures.ts';
import { newestTrials } from '../../store/trials.ts';
import { findRoute, listRoutes, listRouteVersions, readRouteVersion, type RouteRecord } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';
import { isChanged } from '../../store/versions.ts';
import { mapYielding } from '../../mapYielding.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, readInput, revisionIn } from '../problems.ts';
import { exported, plain, readExported } from './exchange.ts';
import { pausingRoutes } from './pausing.ts';
import { proofOf, rehearsalRoutes } from './rehearsals.ts';
import { sendingRoutes } from './sendings.ts';

export function routeRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now } = context;

  async function must(id: string): Promise<RouteRecord> {
    const record = await findRoute(store.db, id);
    if (!record) throw notFound('route');
    return record;
  }

  /** @param all every route there is, beside which each is checked */
  async function views(records: RouteRecord[], all: RouteRecord[]): Promise<RouteView[]> {
    const sources = new Map((await listSources(store.db)).map((source) => [source.id, source]));
    const connections = new Map((await listConnections(store.db)).map(({ id, name }) => [id, name]));
    const catalogues = await readCatalogues(store.db);
    const check = await routeChecker(context, store.db, all);
    const hours = await readDotLines(store.db, 'route', now());
    const standing = await readStanding(store.db, 'route');
    const trials = await newestTrials(
      store.db,
      records.map(({ id }) => id),
    );
    const found = await mapYielding(records, ({ id, draft }) => check(id, draft));
    return records.map((record, at) => {
      const { id, name, folder, state, liveVersion, draft, draftAt, publishedAt, archivedAt } = record;
      return {
        id,
        name,
        folder,
        archivedAt: isoTime(archivedAt),
        state,
        liveVersion,
        changed: isChanged(record),
        draft,
        draftAt: isoTime(draftAt),
        publishedAt: isoTime(publishedAt),
        sourceNames: draft.sourceIds.map((sourceId) => sources.get(sourceId)?.name ?? 'removed source'),
        targetNames: draft.targets.map(({ connectionId }) => connections.get(connectionId) ?? 'no connection'),
        findings: found[at] ?? [],
        proof: proofOf(trials.get(id), record, catalogues),
        held: standing.get(id)?.held ?? 0,
        hours: hours(id),
      };
    });
  }

  async function viewOf(id: string): Promise<RouteView> {
    const [view] = await views([await must(id)], await listRoutes(store.db));
    if (!view) throw notFound('route');
    return view;
  }

  app.route('/', entryRoutes(context, 'route', routeLines));
  app.get('/', allow('routes:read'), async (c) => {
    const all = await listRoutes(store.db);
    return c.json(await views(all, all));
  });
  app.get('/:id', allow('routes:read'), async (c) => c.json(await viewOf(c.req.param('id'))));

  app.post('/', allow('routes:write'), async (c) => {
    const id = outcome(await addRoute(c.get('actor'), context, await readInput(c, RouteInput)));
    return c.json(await viewOf(id), 201);
  });

  app.put('/:id/draft', allow('routes:write'), async (c) => {
    const id = c.req.param('id');
    const draft = plain(await readInput(c, RouteDocumentInput));
    outcome(await saveRouteDraft(c.get('actor'), context, { id, draft, revision: revisionIn(c) }));
    return c.json(await viewOf(id));
  });

  app.post('/:id/publish', allow('routes:write'), async (c) => {
    const id = c.req.param('id');
    // Nothing need be said of a version.
    const isSaid = Number(c.req.header('content-length') ?? 0) > 0;
    const { note } = isSaid ? await readInput(c, PublishInput) : { note: '' };
    outcome(await publishRoute(c.get('actor'), context, { id, note }));
    return c.json(await viewOf(id));
  });

  app.route('/', archiveAndDeleteRoutes(context, 'route', viewOf));

  app.post('/:id/duplicate', allow('routes:write'), async (c) => {
    const id = outcome(await duplicateRoute(c.get('actor'), context, c.req.param('id')));
    return c.json(await viewOf(id), 201);
  });
  app.get('/:id/versions', allow('routes:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    const versions = await listRouteVersions(store.db, id);
    return c.json(
      versions.map(({ version, publishedAt, note, byName }) => ({
        version,
        publishedAt: new Date(publishedAt).toISOString(),
        note,
        by: byName,
      })) satisfies RouteVersionView[],
    );
  });
  app.get('/:id/versions/:version', allow('routes:read'), async (c) => {
    const document = await readRouteVersion(store.db, c.req.param('id'), Number(c.req.param('version')));
    if (!document) throw notFound('version');
    return c.json(document);
  });

  app.get('/:id/export', allow('routes:read'), async (c) => {
    const { name, draft } = await must(c.req.param('id'));
    const connections = new Map((await listConnections(store.db)).map((one) => [one.id, one]));
    const sources = new Map((await listSources(store.db)).map((one) => [one.id, one.name]));
    // Ids mean nothing elsewhere: what they stand for goes along.
    const refers = {
      sources: Object.fromEntries(draft.sourceIds.map((id) => [id, sources.get(id) ?? ''])),
      connections: Object.fromEntries(
        draft.targets.map(({ connectionId: id }) => [
          id,
          { name: connections.get(id)?.name ?? '', profile: connections.get(id)?.profile ?? '' },
        ]),
      ),
    };
    return exported(name, 'route', { name, document: draft, refers });
  });

  app.post('/import', allow('routes:write'), async (c) => {
    const { name, document, file } = await readExported(c, 'route', readRoute, () => RouteDocumentInput);
    const id = outcome(await importRoute(c.get('actor'), context, { name, document, refers: file.refers }));
    return c.json(await viewOf(id), 201);
  });

  app.route('/', pausingRoutes(context, 'route', viewOf));

  app.route('/', rehearsalRoutes(context));
  app.route('/', sendingRoutes(context));

  return app;
}
