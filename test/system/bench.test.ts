import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeView } from '../../src/contract/changes.ts';
import type { MadeView } from '../../src/contract/connection.ts';
import type { RouteVersionView, RouteView } from '../../src/contract/route.ts';
import { findingKey, type KnownSample, type RouteDocument } from '../../src/core/plan/index.ts';
import type { TernPostState } from '../../src/standins/tern-post/state.ts';
import { fields, observatory, submitForm } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { targetOf } from '../world/routes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;
let made: Awaited<ReturnType<typeof observatory>>;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  made = await observatory(world, operator, 'single');
});
afterAll(() => world.stop());

const route = () => operator.get<RouteView>(`/routes/${made.route.id}`);
const save = async (change: (document: RouteDocument) => RouteDocument) => {
  const { draft } = await route();
  await operator.put(`/routes/${made.route.id}/draft`, change(draft));
};

describe('versions of a route', () => {
  it('keep who published each and what was said of it, and are had again as they were', async () => {
    const first = (await route()).draft;
    await save((draft) => ({ ...draft, consent: { ...draft.consent, expiresHours: 48 } }));
    await operator.post(`/routes/${made.route.id}/publish`, { note: ' Two days are enough. ' });
    const versions = await operator.get<RouteVersionView[]>(`/routes/${made.route.id}/versions`);
    expect(versions).toMatchObject([
      { version: 2, note: 'Two days are enough.', by: 'Wren' },
      { version: 1, note: '', by: 'Wren' },
    ]);
    expect(await operator.get<RouteDocument>(`/routes/${made.route.id}/versions/1`)).toEqual(first);
    expect((await operator.send('GET', `/routes/${made.route.id}/versions/9`)).status).toBe(404);
    // Taken back as the draft, it differs from what is live, and is live again when it is published.
    await save(() => first);
    expect((await route()).changed).toBe(true);
    await operator.post(`/routes/${made.route.id}/publish`);
    expect(await route()).toMatchObject({ changed: false, liveVersion: 3, draft: first });
  });

  it('takes no note that is too long, and publishes nothing then', async () => {
    const refused = await operator.send('POST', `/routes/${made.route.id}/publish`, { note: 'x'.repeat(301) });
    expect(refused.status).toBe(422);
    expect((await route()).liveVersion).toBe(3);
  });

  it('a copy is a draft of its own, and what was done stands under Changes', async () => {
    const copy = await operator.post<RouteView>(`/routes/${made.route.id}/duplicate`);
    expect(copy).toMatchObject({ state: 'draft', liveVersion: null, name: 'Sky letter to Tern Post, copy' });
    expect(copy.draft).toEqual((await route()).draft);
    const { rows } = await operator.get<{ rows: ChangeView[] }>('/changes');
    expect(rows.slice(0, 6).map(({ act, detail }) => [act, detail])).toEqual(
      expect.arrayContaining([
        ['made', 'A copy of Sky letter to Tern Post.'],
        ['published', 'Version 2. Two days are enough.'],
      ]),
    );
  });
});

describe('what is found before a route goes live', () => {
  it('is let stand with a reason, which stays with the version', async () => {
    const finding = (await route()).findings.find(({ level }) => level !== 'blocker');
    if (!finding) throw new Error('nothing was found');
    await save((draft) => ({ ...draft, accepted: { [findingKey(finding)]: 'It is for nothing else.' } }));
    const after = (await route()).findings.find(({ code }) => code === finding.code);
    expect(after?.accepted).toBe('It is for nothing else.');
    await operator.post(`/routes/${made.route.id}/publish`);
    const { liveVersion } = await route();
    const live = await operator.get<RouteDocument>(`/routes/${made.route.id}/versions/${liveVersion}`);
    expect(Object.values(live.accepted)).toEqual(['It is for nothing else.']);
  });

  it.each([
    [{ accepted: { x: ' ' } }, 'reason'],
    [{ accepted: [] }, 'reason'],
  ])('takes no %j', async (more, said) => {
    const { draft } = await route();
    const refused = await operator.send('PUT', `/routes/${made.route.id}/draft`, { ...draft, ...more });
    expect(refused.status).toBe(422);
    expect(await refused.text()).toContain(said);
  });
});

