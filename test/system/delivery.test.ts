import { plainLine, type MapLine } from '../../src/core/mapping/index.ts';
import type { DuplicatePolicy, Target } from '../../src/core/plan/index.ts';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { DeliveryView } from '../../src/contract/deliveries.ts';
import type { OverviewView } from '../../src/contract/overview.ts';
import { nameKey, type TrailView } from '../../src/contract/submissions.ts';
import { fields, observatory, submitJson } from '../world/observatory.ts';
import { deliveriesIn } from '../../src/core/plan/index.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let wired: Awaited<ReturnType<typeof observatory>>;
let number = 0;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  wired = await observatory(world, operator, 'single');
});
afterAll(() => world.stop());
beforeEach(() => world.noFaults());

const newAddress = () => `person${(number += 1)}@hill.example`;
const submit = (email: string, more: Record<string, string> = {}) => submitJson(wired.source, fields(email, more));
const memberOf = async (email: string) => (await world.members()).filter((member) => member.email === email);
const only = (trail: TrailView) => {
  const [delivery, ...others] = trail.deliveries;
  if (!delivery || others.length > 0) throw new Error('one delivery was expected');
  return delivery;
};

describe('a destination with a fault', () => {
  it.each([
    ['that is out of order is tried again', { next: 3, kind: 'status', status: 500 }, 'unavailable'],
    ['that asks for time is left alone for it', { next: 1, kind: 'status', status: 429 }, 'rate limited'],
    ['that breaks off is looked at before it is tried again', { next: 2, kind: 'drop' }, 'time-out'],
    ['that answers nonsense is looked at before it is tried again', { next: 1, kind: 'garbage' }, 'answer unreadable'],
    [
      'that breaks off, also while it is looked at, is looked at again',
      [
        { next: 1, kind: 'half', method: 'PUT', path: '/v1/members' },
        { next: 1, kind: 'drop', path: '/v1/members/find' },
      ],
      'time-out',
    ],
  ])('%s', async (_, faults, cause) => {
    const email = newAddress();
    for (const fault of [faults].flat()) await world.faults(fault);
    const trail = await operator.trailWhen(await submit(email), 'delivered');
    const { attempts, readBack } = only(trail);
    expect(attempts[0]).toMatchObject({ cause, outcome: 'failed, tried again later' });
    expect(attempts.at(-1)?.cause).toBeNull();
    expect(readBack?.every(({ same }) => same)).toBe(true);
    expect(await memberOf(email)).toMatchObject([{ changes: 1 }]);
  });

  it('that takes the change and then breaks off is looked at, and not changed twice, though it remembers no request', async () => {
    await world.changeTernPost({ forgets: true });
    await world.faults({ next: 1, kind: 'half', method: 'PUT', path: '/v1/members' });
    const email = newAddress();
    const { attempts, readBack } = only(await operator.trailWhen(await submit(email), 'delivered'));
    await world.changeTernPost({ forgets: false });
    expect(attempts.map((attempt) => attempt.cause)).toEqual(['time-out', null]);
    expect(readBack?.every(({ same }) => same)).toBe(true);
    expect(await memberOf(email)).toMatchObject([{ changes: 1 }]);
  });

  it('that asks for a second is not asked before', async () => {
    await world.faults({ next: 1, kind: 'status', status: 429 });
    const { attempts } = only(await operator.trailWhen(await submit(newAddress()), 'delivered'));
    const [first, second] = attempts.map(({ startedAt }) => Date.parse(startedAt));
    expect((second ?? 0) - (first ?? 0)).toBeGreaterThanOrEqual(1000);
  });

  it('does not keep others waiting', async () => {
    await world.faults({ next: 1, kind: 'slow', delay: 4000 });
    const slow = await submit(newAddress());
    await eventually(
      () => operator.trail(slow),
      (trail) => trail.deliveries[0]?.state === 'sending',
    );
    await operator.trailWhen(await submit(newAddress()), 'delivered');
    expect((await operator.trail(slow)).progress).toBe('on its way');
    await operator.trailWhen(slow, 'delivered');
  });
});

