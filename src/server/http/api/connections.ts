import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Hono } from 'hono';
import {
  ConnectionInput,
  credentialTrouble,
  MakingInput,
  type CredentialInputs,
  type VerifyResult,
} from '../../../contract/connection.ts';
import type { CredentialName, Profile } from '../../../contract/profile/index.ts';
import type { Credentials } from '../../connectors/access.ts';
import { sayTrouble } from '../../connectors/verifying/typed.ts';
import { hintsOf, isGrantedByPerson, saveConnection, verifyEntered } from '../../connecting/adding.ts';
import { checkConnection } from '../../connecting/checking.ts';
import { beginGrant, endGrant } from '../../connecting/granting.ts';
import { startNotices, stopNotices, tellsNotices } from '../../connecting/notices.ts';
import { connectorFor, openAccess, openCredentials, partsFor } from '../../connecting/open.ts';
import { allProfiles, findProfile, profileFor } from '../../connecting/profiles.ts';
import type { Context } from '../../context.ts';
import {
  changeConnection,
  findConnection,
  listConnections,
  removeConnection,
  type ConnectionRecord,
} from '../../store/connections.ts';
import { listNotices } from '../../store/notices.ts';
import { inTransaction } from '../../store/database.ts';
import { holdForRemoved, releaseRefused } from '../../store/deliveries.ts';
import { resetHealth } from '../../store/health.ts';
import { notFound, Problem, readInput } from '../problems.ts';
import { connectionViews, profileView } from './connectionViews.ts';
import { noticeView } from './noticeView.ts';
import type { Session } from './session.ts';

/** How many of the newest notices are shown. */
const MOST_NOTICES = 20;

