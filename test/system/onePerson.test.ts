import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ChatBegun } from '../../src/contract/chat.ts';
import type { ImportView } from '../../src/contract/imports.ts';
import type { PersonView } from '../../src/contract/people.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { SecretView } from '../../src/contract/webhook.ts';
import { SOURCE_FORMAT, type FileDocument } from '../../src/core/intake/index.ts';
import { plainField } from '../../src/core/values/index.ts';
import { frontDeskChat, frontDeskRoute } from '../../src/server/demo/chat.ts';
import { MEMBER_FIELD, membersRoute, membersSource, shopRoute } from '../../src/server/demo/documents.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { ShopState } from '../../src/standins/fennel-fox/state.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { CAPSTAN, FOX_TOKEN, TERN_KEY, World, type StandIn } from '../world/world.ts';

const EMAIL = 'quilla.duskwater@postbox.example';
let world: World;
let operator: Operator;
let fox: StandIn;
let capstan: StandIn;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  [fox, { capstan }] = await Promise.all([
    world.standIn('fennel-fox', { FENNEL_FOX_TOKEN: FOX_TOKEN }),
    world.others(),
  ]);
  await world.changeTernPost(({ fields, tags }) => ({
    fields: [
      ...fields,
      { key: MEMBER_FIELD, label: 'Member', kind: 'figure', required: false, options: [], longest: null },
    ],
    tags: [...tags, { id: 'T-patron', name: 'patron' }, { id: 'T-friend', name: 'friend' }],
  }));
});
afterAll(() => world.stop());

const single = <Route extends { consent: object }>(route: Route): Route => ({
  ...route,
  consent: { ...route.consent, confirmedBy: { by: 'nobody' } },
});
const member = async () => (await world.members()).filter(({ email }) => email === EMAIL);
const person = async (): Promise<PersonView> => {
  const { rows } = await operator.get<{ rows: { id: string }[] }>(`/people?text=${EMAIL}`);
  expect(rows).toHaveLength(1);
  return operator.get<PersonView>(`/people/${rows[0]?.id}`);
};
/** All that came of them, once it is so much and all of it has ended. */
const settled = (submissions: number): Promise<PersonView> =>
  eventually(
    async () => {
      const { rows } = await operator.get<{ rows: { id: string }[] }>(`/people?text=${EMAIL}`);
      return operator.get<PersonView>(`/people/${rows[0]?.id ?? 'nobody'}`).catch(() => null);
    },
    (one) =>
      one !== null &&
      one.submissions.length >= submissions &&
      one.submissions.every(({ progress }) => !['received', 'on its way', 'held'].includes(progress)),
    30_000,
  ) as Promise<PersonView>;