describe('what a person has to mend', () => {
  it('a refused key holds, and goes on by itself once it is replaced by a good one', async () => {
    await world.changeTernPost((state) => ({ keys: state.keys.map((key) => ({ ...key, revoked: true })) }));
    const ids = await Promise.all([submit(newAddress()), submit(newAddress())]);
    for (const id of ids) {
      const { cause, attempts } = only(await operator.trailWhen(id, 'held'));
      expect([cause, attempts.length <= 1]).toEqual(['credentials refused', true]);
    }
    expect((await operator.connection(wired.connection.id)).state).toBe('refused');
    expect((await operator.get<{ needs: { text: string }[] }>('/overview')).needs[0]?.text).toContain(
      'does not accept our credentials',
    );
    const replace = (key: string) =>
      operator.send('PUT', `/connections/${wired.connection.id}`, {
        profile: 'tern-post',
        name: 'Tern Post',
        baseUrl: world.ternPost,
        credentials: { key },
      });
    expect((await replace('another-wrong-key')).status).toBe(422);
    await world.changeTernPost((state) => ({
      keys: [
        ...state.keys,
        { key: 'a-brand-new-key', permissions: ['catalogue:read', 'members:read', 'members:write'], revoked: false },
      ],
    }));
    expect((await replace('a-brand-new-key')).status).toBe(200);
    for (const id of ids) await operator.trailWhen(id, 'delivered');
    await world.changeTernPost((state) => ({ keys: state.keys.map((key) => ({ ...key, revoked: false })) }));
  });

  it('a field that became required holds; the mapping is mended, and it is retried under the present route', async () => {
    await world.changeTernPost((state) => ({
      fields: state.fields.map((field) => (field.key === 'visits' ? { ...field, required: true } : field)),
    }));
    // What we know of it is two minutes old: nobody refreshes it but the hint that the refusal gives.
    await world.rows('UPDATE connections SET catalogue_at = catalogue_at - 120000');
    const email = newAddress();
    const id = await submit(email);
    const delivery = only(await operator.trailWhen(id, 'held'));
    expect(delivery).toMatchObject({ cause: 'required field missing' });
    expect(delivery.causeDetail).toContain('How often they come is required');

    const noticed = await eventually(
      () => operator.connection(wired.connection.id),
      ({ changes }) => changes.length > 0,
    );
    expect(noticed.changes).toMatchObject([
      { text: 'The field How often they come is now required.', routes: [{ id: wired.route.id }] },
    ]);
    const route = await operator.get<typeof wired.route>(`/routes/${wired.route.id}`);
    expect(route.findings[0]).toMatchObject({
      level: 'blocker',
      message: expect.stringContaining('How often they come') as string,
    });
    expect((await operator.send('POST', `/routes/${route.id}/publish`, {})).status).toBe(422);

    // Not required any more: whoever opens the route has it fetched anew, though the hour for it is not there.
    const isRequired = (required: boolean) =>
      world.changeTernPost((state) => ({
        fields: state.fields.map((field) => (field.key === 'visits' ? { ...field, required } : field)),
      }));
    const fetchedNow = async () => {
      await world.rows('UPDATE connections SET catalogue_at = catalogue_at - 120000');
      await operator.post(`/connections/${wired.connection.id}/offers`);
      const { findings } = await operator.get<typeof wired.route>(`/routes/${route.id}`);
      return findings.filter(({ level }) => level === 'blocker').length;
    };
    await isRequired(false);
    expect(await fetchedNow()).toBe(0);
    await isRequired(true);
    expect(await operator.post(`/connections/${wired.connection.id}/offers`)).toEqual({ fetched: false });
    expect(await fetchedNow()).toBe(1);

    const targets = route.draft.targets.map((target) => ({
      ...target,
      lines: [
        ...target.lines,
        plainLine({ id: 'l-visits', to: 'visits', from: { kind: 'fixed', value: 'first time' } }),
      ],
    }));
    await operator.put(`/routes/${route.id}/draft`, { ...route.draft, targets });
    await operator.post(`/routes/${route.id}/publish`);
    await operator.post(`/deliveries/${delivery.id}/replan`);
    const mended = only(await operator.trailWhen(id, 'delivered'));
    expect(mended.routeVersion).toBe(2);
    expect(await memberOf(email)).toMatchObject([{ fields: { visits: 'first time' } }]);
  });

  it('what was sent is forgotten after some days, and not said to be nothing', async () => {
    const id = await submit(newAddress());
    const before = only(await operator.trailWhen(id, 'delivered'));
    expect(before.attempts[0]?.exchanges?.length).toBeGreaterThan(0);
    await world.rows('UPDATE attempts SET started_at = 1 WHERE delivery_id = ?', [before.id]);
    const forgotten = await eventually(
      async () => only(await operator.trail(id)).attempts[0],
      (one) => one?.exchanges === null,
    );
    expect(forgotten).toMatchObject({ outcome: before.attempts[0]?.outcome, exchanges: null });
  });

  it('a person who left there is asked anew, and taken back with that proof', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    const [member] = await memberOf(email);
    await fetch(`${world.ternPost}/members/${member?.id}/leave`, { method: 'POST', redirect: 'manual' });
    const id = await submit(email, { name: 'Mara Back' });
    const delivery = only(await operator.trailWhen(id, 'held'));
    expect(delivery.cause).toBe('left there before');

    await operator.post(`/deliveries/${delivery.id}/ask`);
    expect((await operator.send('POST', `/deliveries/${delivery.id}/ask`, {})).status).toBe(409);
    const letters = await eventually(
      () => world.letters(email),
      (found) => found.length > 0,
    );
    await fetch(linkIn(letters[0]), { method: 'POST' });
    await operator.trailWhen(id, 'delivered');
    expect(await memberOf(email)).toMatchObject([{ state: 'active', fields: { family: 'Back' } }]);
  });

  it('a value that the other system refuses is held with its words, and can be dropped with a reason', async () => {
    await world.changeTernPost((state) => ({
      fields: state.fields.map((field) => (field.key === 'family' ? { ...field, longest: 5 } : field)),
    }));
    const id = await submit(newAddress(), { name: 'Mara Quillfeather' });
    const delivery = only(await operator.trailWhen(id, 'held'));
    expect(delivery).toMatchObject({ cause: 'value refused' });
    expect(delivery.causeDetail).toContain('family: takes at most 5 characters');
    expect((await operator.send('POST', `/deliveries/${delivery.id}/drop`, { reason: '' })).status).toBe(422);
    await operator.post(`/deliveries/${delivery.id}/drop`, { reason: 'a made-up name' });
    expect(only(await operator.trailWhen(id, 'dropped')).causeDetail).toBe('a made-up name');
    expect((await operator.send('POST', `/deliveries/${delivery.id}/retry`, {})).status).toBe(409);
    await world.changeTernPost((state) => ({
      fields: state.fields.map((field) => (field.key === 'family' ? { ...field, longest: 60 } : field)),
    }));
    // The refusal may have had it fetched meanwhile.
    await operator.verify(wired.connection.id);
  });
});

