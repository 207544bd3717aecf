import { Hono } from 'hono';
import {
  CurlInput,
  DescriptionInput,
  ProfileInput,
  TrialInput,
  type DescriptionView,
} from '../../../contract/profiles.ts';
import { checkProfile, ProfileSchema, type Profile } from '../../../contract/profile/index.ts';
import { removeProfile } from '../../commands/profiles/removeProfile.ts';
import { saveProfile } from '../../commands/profiles/saveProfile.ts';
import { checkBaseUrl, sayTrouble } from '../../connectors/verifying/typed.ts';
import { findProfile } from '../../connecting/profiles.ts';
import { tryOperation } from '../../connecting/trying.ts';
import type { Context } from '../../context.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { mustRead, notFound, Problem, readInput } from '../problems.ts';

/** Profiles that operators make: proposed from a description or an example, tried, checked, kept, handed on. */
export function profileRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, send } = context;

  app.get('/schema.json', allow('profiles:read'), (c) => c.json(ProfileSchema));

  /** Reads an OpenAPI description, and proposes a profile from the operations chosen, or guessed. */
  app.post('/openapi', allow('profiles:write'), async (c) => {
    const { text, url, choice } = await readInput(c, DescriptionInput);
    const source = text === '' ? await fetchDescription(url.trim()) : text;
    const pointer = text === '' ? '/url' : '/text';
    const described = mustRead(await context.reading.read('description', { text: source, choice }), pointer);
    if (!described.ok) throw wrong(pointer, described.issue);
    return c.json(described.value satisfies DescriptionView);
  });

  app.post('/curl', allow('profiles:write'), async (c) => {
    const { line } = await readInput(c, CurlInput);
    const profile = mustRead(await context.reading.read('curl', { line: line.trim() }), '/line');
    if (!profile.ok) throw wrong('/line', profile.issue);
    return c.json({ profile: profile.value });
  });

  app.post('/check', allow('profiles:read'), async (c) => {
    const checked = checkProfile((await readInput(c, ProfileInput)).document);
    return c.json(checked.ok ? { ok: true, profile: checked.value } : checked);
  });

  app.post('/try', allow('profiles:write'), async (c) => {
    const input = await readInput(c, TrialInput);
    const profile = mustBeGood(input.document);
    const trouble = checkBaseUrl(input.baseUrl.trim());
    if (trouble) throw wrong('/baseUrl', sayTrouble(trouble));
    return c.json(await tryOperation(context, profile, input));
  });

  app.put('/:id', allow('profiles:write'), async (c) => {
    const profile = mustBeGood((await readInput(c, ProfileInput)).document);
    if (profile.id !== c.req.param('id')) throw wrong('/document/id', 'The id in the profile is another one.');
    outcome(await saveProfile(c.get('actor'), context, { profile, replace: c.req.query('replace') === 'true' }));
    return c.json(profile);
  });

  /** The profile as a file to hand on. */
  app.get('/:id', allow('profiles:read'), async (c) => {
    const profile = await findProfile(store.db, c.req.param('id'));
    if (!profile) throw notFound('profile');
    return c.body(JSON.stringify(profile, null, 2), 200, {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename="${profile.id}.json"`,
    });
  });

  app.delete('/:id', allow('profiles:write'), async (c) => {
    outcome(await removeProfile(c.get('actor'), context, c.req.param('id')));
    return c.body(null, 204);
  });

  return app;

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

const wrong = (pointer: string, detail: string): Problem => new Problem(422, 'invalid', detail, [{ pointer, detail }]);
