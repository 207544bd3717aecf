import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import type { Operator } from '../world/operator.ts';
import { World } from '../world/world.ts';

let world: World;
let api: Operator;
let browser: Browser;
let operator: Page;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  api = await world.operator();
  browser = await startBrowser();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  operator = await watch(await context.newPage(), troubles);
  await signIn(operator, world.app);
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const order = (at: number, type = 'order.paid') => ({
  id: `m-${at}`,
  type,
  customer: { email: `guest${at}@hill.example`, fullName: 'Mara Quill' },
  access_token: 'a-secret-of-theirs',
});
const send = (url: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });

describe('an inbound webhook', () => {
  it('is made, copied, tried once, looked at, mapped and switched on by somebody who has no documentation', async () => {
    await operator.goto(`${world.app}/sources`);
    await operator.getByRole('button', { name: 'Add a source' }).click();
    const making = operator.getByRole('dialog', { name: 'A new source' });
    await making.getByLabel(/Inbound webhook/).check();
    await making.getByLabel('Name').fill('The gate');
    await making.getByRole('button', { name: 'Make it', exact: true }).click();
    await operator.getByText('have it send one test').waitFor();
    const url = (await operator.getByText(/\/in\/\w+$/).innerText()).trim();
    expect(await (await send(url, order(1))).json()).toMatchObject({ accepted: false });

    const arrivals = operator.getByRole('region', { name: 'What arrived' });
    await arrivals.getByRole('button', { name: /kept as an example/ }).click();
    const body = operator.getByRole('region', { name: 'Body' });
    await body.getByText('guest1@hill.example').waitFor();
    const found = operator.getByRole('region', { name: 'What stands in it' });
    expect(await found.getByRole('row', { name: /access_token/ }).innerText()).toContain('looks secret');
    await found.getByRole('button', { name: 'Take $.customer.email as a field' }).click();
    await found.getByRole('button', { name: 'Take $.customer.fullName as a field' }).click();
    await found
      .getByRole('row', { name: /customer\.email/ })
      .getByText('a field')
      .waitFor();
    await operator.getByLabel('Where its id stands').fill('$.id');
    await operator.getByLabel('Where the kind stands').fill('$.type');
    await operator.getByLabel('All others').selectOption('ignore');
    await operator.getByLabel('What becomes of order.paid').selectOption('take');
    await operator.getByLabel('Known by').selectOption('bearer');
    expect(await violationsOn(operator)).toEqual([]);

    await operator.getByRole('button', { name: 'Publish', exact: true }).click();
    await operator.getByText('There is none yet: nobody is let in.').waitFor();
    await operator.getByRole('button', { name: 'Make one' }).click();
    const told = operator.getByRole('status').filter({ hasText: 'shown this once' });
    const secret = (await told.locator('p.font-mono').innerText()).trim();
    expect((await send(url, order(2))).status).toBe(401);
    expect((await send(url, order(2), { authorization: `Bearer ${secret}` })).status).toBe(202);
    expect((await send(url, order(3, 'order.viewed'), { authorization: `Bearer ${secret}` })).status).toBe(202);
    await arrivals.getByText('does not show who sent it').waitFor();
    await arrivals.getByRole('button', { name: /ignored/ }).waitFor();
    expect((await api.submissions()).rows.map(({ email }) => email)).toEqual(['guest2@hill.example']);

    // What came before it was switched on is taken once somebody says so.
    await operator.getByRole('button', { name: 'Have it taken' }).click();
    await operator.getByText('Taken: it is among the submissions now.').waitFor();
    await expect
      .poll(async () => (await api.submissions()).rows.map(({ email }) => email))
      .toEqual(['guest1@hill.example', 'guest2@hill.example']);
    expect(await violationsOn(operator)).toEqual([]);
  });

  it('says beside its cause what keeps it from going live', async () => {
    await operator.getByLabel('Where its id stands').fill('id');
    await operator.getByLabel('Known by').selectOption('signature');
    await operator.getByLabel('What is signed').fill('{time}');
    await operator.getByRole('button', { name: 'Publish changes' }).click();
    await operator.getByRole('button', { name: 'Publish', exact: true }).click();
    await operator.getByText('This is not a JSONPath. Write it like $.id.').waitFor();
    await operator.getByText('What is signed has to have {body} in it').waitFor();
    await operator.getByText('Name the header.').waitFor();
  });

  it('had no trouble in its scripts', () => expect(troubles).toEqual([]));
});
