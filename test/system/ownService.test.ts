import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PlaceView } from '../../src/contract/people.ts';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { Profile } from '../../src/contract/profile/index.ts';
import type { CheckedProfileView, DescriptionView, TrialView } from '../../src/contract/profiles.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { fields, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

const describedAt = (url: string) => operator.post<DescriptionView>('/profiles/openapi', { url });
const attempt = (document: Profile, operation: string, more: object = {}) =>
  operator.post<TrialView>('/profiles/try', {
    document,
    baseUrl: world.ternPost,
    credentials: { key: TERN_KEY },
    operation,
    ...more,
  });

describe('a service that Iwashi has never seen', () => {
  let profile: Profile;

  it('is proposed from its own description, with nothing to correct', async () => {
    const description = await describedAt(`${world.ternPost}/v1/openapi.json`);
    expect(description.choice).toEqual({
      verify: 'whoAmI',
      lists: 'allLists',
      groups: 'groupsOfList',
      tags: 'allTags',
      fields: 'allFields',
      find: 'findMember',
      upsert: 'putMember',
      make: '',
      change: '',
      intoList: '',
      intoGroup: '',
      tag: '',
      outOfList: 'takeOutOfList',
      outOfGroup: 'takeOutOfGroup',
      untag: 'untagMember',
      unsubscribe: 'unsubscribeMember',
      subscribe: 'takeBackMember',
      makeList: 'makeList',
      makeGroup: 'makeGroup',
      makeTag: 'makeTag',
      makeField: 'makeField',
      remove: 'deleteMember',
    });
    ({ profile } = description);
    expect(profile.authentication).toEqual({ kind: 'key in header', header: 'X-Tern-Key' });
  });

  it('is tried operation by operation, with what was sent and what came back', async () => {
    const verify = await attempt(profile, 'verify');
    expect(verify).toMatchObject({ ok: true, outcome: 'It answered as Pellam Ridge Observatory.' });
    expect(verify.exchanges[0]?.url).toBe(`${world.ternPost}/v1/account`);
    expect(JSON.stringify(verify)).not.toContain(TERN_KEY);
    expect((await attempt(profile, 'catalogue')).outcome).toContain('3 lists, 5 tags, 0 kinds of record and 7 fields');
    const email = 'trial@hill.example';
    expect((await attempt(profile, 'find', { email })).outcome).toContain('Nobody of that address');
    expect((await attempt(profile, 'write', { email, fields: { given: 'Trial' } })).ok).toBe(true);
    expect((await attempt(profile, 'find', { email })).outcome).toContain('Trial');
    expect(await attempt(profile, 'verify', { credentials: { key: 'wrong' } })).toMatchObject({ ok: false });
  });

  it('is tried with places too, and cleaned up after', async () => {
    const email = 'trial@hill.example';
    const { offers } = await attempt(profile, 'catalogue');
    expect(offers?.lists.map(({ id, groups }) => [id, groups.length])).toContainEqual(['L-100', 3]);
    const place = { email, list: 'L-100', group: 'G-110', tag: 'planets' };
    await attempt(profile, 'write', { ...place, fields: { given: 'Trial' } });
    const trial = async () => (await world.members()).find((member) => member.email === email);
    expect(await trial()).toMatchObject({ lists: ['L-100'], groups: ['G-110'], tags: ['planets'] });
    expect(await attempt(profile, 'take out', place)).toMatchObject({ ok: true });
    expect(await trial()).toMatchObject({ lists: ['L-100'], groups: [], tags: [] });
    expect(await attempt(profile, 'unsubscribe', { email })).toMatchObject({ ok: true });
    expect(await trial()).toMatchObject({ state: 'left' });
    expect(await attempt(profile, 'remove', { email })).toMatchObject({ ok: true });
    expect(await trial()).toBeUndefined();
    expect((await attempt(profile, 'take out', place)).outcome).toContain('Nobody of that address');
  });

  it('is saved, connected, wired, and delivers with everything read back', async () => {
    await operator.put(`/profiles/${profile.id}`, { document: profile });
    const connection = await operator.connectTo(profile.id, world.ternPost, { key: TERN_KEY });
    expect(connection.verify).toMatchObject({ ok: true, lists: 3, groups: 4, fields: 7 });
    const source = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
    const document = skyLetterRoute(source.id, connection.id);
    await operator.route('Sky letter', {
      ...document,
      consent: { ...document.consent, confirmedBy: { by: 'nobody' } },
    });
    const id = await submitJson(source, fields('own@hill.example'));
    const [delivery] = (await operator.trailWhen(id, 'delivered')).deliveries;
    expect(delivery?.readBack?.map(({ what, same }) => [what, same])).toEqual(
      ['Email', 'First name', 'Last name', 'Sign-up page', 'Has a telescope', 'List', 'Group', 'Tag', 'Tag'].map(
        (what) => [what, true],
      ),
    );
  });

  it('is not replaced without a word by reading the description anew: its connections are named first', async () => {
    const anew = { ...profile, name: 'Read anew' };
    const refused = await operator.send('PUT', `/profiles/${profile.id}`, { document: anew });
    expect([refused.status, ((await refused.json()) as { title: string }).title]).toEqual([
      409,
      expect.stringMatching(/There is a profile of .* already, and .* uses? it\./),
    ]);
    const kept = async () => ((await (await operator.send('GET', `/profiles/${profile.id}`)).json()) as Profile).name;
    expect(await kept()).toBe(profile.name);
    await operator.put(`/profiles/${profile.id}?replace=true`, { document: anew });
    expect(await kept()).toBe('Read anew');
    await operator.put(`/profiles/${profile.id}?replace=true`, { document: profile });
  });

  it('makes there what is missing, from here', async () => {
    const connection = (await operator.get<ConnectionView[]>('/connections')).find(
      ({ profile: id }) => id === profile.id,
    );
    for (const [what, name] of [
      ['list', 'Comet watch'],
      ['tag', 'comets'],
      ['field', 'Favourite comet'],
    ])
      await operator.post(`/connections/${connection?.id}/make`, { what, name, list: '', kind: '' });
    const { catalogue } = await operator.connection(connection?.id ?? '');
    expect(catalogue?.lists.map(({ name }) => name)).toContain('Comet watch');
    expect(catalogue?.tags.map(({ name }) => name)).toContain('comets');
    expect(catalogue?.fields.map(({ key, label }) => [key, label])).toContainEqual([
      'favourite_comet',
      'Favourite comet',
    ]);
  });

  it('says who left, and takes them back with a newer confirmation', async () => {
    const { rows } = await operator.get<{ rows: { id: string }[] }>('/people?text=own@hill.example');
    const places = async () => (await operator.get<PlaceView[]>(`/people/${rows[0]?.id}/places`))[0];
    expect(await places()).toMatchObject({
      held: { standing: 'subscribed' },
      can: { leaveLists: true, leaveGroups: true, untag: true, standings: ['subscribed', 'unsubscribed'] },
    });
    const about = { connectionId: (await places())?.connectionId, act: 'unsubscribe', reason: 'Asked us to.' };
    await operator.post(`/people/${rows[0]?.id}/places`, about);
    expect((await places())?.held?.standing).toBe('unsubscribed');
    const back = await operator.send('POST', `/people/${rows[0]?.id}/places`, { ...about, act: 'subscribe' });
    expect(await back.json()).toMatchObject({ title: expect.stringContaining('confirm anew') as string });
  });

  it('is exported, and imported as it was', async () => {
    const exported = (await (await operator.send('GET', `/profiles/${profile.id}`)).json()) as object;
    const checked = await operator.post<CheckedProfileView>('/profiles/check', { document: exported });
    expect(checked).toEqual({ ok: true, profile });
  });

  it('keeps its profile while a connection needs it', async () =>
    expect((await operator.send('DELETE', `/profiles/${profile.id}`)).status).toBe(409));
});

