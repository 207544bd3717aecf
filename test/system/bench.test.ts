import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeView } from '../../src/contract/changes.ts';
import type { MadeView } from '../../src/contract/connection.ts';
import type { RouteVersionView, RouteView } from '../../src/contract/route.ts';
import { findingKey, type KnownSample, type RouteDocument } from '../../src/core/plan/index.ts';
import type { TernPostState } from '../../src/standins/tern-post/state.ts';
import { fields, observatory, submitForm } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
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
