import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { ImportView } from '../../src/contract/imports.ts';
import type { PersonView } from '../../src/contract/people.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { ShopFinding, ShopView } from '../../src/contract/shops.ts';
import type { SampleView, SourceView } from '../../src/contract/source.ts';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { ArrivalRow } from '../../src/contract/webhook.ts';
import { shopRoute } from '../../src/server/demo/documents.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { Channel, Customer, ShopState } from '../../src/standins/fennel-fox/state.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import type { StandIn } from '../world/world.ts';
import { CAPSTAN, FOX_TOKEN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let fox: StandIn;
let capstan: StandIn;
let ternPost: ConnectionView;
let shop: ConnectionView;
let source: SourceView;
let route: RouteView;
let number = 0;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  fox = await world.standIn('fennel-fox', { FENNEL_FOX_TOKEN: FOX_TOKEN });
  capstan = (await world.others()).capstan;
  ternPost = await operator.connect(world.ternPost, TERN_KEY);
  await operator.post(`/connections/${ternPost.id}/notices`);
  const office = await operator.connectTo('capstan', capstan.url, CAPSTAN);
  // Somebody shopped before the shop was connected.
  await buy({ address: 'of-before@hill.example', agree: ['email'] });
  shop = await operator.connectTo('fennel-fox', fox.url, { key: FOX_TOKEN }, 'Observatory shop');
  source = await operator.post<SourceView>('/sources', { name: 'Shop', kind: 'shop', connectionId: shop.id });
  const draft = shopRoute(source.id, { ternPost: ternPost.id, capstan: office.id });
  await operator.post(`/sources/${source.id}/publish`);
  route = await operator.route('Shop to the letter', {
    ...draft,
    consent: { ...draft.consent, confirmedBy: { by: 'nobody' } },
  });
});
afterAll(() => world.stop());

const newAddress = () => `buys${(number += 1)}@hill.example`;

interface Bought {
  address: string;
  agree?: Channel[];
  phone?: string;
  trial?: boolean;
  torches?: number;
}
const post = (path: string, fields: [string, string][]) =>
  fetch(`${fox.url}${path}`, { method: 'POST', redirect: 'manual', body: new URLSearchParams(fields) });
/** Buys a star chart at the check-out, as a browser would. */
const buy = ({ address, agree = [], phone = '', trial = false, torches = 0 }: Bought, path = '/buy') =>
  post(path, [
    ['address', address],
    ['given', 'Mara'],
    ['family', 'Quill'],
    ['phone', phone],
    ['CHART-N', '1'],
    ['TORCH-R', String(torches)],
    ...agree.map((one): [string, string] => ['agree', one]),
    ...(trial ? [['trial', 'yes'] as [string, string]] : []),
  ]);
const customerOf = async (address: string): Promise<Customer | undefined> =>
  (await fox.inside<ShopState>()).customers.find((one) => one.address === address);
const say = async (address: string, channel: Channel, says: 'yes' | 'no') =>
  post(`/account/${(await customerOf(address))?.no}/${channel}`, [['says', says]]);
const memberOf = async (address: string) => (await world.members()).find(({ email }) => email === address);

/** The newest trails of somebody, once there are so many and all has ended. */
const trailsOf = (address: string, count: number): Promise<TrailView[]> =>
  eventually(
    async () => {
      const { rows } = await operator.submissions(`text=${encodeURIComponent(address)}`);
      return Promise.all(rows.map(({ id }) => operator.trail(id)));
    },
    (trails) =>
      trails.length >= count && trails.every(({ progress }) => progress !== 'received' && progress !== 'on its way'),
    20_000,
  );
const personOf = async (address: string): Promise<PersonView> => {
  const { rows } = await operator.get<{ rows: { id: string }[] }>(`/people?text=${encodeURIComponent(address)}`);
  return operator.get<PersonView>(`/people/${rows[0]?.id}`);
};
const view = () => operator.get<ShopView>(`/sources/${source.id}/shop`);
const findings = () => operator.get<ShopFinding[]>(`/sources/${source.id}/shop/findings`);

