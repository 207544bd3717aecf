import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Hono, type Context as HonoContext } from 'hono';
import {
  ConnectionInput,
  credentialTrouble,
  MakingInput,
  MakingsInput,
  type CredentialInputs,
} from '../../../contract/connection.ts';
import type { CredentialName, Profile } from '../../../contract/profile/index.ts';
import { changeAccess } from '../../commands/connections/changeAccess.ts';
import { connect } from '../../commands/connections/connect.ts';
import { fetchOffers } from '../../commands/connections/fetchOffers.ts';
import { askForAccess, takeAccess } from '../../commands/connections/grantAccess.ts';
import { listenThere, stopListening } from '../../commands/connections/listenThere.ts';
import { makeThere } from '../../commands/connections/makeThere.ts';
import { pauseConnection } from '../../commands/connections/pauseConnection.ts';
import { removeConnection } from '../../commands/connections/removeConnection.ts';
import { verifyAgain } from '../../commands/connections/verifyAgain.ts';
import { verifyEntered, type Entered } from '../../connecting/adding.ts';
import { allProfiles, findProfile, profileFor } from '../../connecting/profiles.ts';
import type { Credentials } from '../../connectors/access.ts';
import type { Context } from '../../context.ts';
import { findConnection, listConnections, type ConnectionRecord } from '../../store/connections.ts';
import { listInboundEvents } from '../../store/inboundEvents.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, Problem, readInput } from '../problems.ts';
import { entryRoutes } from './entries.ts';
import { connectionLines } from './lines.ts';
import { connectionViews, profileView } from './connectionViews.ts';
import { noticeView } from './noticeView.ts';

/** How many of the newest notices are shown. */
const MOST_NOTICES = 20;