it('a trail that is read while things happen never contradicts itself', async () => {
  const ids = await Promise.all(Array.from({ length: 12 }, () => submit(newAddress())));
  const contradictions: unknown[] = [];
  await eventually(
    async () => {
      const trails = await Promise.all(ids.map((id) => operator.trail(id)));
      for (const { progress, deliveries } of trails) {
        const states = deliveries.map(({ state }) => state);
        const ended = states.length > 0 && states.every((state) => state === 'delivered');
        if ((progress === 'delivered') !== ended) contradictions.push({ progress, states });
      }
      return trails.map(({ progress }) => progress);
    },
    (found) => found.every((progress) => progress === 'delivered'),
  );
  expect(contradictions).toEqual([]);
});

describe('two targets on one connection', () => {
  it('stay themselves through reordering, holding, replanning and replay', async () => {
    const source = await operator.form('Two lists', { ...wired.source.draft, origins: [], minimumSeconds: 0 });
    const { draft } = await operator.get<typeof wired.route>(`/routes/${wired.route.id}`);
    const [first] = draft.targets;
    if (!first) throw new Error('the route has no target');
    const targets = [
      { ...first, id: 'letter', places: [{ id: 'p1', list: 'L-100', group: '', when: null }] },
      { ...first, id: 'schools', places: [{ id: 'p1', list: 'L-200', group: '', when: null }] },
    ];
    const consent = { ...draft.consent, confirmedBy: { by: 'nobody' as const } };
    const route = await operator.route('Two lists', { ...draft, sourceIds: [source.id], targets, consent });
    await world.faults({ next: 40, kind: 'status', status: 403 });
    const email = newAddress();
    const id = await submitJson(source, fields(email));
    const held = await eventually(
      () => operator.trail(id),
      ({ deliveries }) => deliveries.length === 2 && deliveries[0]?.state === 'held',
    );
    await world.noFaults();
    // Turned round and published anew: each delivery goes to its own target all the same.
    await operator.put(`/routes/${route.id}/draft`, { ...route.draft, targets: [...targets].reverse() });
    await operator.post(`/routes/${route.id}/publish`);
    // Names stand under their connection: another account may call another list L-100.
    expect(held.names[nameKey(wired.connection.id, 'place', 'L-100')]).toBe('Sky letter');
    expect(held.names['L-100']).toBeUndefined();
    const listsOf = ({ plan }: typeof held) =>
      plan && deliveriesIn(plan).map(({ targetId, intent }) => [targetId, intent.places[0]?.list]);
    expect(listsOf(held)).toEqual([
      ['letter', 'L-100'],
      ['schools', 'L-200'],
    ]);
    // The second waits behind the first, which is of the same person.
    await operator.post(`/deliveries/${held.deliveries[0]?.id ?? ''}/replan`);
    await operator.trailWhen(id, 'delivered');
    const rows = await world.rows<{ target: string; list: string }>(
      "SELECT target_id AS target, JSON_VALUE(intent, '$.places[0].list') AS list FROM deliveries WHERE submission_id = ? ORDER BY target_id",
      [id],
    );
    expect(rows).toEqual([
      { target: 'letter', list: 'L-100' },
      { target: 'schools', list: 'L-200' },
    ]);
    expect((await memberOf(email))[0]?.lists.sort()).toEqual(['L-100', 'L-200']);
  });
});