describe('a shop becomes a source', () => {
  it('with its fields, the words of its check-out, and what happened there as examples', async () => {
    const { draft } = await operator.get<SourceView>(`/sources/${source.id}`);
    expect(draft.kind).toBe('shop');
    const labels = Object.fromEntries(draft.fields.map(({ id, label }) => [id, label]));
    expect(labels).toMatchObject({
      agrees_email: 'Yes, send me the Sky letter by email.',
      agrees_sms: 'Yes, text me when an evening is cancelled or added.',
      total: 'Total of the order',
    });
    const arrivals = await operator.get<ArrivalRow[]>(`/sources/${source.id}/arrivals`);
    expect(arrivals.filter(({ outcome }) => outcome === 'sample')).toMatchObject([{ kinds: ['order.placed'] }]);
    expect(
      (await operator.get<{ id: string; sourceId: string }[]>('/sources/shops')).map((one) => one.sourceId),
    ).toEqual([source.id]);
  });

  it('once: a second source of it, a copy, an address of its own and removing its connection are refused', async () => {
    const second = await operator.send('POST', '/sources', { name: 'Again', kind: 'shop', connectionId: shop.id });
    expect([second.status, await second.json()]).toMatchObject([422, { errors: [{ pointer: '/connectionId' }] }]);
    const other = await operator.send('POST', '/sources', { name: 'List', kind: 'shop', connectionId: ternPost.id });
    expect(other.status).toBe(422);
    expect((await operator.send('POST', `/sources/${source.id}/duplicate`)).status).toBe(409);
    expect((await fetch(source.postUrl, { method: 'POST', body: '{}' })).status).toBe(404);
    expect((await operator.send('DELETE', `/connections/${shop.id}`)).status).toBe(409);
  });

  it('says that it is told, permitted and asks at its check-out, or what is wrong and what helps', async () => {
    expect((await findings()).map(({ ok }) => ok)).toEqual([true, true, true, true]);
    await fox.change<ShopState>(({ bells, boxes }) => ({
      bells: [],
      boxes: boxes.map((box) =>
        box.channel === 'sms' ? { ...box, shown: false } : { ...box, words: 'Send me everything.' },
      ),
      kept: bells,
    }));
    expect((await findings()).filter(({ ok }) => !ok)).toMatchObject([
      { found: expect.stringContaining('taken away there') as string, fix: 'listen' },
      { found: expect.stringContaining('“Send me everything.”') as string, fix: 'read the check-out' },
      { found: expect.stringContaining('no box for') as string, fix: null },
    ]);
    await operator.post(`/sources/${source.id}/shop/listen`);
    await operator.post(`/sources/${source.id}/shop/check-out`);
    const { draft } = await operator.get<SourceView>(`/sources/${source.id}`);
    expect(draft.fields.find(({ id }) => id === 'agrees_email')?.label).toBe('Send me everything.');
    await fox.change<ShopState>(({ boxes }) => ({
      boxes: boxes.map((box) => ({
        ...box,
        shown: true,
        words: box.channel === 'email' ? 'Yes, send me the Sky letter by email.' : box.words,
      })),
    }));
    await operator.post(`/sources/${source.id}/shop/check-out`);
    expect((await findings()).every(({ ok }) => ok)).toBe(true);
    await fox.change<ShopState>(({ tokens }) => ({ tokens: tokens.map((one) => ({ ...one, ended: true })) }));
    expect(await findings()).toMatchObject([{ ok: false, fix: 'open the connection' }]);
    await fox.change<ShopState>(({ tokens }) => ({ tokens: tokens.map((one) => ({ ...one, ended: false })) }));
    await operator.verify(shop.id);
  });
});