export function connectionRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  async function must(id: string): Promise<ConnectionRecord> {
    const record = await findConnection(store.db, id);
    if (!record) throw notFound('connection');
    return record;
  }
  const viewOf = async (id: string) =>
    (await connectionViews(context, [await must(id)], await listConnections(store.db)))[0];

  app.get('/profiles', allow('profiles:read'), async (c) =>
    c.json((await allProfiles(store.db)).map((one) => profileView(context, one))),
  );
  app.route('/', entryRoutes(context, 'connection', connectionLines));
  app.get('/', allow('connections:read'), async (c) => {
    const all = await listConnections(store.db);
    return c.json(await connectionViews(context, all, all));
  });

  /** Where the window of another system sends people back to, after they granted access or refused it. */
  app.get('/granted', allow('connections:write'), async (c) => {
    const taken = await takeAccess(c.get('actor'), context, new URL(c.req.url));
    if (taken.ok) return c.redirect(`/connections/${taken.value}`, 303);
    const { connectionId, notice } = taken.issue;
    return c.redirect(`/connections${connectionId ? `/${connectionId}` : ''}${notice ? `?grant=${notice}` : ''}`, 303);
  });

  /** The rows that were dropped so far, for a connection that writes a file. */
  app.get('/:id/file', allow('people:read'), async (c) => {
    const record = await must(c.req.param('id'));
    if (profileFor(record).speaks !== 'file') throw notFound('file');
    const text = await readFile(path.join(context.config.dropFolder, record.baseUrl), 'utf8').catch(() => '');
    return c.body(text, 200, {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${record.baseUrl.replace(/[^\w .-]/g, '')}"`,
    });
  });

  app.get('/:id', allow('connections:details'), async (c) => c.json(await viewOf(c.req.param('id'))));

  /** Verifies what was typed, before anything is saved. */
  app.post('/try', allow('connections:write'), async (c) => {
    const { profile, baseUrl, credentials } = await readEntered(c);
    return c.json((await verifyEntered(context, { profile, baseUrl, credentials })).result);
  });

  app.post('/', allow('connections:write'), async (c) => {
    const id = outcome(await connect(c.get('actor'), context, await readEntered(c)));
    return c.json(await viewOf(id), 201);
  });

  app.post('/:id/grant', allow('connections:write'), async (c) =>
    c.json({ url: outcome(await askForAccess(c.get('actor'), context, c.req.param('id'))) }),
  );

  app.put('/:id', allow('connections:write'), async (c) => {
    const { id, ...record } = await must(c.req.param('id'));
    const { name, baseUrl, credentials } = await readInput(c, ConnectionInput);
    const given = pasted(profileFor({ id, ...record }), credentials);
    outcome(await changeAccess(c.get('actor'), context, { id, name, baseUrl, credentials: given }));
    return c.json(await viewOf(id));
  });

  app.post('/:id/verify', allow('connections:act'), async (c) => {
    const id = c.req.param('id');
    outcome(await verifyAgain(c.get('actor'), context, id));
    return c.json(await viewOf(id));
  });

  /** For whoever maps to it: what it offers, where that was fetched a while ago. */
  app.post('/:id/offers', allow('connections:act'), async (c) =>
    c.json(outcome(await fetchOffers(context, c.req.param('id')))),
  );

  for (const [address, event] of [
    ['/:id/pause', 'paused'],
    ['/:id/resume', 'resumed'],
  ] as const)
    app.post(address, allow('connections:act'), async (c) => {
      const id = c.req.param('id');
      outcome(await pauseConnection(c.get('actor'), context, { id, event }));
      return c.json(await viewOf(id));
    });

  /** Has the service tell us what happens there, or no more. */
  app.post('/:id/notices', allow('connections:write'), async (c) => {
    const id = c.req.param('id');
    outcome(await listenThere(c.get('actor'), context, id));
    return c.json(await viewOf(id));
  });
  app.delete('/:id/notices', allow('connections:write'), async (c) => {
    const id = c.req.param('id');
    outcome(await stopListening(c.get('actor'), context, id));
    return c.json(await viewOf(id));
  });
  app.get('/:id/notices', allow('connections:details'), async (c) => {
    const { id } = await must(c.req.param('id'));
    return c.json((await listInboundEvents(store.db, { connectionId: id }, MOST_NOTICES)).map(noticeView));
  });

  app.post('/:id/make', allow('connections:write'), async (c) => {
    const id = c.req.param('id');
    const makings = [await readInput(c, MakingInput)];
    const { ids } = outcome(await makeThere(c.get('actor'), context, { id, makings }));
    return c.json({ id: ids[0], connection: await viewOf(id) }, 201);
  });
  app.post('/:id/make-all', allow('connections:write'), async (c) => {
    const id = c.req.param('id');
    const { makings } = await readInput(c, MakingsInput);
    const made = outcome(await makeThere(c.get('actor'), context, { id, makings }));
    return c.json({ ...made, connection: await viewOf(id) }, 201);
  });

  app.delete('/:id', allow('connections:write'), async (c) => {
    const anyway = c.req.query('anyway') === 'true';
    outcome(await removeConnection(c.get('actor'), context, { id: c.req.param('id'), anyway }));
    return c.body(null, 204);
  });

  return app;

  /** A connection as somebody entered it, with a profile that there is. */
  async function readEntered(c: HonoContext): Promise<Entered> {
    const { name, baseUrl, profile: id, credentials } = await readInput(c, ConnectionInput);
    const profile = await findProfile(store.db, id);
    if (!profile)
      throw new Problem(422, 'invalid', 'Something in it is not right.', [
        { pointer: '/profile', detail: 'Choose the kind of service.' },
      ]);
    return { profile, name, baseUrl: baseUrl.trim(), credentials: pasted(profile, credentials) };
  }
}

/** What was pasted, as far as the profile asks for it; blanks at the ends are a mistake of copying. */
function pasted({ credentials }: Profile, inputs: CredentialInputs): Credentials {
  const given = credentials.flatMap(({ name }): [CredentialName, string][] => {
    const value: unknown = inputs[name];
    return typeof value === 'string' && value.trim() !== '' ? [[name, value.trim()]] : [];
  });
  const issues = given.flatMap(([name, value]) => {
    const detail = credentialTrouble(name, value);
    return detail === null ? [] : [{ pointer: `/credentials/${name}`, detail }];
  });
  if (issues.length > 0) throw new Problem(422, 'invalid', 'Something in it is not right.', issues);
  return Object.fromEntries(given);
}