describe('people who are there already', () => {
  const withTarget = async (part: (target: Target) => Partial<Target>) => {
    const route = await operator.get<typeof wired.route>(`/routes/${wired.route.id}`);
    await operator.put(`/routes/${route.id}/draft`, {
      ...route.draft,
      targets: route.draft.targets.map((target) => ({ ...target, ...part(target) })),
    });
    await operator.post(`/routes/${route.id}/publish`);
  };
  const withPolicy = (duplicates: DuplicatePolicy) => withTarget(() => ({ duplicates }));
  const someone = async (more: Record<string, string | number | null> = {}) => {
    const email = newAddress();
    await world.changeTernPost((state) => ({
      members: [
        ...state.members,
        {
          id: email,
          email,
          state: 'active',
          lists: [],
          groups: [],
          tags: ['old'],
          fields: { given: 'Maria', has_telescope: null, ...more },
          joinedAt: '',
          leftAt: null,
          changes: 0,
        },
      ],
    }));
    return email;
  };
  let before: MapLine[] | null = null;
  afterAll(() => withTarget(({ lines }) => ({ lines: before ?? lines, duplicates: 'update' })));

  it('are updated', async () => {
    const email = await someone();
    await operator.trailWhen(await submit(email), 'delivered');
    expect(await memberOf(email)).toMatchObject([
      {
        fields: { given: 'Mara', has_telescope: 1 },
        lists: ['L-100'],
        tags: expect.arrayContaining(['old', 'newsletter']) as string[],
      },
    ]);
  });
  it('have their gaps filled, and keep the rest', async () => {
    await withPolicy('fill gaps');
    const email = await someone();
    const { readBack } = only(await operator.trailWhen(await submit(email), 'delivered'));
    expect(await memberOf(email)).toMatchObject([
      { fields: { given: 'Maria', has_telescope: 1, family: 'Quill' }, lists: ['L-100'] },
    ]);
    expect(readBack?.find(({ what }) => what === 'First name')).toMatchObject({
      meant: 'Mara (kept as it was)',
      found: 'Maria',
      same: true,
    });
  });
  it('have each field written by its own rule, cleared or filled where nothing came', async () => {
    const held = { given: 'Maria', signup_page: 'old-page', has_telescope: 3, visits: 'every month' };
    const email = await someone(held);
    const nothing = { kind: 'fixed' as const, value: '' };
    const rules: Record<string, Partial<MapLine>> = {
      given: { overwrite: 'longest' },
      family: { overwrite: 'new people' },
      has_telescope: { overwrite: 'highest' },
      signup_page: { from: nothing, whenEmpty: { kind: 'clear' } },
    };
    const often = plainLine({
      id: 'often',
      to: 'visits',
      from: nothing,
      whenEmpty: { kind: 'value', value: 'now and then' },
      overwrite: 'fill gaps',
    });
    await withTarget(({ lines }) => {
      before ??= lines;
      return { lines: [...lines.map((line) => ({ ...line, ...rules[line.to] })), often], duplicates: 'update' };
    });
    const { readBack } = only(await operator.trailWhen(await submit(email), 'delivered'));
    expect((await memberOf(email))[0]?.fields).toEqual({ ...held, signup_page: null });
    const kept = readBack?.filter(({ meant }) => meant.endsWith('(kept as it was)')).map(({ what }) => what);
    expect(new Set(kept)).toEqual(new Set(['First name', 'Last name', 'Has a telescope', 'How often they come']));
    // Of somebody new all of it goes in.
    const other = newAddress();
    await operator.trailWhen(await submit(other), 'delivered');
    expect((await memberOf(other))[0]?.fields).toMatchObject({
      given: 'Mara',
      family: 'Quill',
      has_telescope: 1,
      signup_page: null,
      visits: 'now and then',
    });
  });
  it('are left alone', async () => {
    await withPolicy('leave alone');
    const email = await someone();
    const { attempts } = only(await operator.trailWhen(await submit(email), 'delivered'));
    expect(attempts[0]?.outcome).toContain('left alone');
    expect(await memberOf(email)).toMatchObject([{ changes: 0, lists: [] }]);
  });
});