describe('what happens in a shop', () => {
  it('who agreed at the check-out is in the list, in those words, and who bought what has its tag', async () => {
    const address = newAddress();
    await buy({ address, agree: ['email'] });
    const [trail] = await trailsOf(address, 1);
    expect(trail?.progress).toBe('delivered');
    expect(await memberOf(address)).toMatchObject({ state: 'active', groups: ['G-120'], tags: ['stargazing'] });
    const { events: consent, values } = await personOf(address);
    expect(consent.filter(({ kind }) => kind === 'given')).toMatchObject([
      { channel: 'email', wording: 'Yes, send me the Sky letter by email.' },
    ]);
    expect(consent.filter(({ kind }) => kind === 'not given')).toMatchObject([{ channel: 'sms' }]);
    expect(JSON.stringify(values)).toContain('14');
    // What an order says again of the same answer is no second consent.
    await buy({ address });
    await trailsOf(address, 2);
    expect((await personOf(address)).events).toHaveLength(2);
  });

  it('who agreed to nothing is a customer, and in no list', async () => {
    const address = newAddress();
    await buy({ address });
    const [trail] = await trailsOf(address, 1);
    expect(trail?.deliveries.map(({ state }) => state)).toEqual(['delivered']);
    expect(await memberOf(address)).toBeUndefined();
    const { records } = await capstan.inside<CapstanState>();
    expect(JSON.stringify(records).includes(address)).toBe(true);
  });

  it('an agreement to text messages is none to mails', async () => {
    const address = newAddress();
    await buy({ address, agree: ['sms'], phone: '+441632960100' });
    await trailsOf(address, 1);
    expect(await memberOf(address)).toBeUndefined();
    expect((await personOf(address)).events.filter(({ kind }) => kind === 'given')).toMatchObject([{ channel: 'sms' }]);
  });

  it('refunds and baskets that are left come with what was in them', async () => {
    const address = newAddress();
    await buy({ address, torches: 2 }, '/leave');
    const [left] = await trailsOf(address, 1);
    expect(left?.values).toMatchObject({
      event: 'basket.left',
      basket: [{ sku: 'CHART-N' }, { sku: 'TORCH-R', count: 2 }],
    });
    await buy({ address });
    await trailsOf(address, 2);
    const { orders } = await fox.inside<ShopState>();
    await post(`/desk/orders/${orders.at(-1)?.no}`, []);
    const trails = await trailsOf(address, 3);
    expect(trails.map(({ values }) => values.event)).toEqual(
      expect.arrayContaining(['order.refunded', 'order.placed', 'basket.left']),
    );
  });

  it('a test order is marked, makes nobody, and goes nowhere', async () => {
    const address = newAddress();
    await buy({ address, agree: ['email'], trial: true });
    const arrivals = () => operator.submissions(`text=${encodeURIComponent(address)}`);
    const trial = await eventually(
      async () => {
        const { rows } = await operator.submissions(`source=${source.id}`);
        return Promise.all(rows.slice(0, 3).map(({ id }) => operator.trail(id)));
      },
      (trails) => trails.some(({ values, plan }) => values.email === address && plan !== null),
    );
    const own = trial.find(({ values }) => values.email === address);
    expect(own).toMatchObject({ deliveries: [], plan: { contact: null, notes: [{ code: 'a test' }] } });
    expect(await memberOf(address)).toBeUndefined();
    expect((await operator.get<{ rows: unknown[] }>(`/people?text=${encodeURIComponent(address)}`)).rows).toEqual([]);
    expect((await arrivals()).rows).toHaveLength(0);
  });

  it('what was not told is found by asking, once, and is said', async () => {
    const address = newAddress();
    const { bells } = await fox.inside<ShopState>();
    await fox.change<ShopState>(() => ({ bells: [] }));
    const before = (await view()).missed;
    await buy({ address, agree: ['email'] });
    const [trail] = await trailsOf(address, 1);
    expect(trail?.progress).toBe('delivered');
    await fox.change<ShopState>(() => ({ bells }));
    // It was asked before half a minute had passed: so young it may have been on its way.
    expect((await view()).missed).toBe(before);
    await buy({ address, torches: 1 });
    expect(await trailsOf(address, 2)).toHaveLength(2);
    const { heardAt, askedAt, today, thisHour, problem } = await view();
    expect([heardAt, askedAt]).toEqual([expect.any(String), expect.any(String)]);
    expect([today > 0, thisHour > 0 && thisHour <= today, problem]).toEqual([true, true, '']);
  });

  it('a shop that does not answer is asked again, and what happened meanwhile is not lost', async () => {
    const address = newAddress();
    const { bells } = await fox.inside<ShopState>();
    await fox.change<ShopState>(() => ({ bells: [] }));
    await fox.faults({ share: 1, kind: 'status', status: 503, path: '/till/happenings' });
    await buy({ address, agree: ['email'] });
    expect((await eventually(view, ({ problem }) => problem !== '')).problem).toContain('503');
    await fox.noFaults();
    await fox.change<ShopState>(() => ({ bells }));
    expect((await trailsOf(address, 1))[0]?.progress).toBe('delivered');
    await eventually(view, ({ problem }) => problem === '');
  });
});

