import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RouteView } from '../../src/contract/route.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import { observatory } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { World } from '../world/world.ts';

/** So many sources and routes as no screen shows at once. */
const MANY = 120;

let world: World;
let api: Operator;
let browser: Browser;
let operator: Page;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  api = await world.operator();
  const { source, route } = await observatory(world, api, 'single');
  for (let number = 1; number <= MANY; number += 1) {
    const folder = number % 3 === 0 ? 'Evenings' : '';
    const copy = await api.post<SourceView>(`/sources/${source.id}/duplicate`);
    await api.send('PUT', `/sources/${copy.id}/name`, { name: `Form of évening ${number}`, folder });
    const other = await api.post<RouteView>(`/routes/${route.id}/duplicate`);
    await api.send('PUT', `/routes/${other.id}/name`, { name: `Way ${number}`, folder });
  }
  browser = await startBrowser();
  operator = await watch(
    await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage(),
    troubles,
  );
  await signIn(operator, world.app);
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const list = () => operator.getByRole('region', { name: 'Sources, the list' });
const shownLinks = () => list().getByRole('listitem').count();

describe('a list of many sources', () => {
  it('has only those in view in the document, and shows where one is that is opened', async () => {
    const { id } = (await api.get<SourceView[]>('/sources')).find(({ name }) => name.endsWith(' 77')) ?? {};
    await operator.goto(`${world.app}/sources/${id}`);
    await list().getByRole('link', { name: 'Form of évening 77' }).waitFor();
    expect(await shownLinks()).toBeLessThan(40);
    expect(await violationsOn(operator)).toEqual([]);
  });

  it('is found by typing, by folder, by state, and keeps that while one is opened', async () => {
    await operator.getByLabel('Find a source').fill('EVENING 11');
    await operator.getByText(`11 of ${MANY + 1}`).waitFor();
    await operator.getByLabel('Folder', { exact: true }).selectOption('Evenings');
    await operator.getByText(`3 of ${MANY + 1}`).waitFor();
    expect(await shownLinks()).toBe(3);
    await list()
      .getByRole('link', { name: /évening 114/ })
      .click();
    await operator.getByRole('heading', { name: 'Form of évening 114' }).waitFor();
    await expect.poll(shownLinks).toBe(3);
    await operator.getByRole('button', { name: 'Show all' }).click();
    await operator.getByLabel('State', { exact: true }).selectOption('live');
    await operator.getByText(`1 of ${MANY + 1}`).waitFor();
    await operator.getByRole('button', { name: 'Show all' }).click();
    await operator.getByLabel('Order', { exact: true }).selectOption('Newest first');
    await list().getByRole('link').first().getByText(`Form of évening ${MANY}`).waitFor();
  });

  it('has one renamed, put into a folder, copied and deleted', async () => {
    const more = (name: string) => list().getByRole('button', { name: `More of ${name}`, exact: true });
    const dialog = operator.getByRole('dialog');
    await more(`Form of évening ${MANY}`).click();
    await dialog.getByLabel('Name').fill('Called otherwise');
    await dialog.getByLabel('Folder').fill('Apart');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await operator.getByLabel('Find a source').fill('otherwise');
    await list().getByText(/Apart/).waitFor();
    await more('Called otherwise').click();
    await dialog.getByRole('button', { name: 'Make a copy of this source' }).click();
    await operator.getByRole('heading', { name: 'Called otherwise, copy' }).waitFor();
    await operator.getByLabel('Find a source').fill('otherwise, copy');
    await more('Called otherwise, copy').click();
    await dialog.getByRole('button', { name: 'Delete it' }).click();
    await dialog.getByText('Nothing came of it yet').waitFor();
    await dialog.getByRole('button', { name: 'Delete this source' }).click();
    await expect
      .poll(async () => (await api.get<SourceView[]>('/sources')).filter(({ name }) => name.includes('copy')).length)
      .toBe(0);
  });
});

describe('a list of many routes', () => {
  it('is found by typing and by keys, and a new one chooses its source by typing', async () => {
    await operator.goto(`${world.app}/routes`);
    await operator.getByRole('row', { name: /Way 1 / }).waitFor();
    expect(await operator.getByRole('row').count()).toBeLessThan(60);
    await operator.keyboard.press('/');
    await operator.keyboard.type('way 12');
    await operator.getByText(`3 of ${MANY + 1}`).waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Route', exact: true }).click();
    await operator.getByLabel('Name of the route').fill('By typing');
    await operator.getByRole('combobox', { name: 'Source' }).fill('evening 55');
    await operator.keyboard.press('Enter');
    await operator.getByRole('button', { name: 'Make the route' }).click();
    await operator.getByRole('heading', { name: 'By typing' }).waitFor();
    const made = (await api.get<RouteView[]>('/routes')).find(({ name }) => name === 'By typing');
    expect(made?.sourceNames).toEqual(['Form of évening 55']);
  });

  it('has one archived and taken out again', async () => {
    await operator.getByRole('button', { name: 'More of By typing' }).click();
    const dialog = operator.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Archive it' }).click();
    await dialog.getByRole('button', { name: 'Archive this route' }).click();
    await operator.goto(`${world.app}/routes?state=archived`);
    await operator.getByRole('link', { name: 'By typing' }).waitFor();
    await operator.getByRole('button', { name: 'More of By typing' }).click();
    await dialog.getByRole('button', { name: 'Take it out of the archive' }).click();
    await operator.getByText('No route matches.').waitFor();
  });

  it('and nothing broke on the way', () => expect(troubles).toEqual([]));
});
