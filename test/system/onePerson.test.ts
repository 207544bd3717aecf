import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ChatBegun } from '../../src/contract/chat.ts';
import type { ImportView } from '../../src/contract/imports.ts';
import type { PersonView } from '../../src/contract/people.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { ShopState } from '../../src/standins/fennel-fox/state.ts';
import { connectEverywhere } from '../world/everywhere.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

const EMAIL = 'quilla.duskwater@postbox.example';
let world: World;
let operator: Operator;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

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
  const { fox, capstan, ternPost, chat, sheet } = await connectEverywhere(world, operator);

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
      connectionId === ternPost && !left.deliveries.some(({ id: before }) => before === delivery),
  );
  expect(told.filter(({ state: one }) => one === 'delivered')).toEqual([]);
});