describe('consent that is taken back travels both ways', () => {
  it('stopped in the shop, they leave the list, and it ends after one round', async () => {
    const address = newAddress();
    await buy({ address, agree: ['email'] });
    await trailsOf(address, 1);
    const arrived = async () => {
      const [row] = await world.rows<{ count: string }>('SELECT SUM(delivered) AS count FROM delivery_counts');
      return Number(row?.count ?? 0);
    };
    const before = await arrived();
    await say(address, 'email', 'no');
    const trails = await trailsOf(address, 2);
    const told = trails.find(({ values }) => values.event === 'answer.changed');
    expect(told?.plan?.consent).toMatchObject([{ kind: 'withdrawn', channel: 'email' }]);
    const end = told?.deliveries.find(({ connectionId }) => connectionId === ternPost.id);
    expect(end).toMatchObject({
      state: 'delivered',
      readBack: [{ what: 'Gets something by email', found: 'no, unsubscribed there', same: true }],
    });
    expect((await memberOf(address))?.state).toBe('left');
    // A farewell is no arrival of what a route sends.
    const others = told?.deliveries.filter(({ id }) => id !== end?.id) ?? [];
    expect(await arrived()).toBe(before + others.filter(({ state }) => state === 'delivered').length);
    // The list tells that they left; that is known, and nobody is told once more.
    const person = await eventually(
      () => personOf(address),
      ({ notices }) => notices.some(({ kind }) => kind === 'member.left'),
    );
    expect(person.events.filter(({ kind }) => kind === 'withdrawn')).toHaveLength(1);
    expect((await customerOf(address))?.answers.email.words).toBe('Stopped in the account.');
    // What they buy from now on brings them to no list.
    await buy({ address });
    await trailsOf(address, 3);
    expect((await memberOf(address))?.state).toBe('left');
  });

  it('left in the list, the shop is told, and its echo changes nothing', async () => {
    const address = newAddress();
    await buy({ address, agree: ['email', 'sms'], phone: '+441632960101' });
    await trailsOf(address, 1);
    const member = await memberOf(address);
    await fetch(`${world.ternPost}/members/${member?.id}/leave`, { method: 'POST', redirect: 'manual' });
    const customer = await eventually(
      () => customerOf(address),
      (one) => one?.answers.email.says === 'no',
    );
    expect(customer?.answers.email.words).toBe('Taken back elsewhere.');
    // They left the letter, and nothing else.
    expect(customer?.answers.sms.says).toBe('yes');
    // The order, what the list told, and what the shop told of it.
    const echo = (await trailsOf(address, 3)).find(({ values }) => values.event === 'answer.changed');
    expect(echo?.plan).toMatchObject({
      consent: [],
      actions: expect.not.arrayContaining([{ kind: 'ask' }]) as unknown,
    });
    expect(echo?.deliveries.every(({ connectionId }) => connectionId !== shop.id)).toBe(true);
    const { events: consent } = await personOf(address);
    expect(consent.filter(({ kind }) => kind === 'withdrawn')).toHaveLength(1);
  });

  it('who agrees in the shop again is back, by a consent that is newer than the withdrawal', async () => {
    const address = newAddress();
    await buy({ address, agree: ['email'] });
    await trailsOf(address, 1);
    await say(address, 'email', 'no');
    await trailsOf(address, 2);
    await say(address, 'email', 'yes');
    await trailsOf(address, 3);
    const { events: consent } = await personOf(address);
    expect(consent.map(({ kind }) => kind).filter((kind) => kind !== 'not given')).toEqual(
      expect.arrayContaining(['given', 'withdrawn', 'given']),
    );
  });

  it('a person who is unsubscribed by hand in one place is told to the others', async () => {
    const address = newAddress();
    await buy({ address, agree: ['email'] });
    await trailsOf(address, 1);
    const { id } = await personOf(address);
    await operator.post(`/people/${id}/places`, {
      connectionId: ternPost.id,
      kind: '',
      act: 'unsubscribe',
      list: '',
      group: '',
      tag: '',
      reason: 'Asked for it by telephone.',
    });
    await eventually(
      () => customerOf(address),
      (one) => one?.answers.email.says === 'no',
    );
  });
});