it('one person who chats, registers, buys, is imported and unsubscribes in the shop is one contact, once in each system, and left alone', async () => {
  // Four systems, and five sources of every kind.
  const ternPost = await operator.connect(world.ternPost, TERN_KEY);
  await operator.post(`/connections/${ternPost.id}/notices`);
  const office = await operator.connectTo('capstan', capstan.url, CAPSTAN);
  const shop = await operator.connectTo('fennel-fox', fox.url, { key: FOX_TOKEN }, 'Observatory shop');
  let made = 0;
  const chat = await operator.source(
    'Front desk',
    frontDeskChat(world.site, () => `id${(made += 1)}`),
  );
  await operator.route('Front desk to the letter', single(frontDeskRoute(chat.id, ternPost.id)));
  const site = await operator.source('Members of the site', membersSource());
  const { secret } = await operator.put<SecretView>(`/sources/${site.id}/secret`, { secret: '' });
  await fetch(`${world.site}/members-told.json`, {
    method: 'PUT',
    body: JSON.stringify({ url: site.postUrl, secret }),
  });
  await operator.route('Members', single(membersRoute(site.id, ternPost.id)));
  const till = await operator.post<SourceView>('/sources', { name: 'Shop', kind: 'shop', connectionId: shop.id });
  await operator.post(`/sources/${till.id}/publish`);
  await operator.route('Shop', single(shopRoute(till.id, { ternPost: ternPost.id, capstan: office.id })));
  const sheet = await operator.source('Friends of old', {
    format: SOURCE_FORMAT,
    kind: 'file',
    fields: [
      { ...plainField('email', 'email'), label: 'Email', path: "$['Email']", keepAs: 'email', required: true },
      { ...plainField('first_name', 'text'), label: 'First name', path: "$['First name']", keepAs: 'first_name' },
    ],
    statement: '',
    trust: 'usual',
  } satisfies FileDocument);
  const old = shopRoute(sheet.id, { ternPost: ternPost.id });
  await operator.route('Friends to the letter', {
    ...single(old),
    targets: old.targets.map((target) => ({
      ...target,
      tags: [],
      lines: target.lines.filter(({ to }) => to === 'email' || to === 'given'),
    })),
    consent: {
      ...single(old).consent,
      asks: old.consent.asks.slice(0, 1).map((ask) => ({ ...ask, tickField: '' })),
    },
  });

  // They chat, and agree to the letter there.
  const id = chat.postUrl.split('/').at(-1) ?? '';
  const post = (path: string, body: object) =>
    fetch(`${world.app}/chat/${id}${path}`, {
      method: 'POST',
      headers: { origin: world.site },
      body: JSON.stringify(body),
    });
  const { token } = (await (await post('', { page: `${world.site}/visit` })).json()) as ChatBegun;
  for (const text of ['The Sky letter', 'Quilla Duskwater', EMAIL, 'yes'])
    await post('/say', { token, id: crypto.randomUUID(), said: { kind: 'text', text }, after: 0 });
  await settled(1);
  expect(await member()).toMatchObject([{ state: 'active', lists: ['L-100'] }]);

  // They register as a patron.
  await fetch(`${world.site}/join`, {
    method: 'POST',
    body: new URLSearchParams({
      email: EMAIL.toUpperCase(),
      given: 'Quilla',
      family: 'Duskwater',
      level: 'Patron',
      agree: 'yes',
    }),
  });
  await settled(2);
  expect(await member()).toMatchObject([
    { fields: { member: 1 }, tags: expect.arrayContaining(['patron']) as unknown },
  ]);

  // They buy, and tick the box for the letter.
  await fetch(`${fox.url}/buy`, {
    method: 'POST',
    body: new URLSearchParams([
      ['address', EMAIL],
      ['given', 'Quilla'],
      ['family', 'Duskwater'],
      ['CHART-N', '1'],
      ['agree', 'email'],
    ]),
  });
  await settled(3);
  expect(await member()).toMatchObject([{ tags: expect.arrayContaining(['patron', 'stargazing']) as unknown }]);

  // They are in a sheet that somebody brings.
  const file = await operator.bring<ImportView>(
    `/sources/${sheet.id}/imports`,
    'old-friends.csv',
    `Email,First name,Last name\n${EMAIL},Quilla,Duskwater\n`,
  );
  const path = `/sources/${sheet.id}/imports/${file.id}`;
  const state = (wanted: ImportView['state']) =>
    eventually(
      async () => (await operator.get<ImportView[]>(`/sources/${sheet.id}/imports`))[0],
      (one) => one?.state === wanted,
      20_000,
    );
  await state('ready');
  const evidence = {
    agreed: 'confirmed',
    words: 'Yes, send me the Sky letter by email.',
    where: 'A list at the gate',
    when: '2025-05-01',
  };
  await operator.post(`${path}/begin`, { ...evidence, perMinute: 600 });
  await state('done');
  const known = await settled(4);

  // One contact with one trail, once in each system.
  expect(new Set(known.submissions.map(({ sourceName }) => sourceName))).toEqual(
    new Set(['Front desk', 'Members of the site', 'Shop', 'Friends of old']),
  );
  expect(await member()).toHaveLength(1);
  const { records } = await capstan.inside<CapstanState>();
  expect(records.filter(({ cells }) => cells.mail === EMAIL)).toHaveLength(1);
  expect(known.events.some(({ kind }) => kind === 'withdrawn')).toBe(false);

  // They unsubscribe in the shop.
  const { customers } = await fox.inside<ShopState>();
  const customer = customers.find(({ address }) => address === EMAIL);
  await fetch(`${fox.url}/account/${customer?.no}/email`, {
    method: 'POST',
    body: new URLSearchParams({ says: 'no' }),
  });
  await eventually(member, ([one]) => one?.state === 'left', 20_000);
  const left = await eventually(person, ({ notices }) => notices.some(({ kind }) => kind === 'member.left'), 20_000);
  expect(left.events.filter(({ kind }) => kind === 'withdrawn')).toMatchObject([
    { channel: 'email', evidence: { 'told by': 'the shop' } },
  ]);

  // From then on they are left alone everywhere, whatever brings them up again.
  await fetch(`${world.site}/membership?email=${encodeURIComponent(EMAIL.toUpperCase())}`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams({ act: 'renew' }),
  });
  await fetch(`${fox.url}/buy`, {
    method: 'POST',
    body: new URLSearchParams([
      ['address', EMAIL],
      ['given', 'Quilla'],
      ['family', 'Duskwater'],
      ['TORCH-R', '1'],
    ]),
  });
  const again = await operator.bring<ImportView>(
    `/sources/${sheet.id}/imports`,
    'old-friends-again.csv',
    `Email,First name,Last name\n${EMAIL},Quilla,Duskwater\n`,
  );
  await state('ready');
  await operator.post(`/sources/${sheet.id}/imports/${again.id}/begin`, { ...evidence, perMinute: 600 });
  await state('done');
  const after = await settled(left.submissions.length + 3);
  expect(await member()).toMatchObject([{ state: 'left' }]);
  expect((await fox.inside<ShopState>()).customers.filter(({ address }) => address === EMAIL)).toHaveLength(1);
  expect(after.events.filter(({ kind }) => kind === 'withdrawn')).toHaveLength(1);
  expect(await world.letters(EMAIL)).toEqual([]);
  const told = after.deliveries.filter(
    ({ connectionId, id: delivery }) =>
      connectionId === ternPost.id && !left.deliveries.some(({ id: before }) => before === delivery),
  );
  expect(told.filter(({ state: one }) => one === 'delivered')).toEqual([]);
});
