import { Hono } from 'hono';
import { ConnectionInput, type ConnectionView } from '../../../contract/connection.ts';
import type { Context } from '../../context.ts';
import { mask } from '../../connectors/http.ts';
import { allProfiles, profileOf } from '../../connectors/registry.ts';
import { verifyConnection } from '../../connectors/verify.ts';
import {
  addConnection,
  changeConnection,
  findConnection,
  listConnections,
  removeConnection,
  type ConnectionRecord,
} from '../../store/connections.ts';
import { releaseRefused } from '../../store/deliveries.ts';
import { readDotLines, readStanding } from '../../store/figures.ts';
import { listRoutes } from '../../store/routes.ts';
import { notFound, Problem, readInput } from '../problems.ts';

export function connectionRoutes(context: Context): Hono {
  const app = new Hono();
  const { store, secrets, send, now, newId } = context;

  const verify = (profile: string, baseUrl: string, key: string) =>
    verifyConnection(send, { profile: profileOf(profile), baseUrl, key }, now);

  async function must(id: string): Promise<ConnectionRecord> {
    const record = await findConnection(store.db, id);
    if (!record) throw notFound('connection');
    return record;
  }

  async function views(records: ConnectionRecord[]): Promise<ConnectionView[]> {
    const routes = await listRoutes(store.db);
    const hours = await readDotLines(store.db, 'connection', now());
    const standing = await readStanding(store.db, 'connection');
    return records.map(({ id, profile, name, baseUrl, keyHint, verify: result, catalogue, catalogueAt }) => {
      const last = standing.get(id)?.lastSuccess ?? null;
      const uses = routes.filter((route) =>
        [route.draft, route.live].some((document) => document?.targets.some((target) => target.connectionId === id)),
      );
      return {
        id,
        profile,
        serviceName: profileOf(profile).name,
        name,
        baseUrl,
        keyHint,
        verify: result,
        catalogue,
        catalogueAt: catalogueAt === null ? null : new Date(catalogueAt).toISOString(),
        lastSuccessAt: last === null ? null : new Date(last).toISOString(),
        usedBy: uses.map((route) => ({ id: route.id, name: route.name })),
        held: standing.get(id)?.held ?? 0,
        hours: hours(id),
      };
    });
  }

  const viewOf = async (id: string) => (await views([await must(id)]))[0];

  app.get('/profiles', (c) =>
    c.json(
      allProfiles().map(({ id, name, purpose, keyHelp, baseUrlHelp }) => ({ id, name, purpose, keyHelp, baseUrlHelp })),
    ),
  );
  app.get('/', async (c) => c.json(await views(await listConnections(store.db))));
  app.get('/:id', async (c) => c.json(await viewOf(c.req.param('id'))));

  /** Verifies what was typed, before anything is saved. */
  app.post('/try', async (c) => {
    const input = await readInput(c, ConnectionInput);
    return c.json((await verify(input.profile, input.baseUrl.trim(), input.key ?? '')).result);
  });

  app.post('/', async (c) => {
    const input = await readInput(c, ConnectionInput);
    const key = input.key ?? '';
    const baseUrl = input.baseUrl.trim();
    const { result, catalogue } = await verify(input.profile, baseUrl, key);
    if (!result.ok)
      throw new Problem(422, 'not-connected', result.problem, [
        {
          pointer: `/${result.about === 'service' ? 'baseUrl' : result.about}`,
          detail: `${result.problem} ${result.nextStep}`,
        },
      ]);
    const id = newId();
    await addConnection(store.db, {
      id,
      profile: input.profile,
      name: input.name,
      baseUrl,
      secret: secrets.seal(key),
      keyHint: mask(key),
      verify: result,
      catalogue,
      catalogueAt: now(),
      createdAt: now(),
    });
    return c.json(await viewOf(id), 201);
  });

  /** Changes name, address or key. A new key or address is verified before the old one is let go. */
  app.put('/:id', async (c) => {
    const record = await must(c.req.param('id'));
    const input = await readInput(c, ConnectionInput);
    const baseUrl = input.baseUrl.trim();
    const key = input.key ? input.key : secrets.open(record.secret);
    if (input.key || baseUrl !== record.baseUrl) {
      const { result, catalogue } = await verify(record.profile, baseUrl, key);
      if (!result.ok) {
        const about = result.about === 'service' ? (input.key ? 'key' : 'baseUrl') : result.about;
        throw new Problem(422, 'not-connected', 'Nothing was changed: the new access does not work.', [
          { pointer: `/${about}`, detail: `${result.problem} ${result.nextStep}` },
        ]);
      }
      await changeConnection(store.db, record.id, {
        secret: secrets.seal(key),
        keyHint: mask(key),
        baseUrl,
        verify: result,
        catalogue,
        catalogueAt: now(),
      });
      await releaseRefused(store.db, record.id, now());
    }
    await changeConnection(store.db, record.id, { name: input.name });
    return c.json(await viewOf(record.id));
  });

  /** Asks the service again who we are and what it offers; lets go what was held for a refused key when it is good again. */
  app.post('/:id/verify', async (c) => {
    const record = await must(c.req.param('id'));
    const { result, catalogue } = await verify(record.profile, record.baseUrl, secrets.open(record.secret));
    await changeConnection(store.db, record.id, {
      verify: result,
      ...(catalogue ? { catalogue, catalogueAt: now() } : {}),
    });
    if (result.ok) await releaseRefused(store.db, record.id, now());
    return c.json(await viewOf(record.id));
  });

  app.delete('/:id', async (c) => {
    const view = await viewOf(c.req.param('id'));
    if (!view) throw notFound('connection');
    if (view.usedBy.length > 0) {
      throw new Problem(
        409,
        'in-use',
        `It is used by ${view.usedBy.map(({ name }) => name).join(', ')}. Take it out of ${view.usedBy.length === 1 ? 'that route' : 'those routes'} first.`,
      );
    }
    await removeConnection(store.db, view.id);
    return c.body(null, 204);
  });

  return app;
}