export function connectionRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, secrets, now } = context;

  async function must(id: string): Promise<ConnectionRecord> {
    const record = await findConnection(store.db, id);
    if (!record) throw notFound('connection');
    return record;
  }
  const viewOf = async (id: string) => (await connectionViews(context, [await must(id)]))[0];

  async function mustProfile(id: string): Promise<Profile> {
    const profile = await findProfile(store.db, id);
    if (!profile)
      throw new Problem(422, 'invalid', 'Something in it is not right.', [
        { pointer: '/profile', detail: 'Choose the kind of service.' },
      ]);
    return profile;
  }

  app.get('/profiles', async (c) => c.json((await allProfiles(store.db)).map((one) => profileView(context, one))));
  app.get('/', async (c) => c.json(await connectionViews(context, await listConnections(store.db))));

  /** Where the window of another system sends people back to, after they granted access or refused it. */
  app.get('/granted', async (c) => {
    const outcome = await endGrant(context, new URL(c.req.url), c.get('account').id);
    if (outcome.ok) return c.redirect(`/connections/${outcome.value}`, 303);
    const { connectionId, message } = outcome.issue;
    return c.redirect(
      `/connections${connectionId ? `/${connectionId}` : ''}?trouble=${encodeURIComponent(message)}`,
      303,
    );
  });

  /** The rows that were dropped so far, for a connection that writes a file. */
  app.get('/:id/file', async (c) => {
    const record = await must(c.req.param('id'));
    if (profileFor(record).speaks !== 'file') throw notFound('file');
    const text = await readFile(path.join(context.config.dropFolder, record.baseUrl), 'utf8').catch(() => '');
    return c.body(text, 200, {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${record.baseUrl.replace(/[^\w .-]/g, '')}"`,
    });
  });

  app.get('/:id', async (c) => c.json(await viewOf(c.req.param('id'))));

  /** Verifies what was typed, before anything is saved. */
  app.post('/try', async (c) => {
    const input = await readInput(c, ConnectionInput);
    const profile = await mustProfile(input.profile);
    return c.json(
      (
        await verifyEntered(context, {
          profile,
          baseUrl: input.baseUrl.trim(),
          credentials: pasted(profile, input.credentials),
        })
      ).result,
    );
  });

  app.post('/', async (c) => {
    const input = await readInput(c, ConnectionInput);
    const profile = await mustProfile(input.profile);
    const entered = {
      profile,
      name: input.name,
      baseUrl: input.baseUrl.trim(),
      credentials: pasted(profile, input.credentials),
    };
    const verified = isGrantedByPerson(profile) ? null : await verifyEntered(context, entered);
    if (verified && !verified.result.ok) throw notConnected(verified.result, verified.result.problem);
    const id = await saveConnection(context, entered, verified);
    return c.json(await viewOf(id), 201);
  });

  /** Begins to ask for access in the other system's own window. */
  app.post('/:id/grant', async (c) => {
    const record = await must(c.req.param('id'));
    if (!isGrantedByPerson(profileFor(record)))
      throw new Problem(409, 'nothing-to-grant', 'This kind of service needs no access to be granted.');
    return c.json({ url: await beginGrant(context, record, c.get('account').id) });
  });

  /** Changes name, address or credentials. New ones are verified before the old ones are let go. */
  app.put('/:id', async (c) => {
    const record = await must(c.req.param('id'));
    const input = await readInput(c, ConnectionInput);
    const profile = profileFor(record);
    const isSecretAddress = profile.authentication.kind === 'secret address';
    // A secret address is never shown, so what comes back empty or redacted is the old one.
    const baseUrl = isSecretAddress && /^$|•/.test(input.baseUrl) ? record.baseUrl : input.baseUrl.trim();
    const given = pasted(profile, input.credentials);
    const credentials = { ...openCredentials(context, record), ...given };
    const isNew = Object.keys(given).length > 0 || baseUrl !== record.baseUrl;
    if (isNew && isGrantedByPerson(profile)) {
      await changeConnection(store.db, record.id, {
        secret: secrets.seal(JSON.stringify(credentials)),
        hints: hintsOf(credentials),
        baseUrl,
      });
    } else if (isNew) {
      const { result, catalogue, tokens } = await verifyEntered(context, { profile, baseUrl, credentials });
      if (!result.ok) throw notConnected(result, 'Nothing was changed: the new access does not work.');
      await inTransaction(store, async (db) => {
        await changeConnection(db, record.id, {
          secret: secrets.seal(JSON.stringify(credentials)),
          hints: hintsOf(credentials),
          tokens,
          baseUrl,
          verify: result,
          catalogue,
          catalogueAt: now(),
          ...(record.state === 'refused' ? { state: 'active' } : {}),
        });
        await resetHealth(db, record.id);
        await releaseRefused(db, record.id, now());
      });
    }
    await changeConnection(store.db, record.id, { name: input.name });
    return c.json(await viewOf(record.id));
  });

  /** Asks the service again who we are and what it offers; lets go what was held for refused credentials when they are good again. */
  app.post('/:id/verify', async (c) => {
    const record = await must(c.req.param('id'));
    await checkConnection(context, record);
    return c.json(await viewOf(record.id));
  });

  app.post('/:id/pause', async (c) => {
    const { id } = await must(c.req.param('id'));
    await changeConnection(store.db, id, { state: 'paused' });
    return c.json(await viewOf(id));
  });

  app.post('/:id/resume', async (c) => {
    const record = await must(c.req.param('id'));
    if (record.state !== 'paused') throw new Problem(409, 'not-paused', 'It is not paused.');
    await changeConnection(store.db, record.id, { state: 'active' });
    await checkConnection(context, { ...record, state: 'active' });
    return c.json(await viewOf(record.id));
  });

  /** Has the service tell us what happens there, or no more. */
  app.post('/:id/notices', async (c) => {
    const record = await must(c.req.param('id'));
    if (!tellsNotices(profileFor(record)))
      throw new Problem(409, 'cannot', 'This kind of service cannot tell us what happens there.');
    const fault = await startNotices(context, record);
    if (fault)
      throw new Problem(422, 'not-registered', `Our address was not registered there: ${fault.said || fault.cause}.`);
    return c.json(await viewOf(record.id));
  });
  app.delete('/:id/notices', async (c) => {
    const record = await must(c.req.param('id'));
    const fault = await stopNotices(context, record);
    if (fault)
      throw new Problem(
        422,
        'still-registered',
        `Nothing more is taken from there, but our address is still registered: ${fault.said || fault.cause}. Take it away there.`,
      );
    return c.json(await viewOf(record.id));
  });
  app.get('/:id/notices', async (c) => {
    const { id } = await must(c.req.param('id'));
    return c.json((await listNotices(store.db, { connectionId: id }, MOST_NOTICES)).map(noticeView));
  });

  /** Makes a list, group, tag or field there, and fetches what it offers anew. */
  app.post('/:id/make', async (c) => {
    const record = await must(c.req.param('id'));
    const { what, name, list, kind } = await readInput(c, MakingInput);
    const opened = await openAccess(context, record);
    if (!opened.ok) throw new Problem(422, 'not-made', opened.fault.said);
    const made = await connectorFor(partsFor(context, opened.value)).make({ what, name: name.trim(), list, kind });
    if (!made.ok)
      throw new Problem(422, 'not-made', `It was not made there: ${made.fault.said || made.fault.cause}.`, [
        { pointer: '/name', detail: made.fault.said || made.fault.cause },
      ]);
    await checkConnection(context, record);
    return c.json({ id: made.value, connection: await viewOf(record.id) }, 201);
  });

  /** Removes a connection. One that is used is only removed when the operator was told what will stop (`anyway`). */
  app.delete('/:id', async (c) => {
    const view = await viewOf(c.req.param('id'));
    if (!view) throw notFound('connection');
    if (view.usedBy.length > 0 && c.req.query('anyway') !== 'true') {
      throw new Problem(
        409,
        'in-use',
        `It is used by ${view.usedBy.map(({ name }) => name).join(', ')}. Take it out of ${view.usedBy.length === 1 ? 'that route' : 'those routes'} first.`,
      );
    }
    // Should the service not answer, it tells an address that nobody listens at any more.
    await stopNotices(context, await must(view.id));
    await inTransaction(store, async (db) => {
      await holdForRemoved(db, view.id, view.name, now());
      await removeConnection(db, view.id);
    });
    return c.body(null, 204);
  });

  return app;
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

const notConnected = (result: Extract<VerifyResult, { ok: false }>, title: string): Problem => {
  const pointer =
    result.about === 'baseUrl' || result.about === 'service' ? '/baseUrl' : `/credentials/${result.about}`;
  return new Problem(422, 'not-connected', title, [{ pointer, detail: sayTrouble(result) }]);
};
