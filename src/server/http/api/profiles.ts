import { Hono } from 'hono';
import {
  CurlInput,
  DescriptionInput,
  ProfileInput,
  TrialInput,
  type DescriptionView,
} from '../../../contract/profiles.ts';
import { checkProfile, ProfileSchema, type Profile } from '../../../contract/profile/index.ts';
import { describeApart } from '../../connectors/propose/describeApart.ts';
import { profileFromCurl, readCurl } from '../../connectors/propose/fromCurl.ts';
import { findShippedProfile } from '../../connectors/registry.ts';
import { checkBaseUrl, sayTrouble } from '../../connectors/verifying/typed.ts';
import { findProfile } from '../../connecting/profiles.ts';
import { tryOperation } from '../../connecting/trying.ts';
import type { Context } from '../../context.ts';
import { listConnections } from '../../store/connections.ts';
import { findOwnProfile, removeOwnProfile, saveOwnProfile } from '../../store/profiles.ts';
import { notFound, Problem, readInput } from '../problems.ts';

/** Profiles that operators make: proposed from a description or an example, tried, checked, kept, handed on. */
export function profileRoutes(context: Context): Hono {
  const app = new Hono();
  const { store, now, send } = context;

  app.get('/schema.json', (c) => c.json(ProfileSchema));

  /** Reads an OpenAPI description, and proposes a profile from the operations chosen, or guessed. */
  app.post('/openapi', async (c) => {
    const { text, url, choice } = await readInput(c, DescriptionInput);
    const source = text === '' ? await fetchDescription(url.trim()) : text;
    const described = await describeApart(context.config.root, source, choice);
    if (!described.ok) throw wrong(text === '' ? '/url' : '/text', described.issue);
    return c.json(described.value satisfies DescriptionView);
  });

  app.post('/curl', async (c) => {
    const { line } = await readInput(c, CurlInput);
    const request = readCurl(line.trim());
    if (!request.ok) throw wrong('/line', request.issue);
    return c.json({ profile: profileFromCurl(request.value) });
  });

  app.post('/check', async (c) => {
    const checked = checkProfile((await readInput(c, ProfileInput)).document);
    return c.json(checked.ok ? { ok: true, profile: checked.value } : checked);
  });

  app.post('/try', async (c) => {
    const input = await readInput(c, TrialInput);
    const profile = mustBeGood(input.document);
    const trouble = checkBaseUrl(input.baseUrl.trim());
    if (trouble) throw wrong('/baseUrl', sayTrouble(trouble));
    return c.json(await tryOperation(context, profile, input));
  });

  /**
   * Saves a profile. One that is there already is replaced only when that is asked for (`replace`), and its connections
   * are named before. Those that ship with Iwashi stay as they are.
   */
  app.put('/:id', async (c) => {
    const profile = mustBeGood((await readInput(c, ProfileInput)).document);
    if (profile.id !== c.req.param('id')) throw wrong('/document/id', 'The id in the profile is another one.');
    if (findShippedProfile(profile.id))
      throw wrong('/document/id', 'A profile of this id ships with Iwashi. Choose another.');
    const there = await findOwnProfile(store.db, profile.id);
    if (there && c.req.query('replace') !== 'true') throw thereAlready(there, await usersOf(profile.id));
    await saveOwnProfile(store.db, profile, now());
    return c.json(profile);
  });

  /** The profile as a file to hand on. */
  app.get('/:id', async (c) => {
    const profile = await findProfile(store.db, c.req.param('id'));
    if (!profile) throw notFound('profile');
    return c.body(JSON.stringify(profile, null, 2), 200, {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename="${profile.id}.json"`,
    });
  });

  app.delete('/:id', async (c) => {
    const id = c.req.param('id');
    const used = await usersOf(id);
    if (used.length > 0) throw new Problem(409, 'in-use', `It is used by ${used.join(', ')}. Remove that first.`);
    await removeOwnProfile(store.db, id);
    return c.body(null, 204);
  });

  return app;

  /** The names of the connections that are made with a profile. */
  async function usersOf(id: string): Promise<string[]> {
    return (await listConnections(store.db)).filter(({ profile }) => profile === id).map(({ name }) => name);
  }

  async function fetchDescription(url: string): Promise<string> {
    const trouble = checkBaseUrl(url);
    if (trouble) throw wrong('/url', sayTrouble(trouble));
    const { answer } = await send({
      method: 'GET',
      url,
      headers: { accept: 'application/json, application/yaml, text/yaml' },
      secret: { headers: [], query: [], path: false },
      pool: 'descriptions',
      atOnce: 2,
    });
    if (answer.kind !== 'answered' || answer.status !== 200)
      throw wrong(
        '/url',
        `Nothing could be fetched from there (${answer.kind === 'answered' ? answer.status : answer.fault}).`,
      );
    return typeof answer.body === 'string' ? answer.body : JSON.stringify(answer.body);
  }
}

function mustBeGood(document: unknown): Profile {
  const checked = checkProfile(document);
  if (checked.ok) return checked.value;
  const issues = checked.issues.map(({ pointer, detail }) => ({ pointer: `/document${pointer}`, detail }));
  throw new Problem(422, 'invalid', 'The profile is not right yet.', issues);
}

const thereAlready = ({ name }: Profile, used: string[]): Problem =>
  new Problem(
    409,
    'there-already',
    used.length > 0
      ? `There is a profile of ${name} already, and ${used.join(', ')} ${used.length === 1 ? 'uses' : 'use'} it.`
      : `There is a profile of ${name} already. No connection uses it.`,
  );

const wrong = (pointer: string, detail: string): Problem => new Problem(422, 'invalid', detail, [{ pointer, detail }]);
