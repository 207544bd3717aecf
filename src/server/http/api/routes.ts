import { Hono } from 'hono';
import {
  RehearsalInput,
  RouteDocumentInput,
  RouteInput,
  type RehearsalView,
  type RouteView,
} from '../../../contract/route.ts';
import { isObject } from '../../../core/documents/index.ts';
import { VISIT_PARTS, type Visit } from '../../../core/intake/index.ts';
import { planSubmission, preflight, readRoute, ROUTE_FORMAT, type RouteDocument } from '../../../core/plan/index.ts';
import type { PartIssue } from '../../../contract/checks.ts';
import { holds, parseFieldValue, type FieldValues, type SourceField } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { listConnections, readCatalogues } from '../../store/connections.ts';
import { inTransaction } from '../../store/database.ts';
import { readDotLines, readStanding } from '../../store/figures.ts';
import { readKnownPerson, saidOfSelf } from '../../store/people/index.ts';
import {
  addRoute,
  changeRoute,
  findRoute,
  listRoutes,
  publishRoute,
  saveRouteDraft,
  type RouteRecord,
} from '../../store/routes.ts';
import { findSource, listSources, type SourceRecord } from '../../store/sources.ts';
import { isChanged } from '../../store/versions.ts';
import { readNames } from '../names.ts';
import { changedMeanwhile, notFound, Problem, readInput, revisionIn } from '../problems.ts';
import { exported, plain, readExported } from './exchange.ts';
import { pausingRoutes } from './pausing.ts';

/** What a new route starts as: double opt-in, with a mail that only needs reading over. */
export const NEW_CONSENT: RouteDocument['consent'] = {
  mode: 'double',
  // Whoever makes the route has to say what people agree to: nothing is presumed.
  purpose: '',
  tickField: '',
  mail: {
    subject: 'Please confirm your address',
    body: 'Hello,\n\nsomebody, most likely you, signed up with this address. Please confirm that you want to hear from us:\n\n{link}\n\nIf it was not you, do nothing: we will not write again.',
    button: 'Yes, that was me',
  },
  expiresHours: 72,
  changes: 'ask',
};

