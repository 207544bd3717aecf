import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startBrowser, violationsOn, watch } from '../world/browser.ts';
import { PASSWORD } from '../world/operator.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import { BELL, CAPSTAN, ROWBARN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let browser: Browser;
let page: Page;
let others: Awaited<ReturnType<World['others']>>;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  others = await world.others();
  browser = await startBrowser();
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' })).newPage();
  await watch(page, troubles);
  await page.goto(world.firstLink);
  await page.getByLabel('Your name').fill('Wren');
  await page.getByLabel('Email').fill('wren@pellam-ridge.example');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await page.getByRole('heading', { name: 'Nothing flows yet' }).waitFor();
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const expectAccessible = async () => {
  expect(await violationsOn(page)).toEqual([]);
  await page.evaluate(() => (document.documentElement.dataset.theme = 'night'));
  expect(await violationsOn(page)).toEqual([]);
  await page.evaluate(() => (document.documentElement.dataset.theme = 'day'));
};

/** Looks a service up by what it is for. */
async function choose(purpose: string, name: RegExp): Promise<void> {
  await page.goto(`${world.app}/connections/new`);
  await page.getByLabel('What do you want to connect?').fill(purpose);
  await page.getByRole('link', { name }).first().click();
}
const press = (name: string) => page.getByRole('button', { name, exact: true }).click();

describe('a practitioner connects every kind of service, and is told what is wrong', () => {
  it('Capstan: an address without its scheme and a secret copied badly, then the right ones', async () => {
    await choose('customers', /^Capstan/);
    await page.getByLabel('Base URL').fill(others.capstan.url.replace('http://', ''));
    await page.getByLabel('Key', { exact: true }).fill(CAPSTAN.key);
    await page.getByLabel('Secret').fill('not-the-secret');
    await press('Verify');
    // The address that is meant is a button, and is tried at once.
    await press(`Use ${others.capstan.url}`);
    await page.getByText('Copy the Key and Secret again').waitFor();
    expect(await page.getByLabel('Base URL').inputValue()).toBe(others.capstan.url);
    await expectAccessible();
    await page.getByLabel('Secret').fill(CAPSTAN.secret);
    await press('Verify');
    await page.getByText('3 kinds of record and 3 segments came back').waitFor();
    await press('Save');
    await page.getByRole('heading', { name: 'In Capstan' }).waitFor();
    await expectAccessible();
  });

  it('Rowbarn: access is granted in its own window, and leads back', async () => {
    await choose('sheet', /^Rowbarn/);
    await page.getByText(`${world.app}/api/connections/granted`).waitFor();
    await page.getByLabel('Base URL').fill(others.rowbarn.url);
    await page.getByLabel('Client id').fill(ROWBARN.clientId);
    await page.getByLabel('Client secret').fill(ROWBARN.clientSecret);
    await expectAccessible();
    await press('Save, and grant access in Rowbarn');
    await page.getByRole('heading', { name: 'Iwashi asks for access' }).waitFor();
    await press('Refuse');
    await page.getByText('Rowbarn did not grant access').waitFor();
    await expectAccessible();
    await press('Grant access in Rowbarn');
    await press('Give access');
    await page.getByText('Connected to Pellam Ridge sheets').waitFor();
    await page.getByText('renewed by itself').waitFor();
    await expectAccessible();
  });

  it('Bellbuoy: an address that is the secret', async () => {
    await choose('notification', /^Bellbuoy/);
    await page.getByLabel('Webhook URL').fill(`${others.bellbuoy.url}${BELL}`);
    await press('Save');
    await page.getByText('Connected to the front desk bell').waitFor();
    expect(await page.content()).not.toContain('hook-for-tests');
    await expectAccessible();
  });

  it('Letterloft, by mail', async () => {
    await choose('email', /^Mail to a colleague/);
    await page.getByLabel('Mail server').fill('mail.example.org');
    await press('Verify');
    await page.getByText('Write it as smtps://mail.example.org').first().waitFor();
    await page.getByLabel('Mail server').fill(world.env.SMTP_URL ?? '');
    await press('Save');
    await page.getByText('Connected to 127.0.0.1').waitFor();
  });

  it('a service that is not here, from its description, without touching a document', async () => {
    await page.goto(`${world.app}/connections/new`);
    await page.getByRole('link', { name: /A service that is not here/ }).click();
    await page.getByLabel('Address of the description').fill(`${world.ternPost}/v1/openapi.json`);
    await press('Read it');
    await page.getByRole('heading', { name: 'Tern Post: 17 operations' }).waitFor();
    // What its words mean was guessed, and can be corrected without the document.
    await expect(page.getByLabel('left means').inputValue()).resolves.toBe('unsubscribed');
    await page.getByLabel('refused means').selectOption('unsubscribed');
    await page.getByLabel('refused means').selectOption('suppressed');
    await page.getByLabel('API key').fill(TERN_KEY);
    await press('Who are we?');
    await page.getByText('It answered as Pellam Ridge Observatory.').waitFor();
    await press('What does it offer?');
    await page.getByLabel('A test address').fill('trial@hill.example');
    await press('Write the test address');
    await page.getByText('First name is required.').first().waitFor();
    await page.getByLabel('First name (required there)').fill('Trial');
    await page.getByLabel('List', { exact: true }).selectOption({ label: 'Sky letter' });
    await press('Write the test address');
    await page.getByText('Written: trial@hill.example').waitFor();
    await press('Delete it there');
    await page.getByText('Deleted there.').waitFor();
    await page.getByLabel('What lets us in').selectOption('bearer');
    await press('Who are we?');
    await page.getByText('It answered as Pellam Ridge Observatory.').waitFor();
    await expectAccessible();
    await page.getByLabel('Name of the service').fill('Our letters');
    await press('Save the profile, and connect');
    await page.getByRole('heading', { name: 'Connect Our letters' }).waitFor();
    await page.getByLabel('API key').fill(TERN_KEY);
    await press('Save');
    await page.getByText('3 lists, 4 groups, 5 tags and 7 fields came back').waitFor();
    await page.goto(`${world.app}/connections/own?from=curl`);
    await page
      .getByLabel('The example, from curl on')
      .fill(`curl ${world.ternPost}/v1/members -d '{"email":"a@b.example"}'`);
    await press('Read it');
    await page.getByRole('region', { name: 'Try it' }).waitFor();
    await expectAccessible();
  });

  it('makes what is missing there without leaving Iwashi', async () => {
    await page.goto(`${world.app}/connections`);
    await page.getByRole('link', { name: /^Capstan/ }).click();
    await press('New segment');
    await page.getByLabel('Name', { exact: true }).fill('Volunteers');
    await press('Make it');
    await page
      .getByRole('listitem')
      .filter({ hasText: /^Volunteers$/ })
      .waitFor();
  });

  it('sees at once when a key was switched off there, and that all is well again once it is on', async () => {
    const revoke = (revoked: boolean) =>
      others.capstan.change<CapstanState>(({ pairs }) => ({ pairs: pairs.map((pair) => ({ ...pair, revoked })) }));
    await revoke(true);
    await press('Verify');
    await page.getByText('This key was switched off').waitFor();
    await page.getByRole('region', { name: 'Details' }).getByText('credentials refused').first().waitFor();
    await expectAccessible();
    await revoke(false);
    await press('Verify');
    await page.getByText('Connected to Pellam Ridge front office').waitFor();
  });

  it('met no script error on the way', () => expect(troubles).toEqual([]));
});