describe('customers of before', () => {
  const imports = () => operator.get<ImportView[]>(`/sources/${source.id}/imports`);
  const state = (wanted: ImportView['state']) => eventually(imports, ([one]) => one?.state === wanted, 30_000);

  it('are fetched though the shop is down for a while, rehearsed, and taken with what each agreed to', async () => {
    const { customers } = await fox.inside<ShopState>();
    const [pattern] = customers;
    if (!pattern) throw new Error('nobody is there');
    const old = Array.from({ length: 230 }, (_, index): Customer => ({
      ...pattern,
      no: `C-old-${index}`,
      address: `old${index}@hill.example`,
      phone: '',
      name: { given: 'Ada', family: `Old ${index}` },
      answers: {
        email:
          index % 2 === 0
            ? { says: 'yes', words: 'The letter, please.', on: '2024-05-01T10:00:00.000Z' }
            : { says: 'no', words: 'The letter, please.', on: '2024-05-01T10:00:00.000Z' },
        sms: { says: null, words: '', on: null },
      },
    }));
    await fox.change<ShopState>(() => ({ customers: [...customers, ...old] }));
    await fox.faults({ next: 1, kind: 'status', status: 503, path: '/till/customers' });
    await operator.post(`/sources/${source.id}/shop/customers`);
    const [ready] = await state('ready');
    const total = customers.length + old.length;
    expect(ready).toMatchObject({ fetched: total, total, problem: '' });
    const evidence = {
      agreed: 'given',
      words: 'as the shop has it of each',
      where: 'Observatory shop',
      when: '2026-11-01',
    };
    const path = `/sources/${source.id}/imports/${ready?.id}`;
    await operator.post(`${path}/rehearse`, evidence);
    const [rehearsed] = await eventually(imports, ([one]) => one?.state === 'ready' && one.rehearsed !== null, 30_000);
    expect(rehearsed?.rehearsed).toMatchObject({ rows: total, refused: 0 });
    expect(rehearsed?.rehearsed?.fresh).toBeGreaterThanOrEqual(230);
    await operator.post(`${path}/begin`, { ...evidence, perMinute: 60_000 });
    const [done] = await state('done');
    expect(done?.counts).toEqual({ taken: total, refused: 0 });
    const [agreed] = await trailsOf('old0@hill.example', 1);
    expect(agreed?.plan?.consent).toMatchObject([
      { kind: 'given', wording: 'The letter, please.', at: Date.parse('2024-05-01T10:00:00Z') },
    ]);
    const { events: consent } = await personOf('old0@hill.example');
    expect(consent.map(({ at }) => at)).toEqual(['2024-05-01T10:00:00.000Z']);
    expect(await memberOf('old0@hill.example')).toMatchObject({ state: 'active' });
    await trailsOf('old1@hill.example', 1);
    expect(await memberOf('old1@hill.example')).toBeUndefined();
    expect((await personOf('old1@hill.example')).events).toEqual([]);
    // Nobody is mailed.
    expect(await world.letters('old0@hill.example')).toEqual([]);
  });
});

it('a sample of a shop can be rehearsed on its route', async () => {
  const address = newAddress();
  await buy({ address, agree: ['email'] });
  await trailsOf(address, 1);
  const samples = await operator.get<SampleView[]>(`/sources/${source.id}/samples`);
  const sample = samples.find(({ values }) => values.event === 'order.placed' && values.agrees_email === true);
  const rehearsed = await operator.post<{ plan: TrailView['plan'] }>(`/routes/${route.id}/rehearsal`, {
    sourceId: source.id,
    values: sample?.values,
    visit: sample?.visit,
  });
  expect(rehearsed.plan?.contact?.match).toBe('matched');
});