describe('an example request', () => {
  it('becomes a profile without the key that stood in it', async () => {
    const { profile } = await operator.post<{ profile: Profile }>('/profiles/curl', {
      line: `curl -X PUT ${world.ternPost}/v1/members \\
        -H "X-Tern-Key: a-key-from-the-docs" -H 'Content-Type: application/json' \\
        -d '{"email": "someone@example.org", "fields": {"given": "Some"}, "lists": ["L-100"]}'`,
    });
    expect(JSON.stringify(profile)).not.toContain('a-key-from-the-docs');
    const view = await attempt(profile, 'write', {
      email: 'curl@hill.example',
      fields: { given: 'Mara', lists: 'L-100' },
    });
    expect(view).toMatchObject({ ok: true });
    expect((await world.members()).find(({ email }) => email === 'curl@hill.example')).toMatchObject({
      fields: { given: 'Mara' },
      lists: ['L-100'],
    });
  });

  it.each(['wget https://x.example', 'curl -X POST'])('that is none is refused: %s', async (line) =>
    expect((await operator.send('POST', '/profiles/curl', { line })).status).toBe(422),
  );
});

describe('a profile that is not right', () => {
  const issuesOf = async (document: object) => {
    const checked = await operator.post<CheckedProfileView>('/profiles/check', { document });
    return checked.ok ? [] : checked.issues.map(({ pointer }) => pointer);
  };
  it('is told where', async () => {
    const good = (await (await operator.send('GET', '/profiles/tern-post')).json()) as Profile;
    expect(await issuesOf(good)).toEqual([]);
    expect(await issuesOf({ ...good, find: { request: { method: 'FETCH', path: '/x' } } })).toEqual([
      '/find/request/method',
    ]);
    expect(await issuesOf({ ...good, credentials: [] })).toEqual(['/credentials']);
    expect(await issuesOf({ ...good, surprise: 1 })).toEqual(['/surprise']);
    // Neither a host by the back door, nor a script in the place of a window.
    expect(await issuesOf({ ...good, find: { request: { method: 'GET', path: '{+email}' } } })).toEqual([
      '/find/request/path',
    ]);
    const oauth = { kind: 'OAuth, granted by a person', authorize: 'javascript:alert(1)', token: '/t', scopes: [] };
    expect(await issuesOf({ ...good, authentication: oauth })).toContain('/authentication/authorize');
  });
  it('does not replace one that ships', async () => {
    const shipped = (await (await operator.send('GET', '/profiles/tern-post')).json()) as Profile;
    expect((await operator.send('PUT', '/profiles/tern-post', { document: shipped })).status).toBe(422);
  });
  it.each(['openapi: 2', '{"swagger": "2.0"}', 'openapi: 3.0.0\ninfo: {}', '\t- not: [yaml'])(
    'nor is every text a description: %j',
    async (text) => expect((await operator.send('POST', '/profiles/openapi', { text })).status).toBe(422),
  );
});