it("one person's deliveries go in order, also behind one that is held", async () => {
  const email = newAddress();
  await world.faults({ next: 1, kind: 'status', status: 403, path: '/v1/members' });
  const first = await submit(email, { name: 'Mara First' });
  await operator.trailWhen(first, 'held');
  const second = await submit(email, { name: 'Mara Second' });
  const waiting = await eventually(
    () => operator.trail(second),
    (trail) => trail.deliveries.length === 1,
  );
  expect(only(waiting)).toMatchObject({ state: 'queued', behind: first });
  await operator.post(`/deliveries/${only(await operator.trail(first)).id}/retry`);
  await operator.trailWhen(second, 'delivered');
  expect(await memberOf(email)).toMatchObject([{ fields: { family: 'Second' }, changes: 2 }]);
});

describe('deliveries are found', () => {
  let here = '';
  beforeAll(async () => {
    here = newAddress();
    await world.noFaults();
    await operator.trailWhen(await submit(here, { name: 'Sought Person' }), 'delivered');
    await world.faults({ next: 1, kind: 'status', status: 422, path: '/v1/members' });
    await operator.trailWhen(await submit(newAddress(), { name: 'Sought Otherwise' }), 'held');
  });
  const found = async (query: string) => {
    const { rows } = await operator.get<{ rows: DeliveryView[] }>(`/deliveries?${query}`);
    return rows.map(({ email, state, cause }) => [email, state, cause]);
  };

  it.each<[string, () => string, number]>([
    ['by a part of the address', () => `text=${here.slice(0, -4)}`, 1],
    ['by a part of the name', () => 'text=sought', 2],
    ['by name and state', () => 'text=sought&state=delivered', 1],
    ['by name and cause', () => 'text=sought&cause=value%20refused', 1],
    ['by name and where to', () => `text=sought&connection=${wired.connection.id}`, 2],
    ['by name and route', () => `text=sought&route=${wired.route.id}`, 2],
    ['and not by another route', () => `text=sought&route=${wired.connection.id}`, 0],
    ['and not by a sign that stands for any other', () => 'text=so%25ght', 0],
  ])('%s', async (_, query, count) => expect(await found(query())).toHaveLength(count));

  it('with when they were planned and when they ended', async () => {
    const { rows } = await operator.get<{ rows: DeliveryView[] }>('/deliveries?text=sought');
    for (const { plannedAt, endedAt, deliveredAt, state } of rows) {
      expect(Date.parse(plannedAt)).toBeLessThanOrEqual(Date.parse(endedAt ?? ''));
      expect(deliveredAt).toBe(state === 'delivered' ? endedAt : null);
    }
  });
});

it('a paused route plans nothing, and a draft does nothing', async () => {
  await operator.post(`/routes/${wired.route.id}/pause`);
  const trail = await operator.trailWhen(await submit(newAddress()), 'nothing to send');
  expect(trail.plan?.notes[0]?.code).toBe('no live route');
  await operator.post(`/routes/${wired.route.id}/resume`);
  await operator.trailWhen(await submit(newAddress()), 'delivered');
});

