import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'playwright-core';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
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
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true });
  operator = await watch(await context.newPage(), troubles);
  await signIn(operator, world.app);
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

/** Forty people, and twenty deliberate faults: no address, none that could be, and days that there are not. */
const GOOD = Array.from({ length: 40 }, (_, at) => [`g${at}@sheet.example`, `Guest ${at}`, `${(at % 28) + 1}.02.2024`]);
const FAULTY = Array.from({ length: 20 }, (_, at) => [
  at % 3 === 0 ? '' : at % 3 === 1 ? `nobody${at}` : `f${at}@sheet.example`,
  `Faulty ${at}`,
  at % 3 === 2 ? '31.02.2024' : '01.02.2024',
]);
const SHEET = [['E-mail', 'Name', 'Joined'], ...GOOD, ...FAULTY].map((row) => row.join(';')).join('\r\n');

const bring = (name: string, text: string) =>
  operator.getByLabel('Choose a file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

describe('a list of people', () => {
  it('is brought, looked through, mapped, rehearsed and taken; what is refused is mended and brought again', async () => {
    await operator.goto(`${world.app}/sources`);
    await operator.getByRole('button', { name: 'Add a source' }).click();
    const making = operator.getByRole('dialog', { name: 'A new source' });
    await making.getByLabel(/File: a list of people/).check();
    await making.getByLabel('Name').fill('Members of old');
    await making.getByRole('button', { name: 'Make it', exact: true }).click();
    await bring('members.csv', SHEET);

    const columns = operator.getByRole('region', { name: 'Columns of members.csv' });
    await columns.getByText('A semicolon parts every row looked at into 3 columns.').waitFor();
    await columns.getByText(/The day is first/).waitFor();
    await columns.getByRole('button', { name: 'Take E-mail as a field' }).click();
    await columns.getByRole('button', { name: 'Take Name as a field' }).click();
    await columns.getByRole('button', { name: 'Take Joined as a field' }).click();
    // The address that every new source asks for is not in this file under that name.
    await operator.getByRole('button', { name: 'Remove Email', exact: true }).click();
    await operator.getByRole('group', { name: 'E-mail' }).getByLabel('Type').selectOption('email');
    await operator.getByRole('group', { name: 'E-mail' }).getByLabel('required').check();
    await operator.getByRole('group', { name: 'E-mail' }).getByLabel('Contact value').selectOption('email');
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Publish', exact: true }).click();

    const file = operator.locator('details').filter({ hasText: 'members.csv' });
    await file.getByLabel('What these people agreed to').selectOption('given');
    await file.getByRole('button', { name: 'Rehearse all rows' }).click();
    await file.getByText('Enter the words that they agreed to.').waitFor();
    await file.getByLabel('In these words').fill('Send me the letter.');
    await file.getByLabel('Where').fill('The list at the gate');
    await file.getByLabel('When').fill('2026-03-01');
    await file.getByRole('button', { name: 'Rehearse all rows' }).click();
    const rehearsal = file.getByRole('region', { name: 'Rehearsal' });
    await rehearsal.getByText('Of 60 rows, as everything is live').waitFor();
    expect((await rehearsal.innerText()).replace(/\s+/g, ' ')).toMatch(/New people 40 .* Refused 20/);
    expect((await api.submissions()).rows).toEqual([]);

    await file.getByLabel('Rows a minute').fill('60000');
    await file.getByRole('button', { name: 'Take 60 rows' }).click();
    const [download] = await Promise.all([
      operator.waitForEvent('download'),
      file.getByRole('link', { name: 'The rows that were refused, with why' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('members-not-taken.csv');
    const rejects = parse<Record<string, string>>(readFileSync(await download.path(), 'utf8'), {
      bom: true,
      columns: true,
    });
    expect(rejects).toHaveLength(20);
    expect(rejects.every((row) => (row['Why it was not taken'] ?? '').length > 10)).toBe(true);

    const mended = rejects.map((row, at) => ({ ...row, 'E-mail': `m${at}@sheet.example`, Joined: '01.02.2024' }));
    await bring('mended.csv', stringify(mended, { header: true }));
    const second = operator.locator('details').filter({ hasText: 'mended.csv' });
    await second.getByLabel('What these people agreed to').selectOption('no');
    await second.getByLabel('Rows a minute').fill('60000');
    await second.getByRole('button', { name: 'Rehearse all rows' }).click();
    await second.getByRole('button', { name: 'Take 20 rows' }).click();
    await second.getByText('done').waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    const [stored] = await world.rows<{ count: number }>('SELECT COUNT(*) AS count FROM submissions');
    expect(Number(stored?.count)).toBe(60);
  });

  it('is undone, once it was said what that means', async () => {
    const file = operator.locator('details').filter({ hasText: 'mended.csv' });
    await file.getByRole('button', { name: 'Undo it' }).click();
    const asked = operator.getByRole('dialog', { name: 'Undo mended.csv' });
    expect(await violationsOn(operator)).toEqual([]);
    await asked.getByRole('button', { name: 'Keep it' }).click();
    await file.getByRole('button', { name: 'Undo it' }).click();
    await asked.getByRole('button', { name: 'Undo the import' }).click();
    await file
      .getByText('Undone: 20 rows. 20 people were known by nothing else. Nothing had gone to another system.')
      .waitFor();
    expect((await api.get<{ rows: unknown[] }>('/people?text=m1@sheet.example')).rows).toEqual([]);
  });

  it('may come by itself, from a folder: what is wrong is said beside its cause', async () => {
    await operator.getByRole('button', { name: 'Set it up' }).click();
    await operator.getByRole('textbox', { name: 'Address' }).fill('lists');
    await operator.getByRole('button', { name: 'Save' }).click();
    await operator.getByText('The address cannot be read. It begins with https://.').waitFor();
    await operator.getByLabel('From', { exact: true }).selectOption('folder');
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Save' }).click();
    await operator.getByText(/What is put into/).waitFor();
    await operator.getByText('Its rows wait until somebody takes them.').waitFor();
    await operator.getByRole('button', { name: 'End it' }).click();
    await operator.getByText(/None yet: they can come from an address/).waitFor();
  });

  it('had no trouble in its scripts', () => expect(troubles).toEqual([]));
});