export function routeRoutes(context: Context): Hono {
  const app = new Hono();
  const { store, now, newId } = context;

  async function must(id: string): Promise<RouteRecord> {
    const record = await findRoute(store.db, id);
    if (!record) throw notFound('route');
    return record;
  }

  async function views(records: RouteRecord[]): Promise<RouteView[]> {
    const sources = new Map((await listSources(store.db)).map((source) => [source.id, source]));
    const connections = new Map((await listConnections(store.db)).map(({ id, name }) => [id, name]));
    const catalogues = await readCatalogues(store.db);
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
        findings: preflight({ document: draft, sources: sourcesIn(draft, sources), catalogues }),
        held: standing.get(id)?.held ?? 0,
        hours: hours(id),
      };
    });
  }

  const viewOf = async (id: string) => (await views([await must(id)]))[0];

  app.get('/', async (c) => c.json(await views(await listRoutes(store.db))));
  app.get('/:id', async (c) => c.json(await viewOf(c.req.param('id'))));

  app.post('/', async (c) => {
    const { name, sourceId } = await readInput(c, RouteInput);
    const source = await findSource(store.db, sourceId);
    if (!source)
      throw new Problem(422, 'invalid', 'Choose a source.', [
        { pointer: '/sourceId', detail: 'There is no such source.' },
      ]);
    const tick = (source.live ?? source.draft).fields.find(({ type }) => type === 'yes/no');
    const id = newId();
    await addRoute(store.db, {
      id,
      name,
      draft: {
        format: ROUTE_FORMAT,
        sourceIds: [sourceId],
        targets: [],
        consent: { ...NEW_CONSENT, tickField: tick?.id ?? '' },
      },
      now: now(),
    });
    return c.json(await viewOf(id), 201);
  });

  app.put('/:id/draft', async (c) => {
    const { id } = await must(c.req.param('id'));
    const input = await readInput(c, RouteDocumentInput);
    if (!(await saveRouteDraft(store.db, id, plain(input), revisionIn(c), now()))) throw changedMeanwhile();
    return c.json(await viewOf(id));
  });

  app.post('/:id/publish', async (c) => {
    const record = await must(c.req.param('id'));
    const sources = new Map((await listSources(store.db)).map((source) => [source.id, source]));
    const findings = preflight({
      document: record.draft,
      sources: sourcesIn(record.draft, sources),
      catalogues: await readCatalogues(store.db),
    });
    const blockers = findings.filter(({ level }) => level === 'blocker');
    if (blockers.length > 0) {
      throw new Problem(
        422,
        'not-ready',
        'The route cannot go live yet.',
        blockers.map(({ part, message, fix }) => ({ pointer: `/${part}`, detail: `${message} ${fix}` })),
      );
    }
    await inTransaction(store, (db) => publishRoute(db, record, now()));
    return c.json(await viewOf(record.id));
  });

  app.get('/:id/export', async (c) => {
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

  /** Makes a route out of a file that was exported, here or elsewhere. It is a draft; what it refers to is found by its name. */
  app.post('/import', async (c) => {
    const { name, document: draft, file } = await readExported(c, 'route', readRoute, () => RouteDocumentInput);
    const refers = readRefers(file.refers);
    const sources = await listSources(store.db);
    const connections = await listConnections(store.db);
    const id = newId();
    const found = {
      ...draft,
      sourceIds: draft.sourceIds.flatMap((source) =>
        hereFor(source, sources, ({ name: own }) => own === refers.sources[source]),
      ),
      targets: draft.targets.map((target) => {
        const meant = refers.connections[target.connectionId];
        const [connectionId = ''] = hereFor(
          target.connectionId,
          connections,
          (own) => own.name === meant?.name && own.profile === meant.profile,
        );
        return { ...target, connectionId };
      }),
    };
    await addRoute(store.db, { id, name, draft: found, now: now() });
    return c.json(await viewOf(id), 201);
  });

  app.route('/', pausingRoutes({ must, viewOf, setState: (id, state) => changeRoute(store.db, id, { state }) }));

  /** Computes what the draft would do with a sample, with all that is known of the person. Changes nothing. */
  app.post('/:id/rehearsal', async (c) => {
    const record = await must(c.req.param('id'));
    const input = await readInput(c, RehearsalInput);
    const sourceId = input.sourceId || (record.draft.sourceIds[0] ?? '');
    const source = await findSource(store.db, sourceId);
    const document = source?.live ?? source?.draft;
    if (!document) throw new Problem(409, 'no-source', 'The route has no source.');
    const values = readSample(document.fields, input.values);
    const said = saidOfSelf(document.fields, values, sourceId);
    const plan = planSubmission({
      fields: document.fields,
      statement: document.statement,
      values,
      visit: visitIn(input.visit),
      routes: [{ id: record.id, name: record.name, version: (record.liveVersion ?? 0) + 1, document: record.draft }],
      keys: said.keys,
      known: await readKnownPerson(store.db, said),
      catalogues: await readCatalogues(store.db),
      now: now(),
    });
    return c.json({ plan, names: await readNames(store.db) } satisfies RehearsalView);
  });

  return app;
}

/** How a sample came, as far as it is said in texts. */
const visitIn = (visit: Record<string, unknown>): Visit =>
  Object.fromEntries(
    VISIT_PARTS.flatMap((part) => (typeof visit[part] === 'string' ? [[part, visit[part].slice(0, 300)]] : [])),
  );

/** What an id of a file is here: itself, or the only thing that is like it; nothing when there is none, or several are. */
function hereFor<Thing extends { id: string }>(
  id: string,
  things: Thing[],
  isLike: (thing: Thing) => boolean,
): string[] {
  if (things.some((thing) => thing.id === id)) return [id];
  const like = things.filter(isLike);
  return like.length === 1 ? like.map((thing) => thing.id) : [];
}

/** What a file says of the ids in it; nothing where it says nothing that can be read. */
function readRefers(refers: unknown) {
  const of = (part: string): Record<string, unknown> =>
    isObject(refers) && isObject(refers[part]) ? refers[part] : {};
  const connections = Object.entries(of('connections')).flatMap(([id, one]) =>
    isObject(one) ? [[id, { name: String(one.name), profile: String(one.profile) }] as const] : [],
  );
  return { sources: of('sources'), connections: Object.fromEntries(connections) };
}

/** The sources of a route, as they are live. */
export const sourcesIn = ({ sourceIds }: RouteDocument, sources: Map<string, SourceRecord>) =>
  sourceIds.map((id) => ({ name: sources.get(id)?.name ?? 'removed source', live: sources.get(id)?.live ?? null }));

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