it('a rehearsal tells what will happen, and changes nothing', async () => {
  const email = newAddress();
  const before = await world.rows('SELECT COUNT(*) AS count FROM contacts');
  const values = {
    name: 'Mara Quill',
    email,
    interests: ['Taking pictures'],
    telescope: true,
    consent: true,
    page: 'sky-letter',
  };
  const { plan } = await operator.post<{ plan: TrailView['plan'] }>(`/routes/${wired.route.id}/rehearsal`, { values });
  expect(await world.rows('SELECT COUNT(*) AS count FROM contacts')).toEqual(before);
  const trail = await operator.trailWhen(await submit(email), 'delivered');
  const comparable = (one: TrailView['plan']) => ({
    contact: one?.contact,
    consent: one?.consent,
    intents: one && deliveriesIn(one).map(({ intent }) => intent),
  });
  expect(comparable(trail.plan)).toEqual(comparable(plan));
});

it('keeps the key out of everything that is stored or shown', async () => {
  const tables = await world.rows<Record<string, string>>('SHOW TABLES');
  for (const table of tables.flatMap((row) => Object.values(row))) {
    const rows = await world.rows(`SELECT * FROM \`${table}\``);
    expect(JSON.stringify(rows), table).not.toContain(TERN_KEY);
  }
  expect(JSON.stringify(await operator.get('/connections'))).not.toContain(TERN_KEY);
});

it('a route takes several sources, and a target only those of whom its condition holds', async () => {
  const form = (name: string) => operator.form(name, { ...wired.source.draft, origins: [], minimumSeconds: 0 });
  const [fair, evening] = [await form('Fair'), await form('Evening')];
  const { draft } = await operator.get<typeof wired.route>(`/routes/${wired.route.id}`);
  const [first] = draft.targets;
  if (!first) throw new Error('the route has no target');
  const when = {
    kind: 'all' as const,
    of: [{ kind: 'test' as const, id: 'x', field: 'interests', test: 'contains' as const, value: 'pictures' }],
  };
  const targets = [
    { ...first, id: 'letter', places: [{ id: 'p1', list: 'L-100', group: '', when: null }] },
    { ...first, id: 'schools', places: [{ id: 'p1', list: 'L-200', group: '', when: null }], when },
  ];
  const consent = { ...draft.consent, confirmedBy: { by: 'nobody' as const } };
  const route = await operator.route('Both', { ...draft, sourceIds: [fair.id, evening.id], targets, consent });
  const sent = async (source: typeof fair, email: string, interests: string) => {
    const id = await submitJson(source, { ...fields(email), interests });
    return operator.trailWhen(id, 'delivered');
  };
  const some = await sent(fair, 'fair@hill.example', 'Taking pictures');
  expect(some.deliveries.map(({ routeId }) => routeId)).toEqual([route.id, route.id]);
  const one = await sent(evening, 'evening@hill.example', 'The Moon and planets');
  expect(one.deliveries).toHaveLength(1);
  expect(one.plan?.notes).toMatchObject([{ code: 'not for them' }]);
  const overview = await operator.get<OverviewView>('/overview');
  const flows = overview.flows.filter(({ routeId, sourceId }) => routeId === route.id && sourceId === fair.id);
  expect(flows.map(({ delivered }) => delivered)).toEqual([2, 2]);
  // Taken from the route, a source goes nowhere.
  await operator.put(`/routes/${route.id}/draft`, { ...draft, sourceIds: [evening.id], targets, consent });
  await operator.post(`/routes/${route.id}/publish`);
  const id = await submitJson(fair, fields('late@hill.example'));
  expect((await operator.trailWhen(id, 'nothing to send')).plan?.notes).toMatchObject([{ code: 'no live route' }]);
  for (const bad of [
    { kind: 'test' },
    { kind: 'all', of: [{ kind: 'test', id: 'x', field: 'f', test: 'is odd', value: '' }] },
    'always',
  ]) {
    const wrong = { ...draft, targets: [{ ...targets[0], when: bad }] };
    expect((await operator.send('PUT', `/routes/${route.id}/draft`, wrong)).status).toBe(422);
  }
});
