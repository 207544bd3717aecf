import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import { connectEverywhere, type Everywhere } from '../world/everywhere.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

const EMAIL = 'quilla.duskwater@postbox.example';
let world: World;
let api: Operator;
let everywhere: Everywhere;
let browser: Browser;
let operator: Page;
let visitor: Page;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  api = await world.operator();
  everywhere = await connectEverywhere(world, api);
  await world.putScript();
  browser = await startBrowser();
  operator = await watch(await browser.newPage({ viewport: { width: 1280, height: 800 } }), troubles);
  visitor = await watch(await browser.newPage({ viewport: { width: 1280, height: 800 } }), troubles);
  await signIn(operator, world.app);
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const member = async () => (await world.members()).filter(({ email }) => email === EMAIL);
const isLeft = async () => {
  const all = await member();
  return all.length === 1 && all[0]?.state === 'left';
};
const tags = async () => (await member())[0]?.tags ?? [];

/** Brings a list in which they are, and takes it as one whose people agreed. */
async function bringList(name: string): Promise<void> {
  await operator.goto(`${world.app}/sources/${everywhere.sheet.id}`);
  const text = `Email,First name\n${EMAIL},Quilla\n`;
  await operator.getByLabel('Choose a file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  const file = operator.locator('details').filter({ hasText: name });
  await file.getByLabel('What these people agreed to').selectOption('confirmed');
  await file.getByLabel('In these words').fill('Yes, send me the Sky letter by email.');
  await file.getByLabel('Where').fill('The list at the gate');
  await file.getByLabel('When').fill('2025-05-01');
  await file.getByLabel('Rows a minute').fill('60000');
  await file.getByRole('button', { name: 'Rehearse all rows' }).click();
  await file.getByRole('button', { name: 'Take 1 row', exact: true }).click();
  await file.getByText('done').waitFor();
}

async function buy(goods: string): Promise<void> {
  await visitor.goto(everywhere.fox.url);
  await visitor.getByLabel('First name').fill('Quilla');
  await visitor.getByLabel('Last name').fill('Duskwater');
  await visitor.getByLabel('Email').first().fill(EMAIL);
  await visitor.locator('input[type=number]').first().fill('0');
  await visitor.locator(`input[name=${goods}]`).fill('1');
}

it('one person who chats, registers, buys, is on a list and unsubscribes in the shop is one contact with one trail, and left alone', async () => {
  // The front desk, until somebody agrees to the letter.
  const opener = visitor.getByRole('button', { name: 'Open the chat: Ask the front desk' });
  await eventually(
    async () => {
      await visitor.goto(`${world.site}/visit`);
      return opener
        .waitFor({ timeout: 2_000 })
        .then(() => true)
        .catch(() => false);
    },
    (isThere) => isThere,
    45_000,
  );
  await opener.click();
  const chat = visitor.getByRole('dialog', { name: 'Front desk' });
  await chat.getByRole('button', { name: 'The Sky letter' }).click();
  await chat.getByText('What may we call you?').waitFor();
  for (const [asked, said] of [
    ['What may we call you?', 'Quilla Duskwater'],
    ['And where can we write to you?', EMAIL],
  ] as const) {
    await chat.getByText(asked).waitFor();
    await chat.getByPlaceholder('Type your answer').fill(said);
    await visitor.keyboard.press('Enter');
  }
  await chat.getByRole('button', { name: 'Yes', exact: true }).click();
  await chat.getByText('See you under the stars!').waitFor();
  await eventually(member, ([one]) => one?.state === 'active');

  // The site's registration, in capitals.
  await visitor.goto(`${world.site}/join`);
  await visitor.getByLabel('First name').fill('Quilla');
  await visitor.getByLabel('Last name').fill('Duskwater');
  await visitor.getByLabel('Email', { exact: true }).fill(EMAIL.toUpperCase());
  await visitor.locator('select[name=level]').selectOption('Patron');
  await visitor.locator('input[name=agree]').check();
  await visitor.getByRole('button', { name: 'Join' }).click();
  await eventually(tags, (all) => all.includes('patron'));

  // The shop, with the box for the letter.
  await buy('CHART-N');
  await visitor.locator('input[name=agree][value=email]').check();
  await visitor.getByRole('button', { name: 'Buy now' }).click();
  await eventually(tags, (all) => all.includes('stargazing'));

  // A list that somebody brings.
  await bringList('old-friends.csv');

  // One contact with one trail, once in each system.
  await operator.getByRole('link', { name: 'People' }).click();
  await operator.getByLabel('Address, number or name').fill(EMAIL);
  await eventually(
    () => operator.getByRole('link', { name: new RegExp(EMAIL) }).count(),
    (count) => count === 1,
  );
  await operator.getByRole('link', { name: new RegExp(EMAIL) }).click();
  for (const source of ['Front desk', 'Members of the site', 'Shop', 'Friends of old'])
    await operator.getByText(source, { exact: true }).first().waitFor();
  expect(await violationsOn(operator)).toEqual([]);
  expect(await member()).toHaveLength(1);
  const { records } = await everywhere.capstan.inside<CapstanState>();
  expect(records.filter(({ cells }) => cells.mail === EMAIL)).toHaveLength(1);
  const person = operator.url();

  // They stop the letter in the shop's account, and it stops everywhere.
  await visitor.goto(`${everywhere.fox.url}/account?address=${EMAIL}`);
  await visitor.getByRole('button', { name: 'Stop it' }).first().click();
  await eventually(isLeft, (left) => left, 30_000);
  await operator.goto(person);
  await operator.getByText('withdrawn').first().waitFor();

  // Whatever brings them up again, they are left alone.
  await buy('TORCH-R');
  await visitor.getByRole('button', { name: 'Buy now' }).click();
  await bringList('old-friends-again.csv');
  await eventually(
    async () => (await api.submissions()).rows,
    (rows) => rows.length >= 7 && rows.every(({ progress }) => !['received', 'on its way'].includes(progress)),
    30_000,
  );
  expect(await isLeft()).toBe(true);
  expect(await world.letters(EMAIL)).toEqual([]);
  expect(troubles).toEqual([]);
});
