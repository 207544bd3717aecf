import { Hono } from 'hono';
import type { PartIssue } from '../../../contract/checks.ts';
import {
  RehearsalInput,
  RouteDocumentInput,
  RouteInput,
  type RehearsalView,
  type RouteView,
} from '../../../contract/route.ts';
import { VISIT_PARTS, type Visit } from '../../../core/intake/index.ts';
import { agreedBy, ANSWER_REST_MS, knowledgeOf, planSubmission, readRoute } from '../../../core/plan/index.ts';
import { holds, parseFieldValue, type FieldValues, type SourceField } from '../../../core/values/index.ts';
import { addRoute } from '../../commands/routes/addRoute.ts';
import { routeChecker } from '../../commands/routes/checkRoutes.ts';
import { importRoute } from '../../commands/routes/importRoute.ts';
import { publishRoute } from '../../commands/routes/publishRoute.ts';
import { saveRouteDraft } from '../../commands/routes/saveRouteDraft.ts';
import type { Context } from '../../context.ts';
import { listConnections, readCatalogues } from '../../store/connections.ts';
import { readDotLines, readStanding } from '../../store/figures.ts';
import { readKnowledge } from '../../store/knowledge.ts';
import { readKnownPerson, saidOfSelf } from '../../store/people/index.ts';
import { findRoute, listRoutes, type RouteRecord } from '../../store/routes.ts';
import { findSource, listSources } from '../../store/sources.ts';
import { isChanged } from '../../store/versions.ts';
import { allow, type Session } from '../gates.ts';
import { readNames } from '../names.ts';
import { outcome } from '../outcome.ts';
import { notFound, Problem, readInput, revisionIn } from '../problems.ts';
import { exported, plain, readExported } from './exchange.ts';
import { pausingRoutes } from './pausing.ts';

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
    const check = await routeChecker(store.db, all);
    const hours = await readDotLines(store.db, 'route', now());
    const standing = await readStanding(store.db, 'route');
    return records.map((record) => {
      const { id, name, state, liveVersion, draft, draftAt, publishedAt } = record;
      return {
        id,
        name,
        state,
        liveVersion,
        changed: isChanged(record),
        draft,
        draftAt: new Date(draftAt).toISOString(),
        publishedAt: publishedAt === null ? null : new Date(publishedAt).toISOString(),
        sourceNames: draft.sourceIds.map((sourceId) => sources.get(sourceId)?.name ?? 'removed source'),
        targetNames: draft.targets.map(({ connectionId }) => connections.get(connectionId) ?? 'no connection'),
        findings: check(id, draft),
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
    outcome(await publishRoute(c.get('actor'), context, id));
    return c.json(await viewOf(id));
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

  /** Computes what the draft would do with a sample, with all that is known of the person. Changes nothing. */
  app.post('/:id/rehearsal', allow('routes:read'), async (c) => {
    const record = await must(c.req.param('id'));
    const input = await readInput(c, RehearsalInput);
    const sourceId = input.sourceId || (record.draft.sourceIds[0] ?? '');
    const source = await findSource(store.db, sourceId);
    const document = source?.live ?? source?.draft;
    if (!document) throw new Problem(409, 'no-source', 'The route has no source.');
    const values = readSample(document.fields, input.values);
    const said = saidOfSelf(document.fields, values, sourceId);
    const known = await readKnownPerson(store.db, said, now() - ANSWER_REST_MS);
    const plan = planSubmission({
      fields: document.fields,
      statement: document.statement,
      trust: document.trust,
      values,
      visit: visitIn(input.visit),
      routes: [{ id: record.id, name: record.name, version: (record.liveVersion ?? 0) + 1, document: record.draft }],
      keys: said.keys,
      known,
      knowledge: await readKnowledge(store.db),
      catalogues: await readCatalogues(store.db),
      now: now(),
    });
    return c.json({
      plan,
      names: await readNames(store.db),
      knows: { ...knowledgeOf(known), ...agreedBy(plan) },
    } satisfies RehearsalView);
  });

  return app;
}

/** How a sample came, as far as it is said in texts. */
const visitIn = (visit: Record<string, unknown>): Visit =>
  Object.fromEntries(
    VISIT_PARTS.flatMap((part) => (typeof visit[part] === 'string' ? [[part, visit[part].slice(0, 300)]] : [])),
  );

/**
 * The values of a sample that somebody may have changed: each as its field holds it, or read from what was typed.
 * @throws Problem naming every value that is none
 */
function readSample(fields: SourceField[], sample: Record<string, unknown>): FieldValues {
  const values: FieldValues = {};
  const issues: PartIssue[] = [];
  for (const field of fields) {
    const value = sample[field.id];
    if (value === undefined || value === null || value === '') continue;
    const { type } = field;
    if (holds(type, value) && (typeof value !== 'string' || type === 'choice')) values[field.id] = value;
    else if (typeof value !== 'string')
      issues.push({ pointer: `/values/${field.key}`, detail: `${field.label}: this is no ${type}.` });
    else {
      const parsed = parseFieldValue({ ...field, required: false }, [value]);
      if (parsed.ok) values[field.id] = parsed.value;
      else issues.push({ pointer: `/values/${field.key}`, detail: `${field.label}: ${parsed.issue}` });
    }
  }
  if (issues.length > 0) throw new Problem(422, 'invalid', issues.map(({ detail }) => detail).join(' '), issues);
  return values;
}