describe('what is known of the other system and of who asks', () => {
  const codes = async () => (await route()).findings.map(({ code }) => code);

  it('a list that is renamed there is noticed when it is fetched again', async () => {
    const state = (await (await fetch(`${world.ternPost}/inside.json`)).json()) as TernPostState;
    const listed = (await route()).draft.targets[0]?.places[0]?.list;
    const lists = state.lists.map((list) => (list.id === listed ? { ...list, name: 'Evening letter' } : list));
    await fetch(`${world.ternPost}/inside.json`, { method: 'PUT', body: JSON.stringify({ lists }) });
    expect(await codes()).not.toContain('renamed there of late');
    await operator.post(`/connections/${made.connection.id}/verify`);
    const finding = (await route()).findings.find(({ code }) => code === 'renamed there of late');
    expect(finding?.message).toMatch(/^The list ".+" is called "Evening letter" there now\.$/);
    await fetch(`${world.ternPost}/inside.json`, { method: 'PUT', body: JSON.stringify({ lists: state.lists }) });
    await operator.post(`/connections/${made.connection.id}/verify`);
  });

  it('a key that loses a permission there is named with what it lacks', async () => {
    const state = (await (await fetch(`${world.ternPost}/inside.json`)).json()) as TernPostState;
    const keys = state.keys.map((key) => ({ ...key, permissions: ['catalogue:read', 'members:write'] }));
    await fetch(`${world.ternPost}/inside.json`, { method: 'PUT', body: JSON.stringify({ keys }) });
    await operator.post(`/connections/${made.connection.id}/verify`);
    const finding = (await route()).findings.find(({ code }) => code === 'the access lacks a permission');
    expect(finding?.message).toContain('it lacks members:read.');
    await fetch(`${world.ternPost}/inside.json`, { method: 'PUT', body: JSON.stringify({ keys: state.keys }) });
    await operator.post(`/connections/${made.connection.id}/verify`);
    expect(await codes()).not.toContain('the access lacks a permission');
  });

  it('a destination that is a source of our own, taken by the same route, is a loop', async () => {
    const secret = `whsec_${Buffer.from('a secret of the tests, 32 bytes.').toString('base64')}`;
    const ours = await operator.connectTo('signed-webhook', made.source.postUrl, { secret }, 'Ourselves');
    const { draft } = await route();
    const round = { ...targetOf('round', { connectionId: ours.id }), duplicates: 'add' as const };
    await save((document) => ({ ...document, targets: [...document.targets, round] }));
    const loops = () => route().then(({ findings }) => findings.filter(({ code }) => code === 'a loop'));
    expect(await loops()).toMatchObject([{ level: 'blocker', target: 1 }]);
    // An address that only begins like it is another one.
    const beside = await operator.connectTo('signed-webhook', `${made.source.postUrl}-2`, { secret }, 'Beside');
    await save((document) => ({
      ...document,
      targets: [...draft.targets, { ...round, connectionId: beside.id }],
    }));
    expect(await loops()).toEqual([]);
    await save(() => draft);
  });

  it('by which names people know whoever asks is said once, noted, and looked for in the sentences', async () => {
    expect(await codes()).toContain('nobody said who asks');
    await operator.put('/organisation', { names: [' Hill Society ', 'Hill Society'] });
    expect(await operator.get('/organisation')).toEqual({ names: ['Hill Society'] });
    expect(await codes()).toEqual(expect.arrayContaining(['the words do not say who asks']));
    expect(await codes()).not.toContain('nobody said who asks');
    const { rows } = await operator.get<{ rows: ChangeView[] }>('/changes');
    expect(rows[0]).toMatchObject({ act: 'renamed', subject: { kind: 'organisation', name: 'Hill Society' } });
    // Nothing is noted of what changes nothing.
    await operator.put('/organisation', { names: ['Hill Society'] });
    expect((await operator.get<{ rows: ChangeView[] }>('/changes')).rows[0]?.id).toBe(rows[0]?.id);
    await operator.put('/organisation', { names: ['Pellam Ridge Observatory'] });
    expect(await codes()).not.toContain('the words do not say who asks');
  });

  it.each([[['x']], [['one', 'two', 'three', 'four']], ['Hill Society']])('takes no names like %j', async (names) => {
    expect((await operator.send('PUT', '/organisation', { names })).status).toBe(422);
  });
});

describe('what is missing there', () => {
  const makeAll = (makings: object[]) =>
    operator.post<MadeView>(`/connections/${made.connection.id}/make-all`, { makings });
  const one = (name: string, more: object = {}) => ({
    what: 'field',
    name,
    list: '',
    kind: '',
    type: 'text',
    choices: [],
    ...more,
  });

  it('is made at one go, each field of its type', async () => {
    const { ids, trouble, connection } = await makeAll([
      one('Favourite planet', { type: 'choice', choices: ['Mars', 'Venus'] }),
      one('Shoe size', { type: 'number' }),
      one('Night owl', { type: 'yes/no' }),
      // What the service has no word for is made as text.
      one('Home', { type: 'postal address' }),
    ]);
    expect(trouble).toBeNull();
    const there = ids.map((key) => connection.catalogue?.fields.find((field) => field.key === key));
    expect(there.map((field) => field?.type)).toEqual(['choice', 'number', 'yes/no', 'text']);
    expect(there[0]?.choices).toEqual(['Mars', 'Venus']);
    expect(connection.catalogue?.can.makesTypes).toContain('choice');
  });

  it.each([
    ['list', { list: '' }, 'sky  LETTER', 'There is a list called "Sky letter" there already'],
    ['field', {}, 'favourite planet', 'There is a field called "Favourite planet" there already'],
  ])('is not made twice: a %s', async (what, more, name, said) => {
    const answer = await operator.send('POST', `/connections/${made.connection.id}/make`, one(name, { what, ...more }));
    expect(answer.status).toBe(422);
    expect(JSON.stringify(await answer.json())).toContain(said.replaceAll('"', '\\"'));
  });

  it('stops at what is refused, says which, and keeps what was made before it', async () => {
    const { ids, trouble, connection } = await makeAll([
      one('Spring group', { what: 'group', list: 'L-100' }),
      one('Lost group', { what: 'group', list: 'L-999' }),
      one('Never reached', {}),
    ]);
    expect(ids).toHaveLength(1);
    expect(trouble).toContain('Lost group');
    const names = connection.catalogue?.lists.flatMap(({ groups }) => groups.map(({ name }) => name));
    expect(names).toContain('Spring group');
    const state = (await (await fetch(`${world.ternPost}/inside.json`)).json()) as TernPostState;
    expect(state.fields.map(({ label }) => label)).not.toContain('Never reached');
  });
});

describe('all samples at once', () => {
  it('come with what is known of whom each is of', async () => {
    await submitForm(world, made.source, fields('ada@hill.example'));
    const [sample] = await eventually(
      () => operator.get<KnownSample[]>(`/sources/${made.source.id}/known-samples`),
      ([one]) => one?.known.sent[0]?.arrived === true,
    );
    expect(sample).toMatchObject({
      values: { email: 'ada@hill.example' },
      keys: [{ kind: 'email', value: 'ada@hill.example' }],
      known: { contact: { address: 'ada@hill.example' }, sent: [{ arrived: true }] },
    });
  });
});
