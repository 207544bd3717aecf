import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RouteView } from '../../src/contract/route.ts';
import { skyLetterForm } from '../../src/server/demo/documents.ts';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import { sourceField } from '../world/fields.ts';
import { submitForm } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { BELL, CAPSTAN, ROWBARN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let browser: Browser;
let page: Page;
const troubles: string[] = [];
let others: Awaited<ReturnType<World['others']>>;

const WORDING = 'Yes, send me the Sky letter of Pellam Ridge Observatory once a month. I can leave at any time.';

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  others = await world.others();
  await operator.connectTo('tern-post', world.ternPost, { key: TERN_KEY }, 'Tern Post');
  await operator.connectTo('capstan', others.capstan.url, CAPSTAN, 'Capstan');
  const sheets = await operator.connectTo('rowbarn', others.rowbarn.url, ROWBARN, 'Rowbarn');
  await operator.grant(sheets.id);
  await operator.post('/purposes', { name: 'Sky letter', wordings: [WORDING], channels: ['email'] });
  const form = skyLetterForm(world.site);
  const source = await operator.form('Evening sign-up', {
    ...form,
    minimumSeconds: 0,
    fields: [
      sourceField('first', 'text', { label: 'First name', required: true, keepAs: 'first_name' }),
      sourceField('last', 'text', { label: 'Last name', required: true, keepAs: 'last_name' }),
      sourceField('town', 'text', { label: 'Town' }),
      sourceField('phone', 'phone', { label: 'Telephone' }),
      sourceField('school', 'text', { label: 'School' }),
      sourceField('born', 'date', { label: 'Birthday' }),
      sourceField('visits', 'choice', {
        label: 'How often do you come?',
        options: ['first time', 'now and then', 'every month'],
      }),
      ...form.fields.filter(({ key }) => key !== 'name'),
    ],
  });
  await submitForm(world, source, {
    first: 'Mara',
    last: 'Quill',
    town: 'Lantern Hill',
    phone: '+44 1632 960123',
    school: 'Lantern Hill School',
    born: '1990-05-31',
    visits: 'now and then',
    email: 'mara@hill.example',
    interests: 'Taking pictures',
    telescope: 'yes',
    consent: 'yes',
    page: 'sky-letter',
  });
  browser = await startBrowser();
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' })).newPage();
  await watch(page, troubles);
  await signIn(page, world.app);
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const button = (name: string | RegExp) => page.getByRole('button', { name, exact: true });
const saved = () => page.getByText('Draft saved').waitFor();
const only = async (): Promise<RouteView> => {
  const [route] = await operator.get<RouteView[]>('/routes');
  if (!route) throw new Error('there is no route');
  return route;
};

describe('from three connections and one sample to a route that is live and proved', () => {
  /** What a person does: a click, a word that is typed, a choice. */
  let actions = 0;
  const did = async (action: Promise<unknown>) => {
    actions += 1;
    await action;
  };
  const began = Date.now();

  it('takes under 40 actions and 3 minutes', async () => {
    await did(page.getByRole('link', { name: 'Routes', exact: true }).click());
    await did(button('Make a route').click());
    await did(page.getByLabel('Name of the route').fill('Evening sign-ups'));
    await did(page.getByLabel('Source', { exact: true }).selectOption('Evening sign-up'));
    await did(button('Make the route').click());

    await did(button('Tern Post').click());
    await did(page.getByLabel('List', { exact: true }).selectOption('Sky letter'));
    await did(button('A tag for each answer to What do you like best?').click());

    await did(button('Add a target').click());
    await did(button('Capstan').click());
    await did(page.getByLabel('Segment', { exact: true }).selectOption('Letter readers'));
    await did(page.getByLabel('Who goes there').selectOption('those for whom all of this is true'));
    await did(page.getByLabel('Field of test 1', { exact: true }).selectOption('School'));
    await did(page.getByLabel('Test 1', { exact: true }).selectOption('is filled'));

    await did(button('Add a target').click());
    await did(button('Rowbarn').click());
    await did(page.getByText(/^Everybody · /).click());
    await did(page.getByLabel('Who goes there').selectOption('those for whom all of this is true'));
    await did(page.getByLabel('Field of test 1', { exact: true }).selectOption('I have a telescope'));
    await saved();

    await did(button('Send a test person').click());
    await did(button('Send it').click());
    await page.getByText('Everything that was meant was found there.').nth(2).waitFor();
    await did(button('Close').click());
    await did(button('Publish').click());
    await page.getByText('version 1').first().waitFor();

    const { state, draft, proof, findings } = await only();
    expect(state).toBe('live');
    expect(findings.filter(({ level }) => level === 'blocker')).toEqual([]);
    expect(proof).toMatchObject({ state: 'proved', stale: false });
    expect(draft.consent.confirmedBy.by).toBe('iwashi');
    const [letter, office, sheet] = draft.targets;
    expect(draft.targets.flatMap(({ lines }) => lines).length).toBeGreaterThanOrEqual(12);
    expect(letter?.tags.map(({ tag }) => tag).sort()).toEqual(['families', 'planets', 'stargazing', 'taking-pictures']);
    expect([office?.when, sheet?.when].every((when) => when !== null)).toBe(true);

    const seconds = (Date.now() - began) / 1000;
    console.log(`live and proved after ${actions} actions, ${seconds.toFixed(0)} s`);
    expect(actions).toBeLessThan(40);
    // What a person takes to read is not in it; what the machine takes is.
    expect(seconds).toBeLessThan(180);
  });

  it('is accessible, part by part', async () => {
    for (const part of ['From', 'Consent', 'To Tern Post', 'Mails']) {
      await page
        .getByRole('button', { name: new RegExp(`^${part}`) })
        .first()
        .click();
      expect(await violationsOn(page), part).toEqual([]);
    }
    await button('Send a test person').click();
    await page.getByText('The last one').waitFor();
    expect(await violationsOn(page)).toEqual([]);
    await button('Close').click();
  });
});

describe('the bench, by keys alone', () => {
  /** Presses Tab until something is reached. */
  const tabTo = async (name: RegExp, role = 'button') => {
    for (let presses = 0; presses < 120; presses += 1) {
      await page.keyboard.press('Tab');
      const [label, is] = await page.evaluate(() => {
        const own = document.activeElement;
        const label = own?.getAttribute('aria-label') ?? own?.textContent ?? '';
        return [label, own?.getAttribute('role') ?? own?.tagName.toLowerCase() ?? ''] as const;
      });
      if (name.test(label) && (is === role || role === 'any')) return;
    }
    throw new Error(`nothing called ${name} was reached`);
  };
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '');

  it('shows a target, fills a line by typing, adds a step, takes it back, and lets a hint stand', async () => {
    await page.getByRole('heading', { name: 'Evening sign-ups' }).click();
    await tabTo(/^To Tern Post/);
    await page.keyboard.press('Enter');
    await tabTo(/^Email is filled from/, 'combobox');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Alt+ArrowDown');
    expect(await focused()).toBe('First name is filled from');
    await page.keyboard.type('Town');
    await page.keyboard.press('Enter');
    await expect.poll(() => page.getByLabel('First name is filled from').inputValue()).toBe('Town');
    await tabTo(/^Add a step to First name/);
    await page.keyboard.press('Enter');
    await tabTo(/^Add a step to First name: type its name/, 'any');
    await page.keyboard.type('capitals');
    await page.keyboard.press('Enter');
    await page
      .getByText(/gives LANTERN HILL/)
      .first()
      .waitFor();
    await saved();
    // In a field, undo is the field's own.
    await page.keyboard.press('Tab');
    await page.keyboard.press('Control+z');
    await page
      .getByText(/gives LANTERN HILL/)
      .first()
      .waitFor({ state: 'detached' });
    await page.keyboard.press('Control+z');
    await expect.poll(() => page.getByLabel('First name is filled from').inputValue()).toBe('First name');
    await saved();
    await tabTo(/^Why this matters/, 'any');
    await page.keyboard.press('Enter');
    await tabTo(/^Let it stand/);
    await page.keyboard.press('Enter');
    await page.keyboard.type('It is for nothing else.');
    await page.keyboard.press('Enter');
    await page.getByText('It is for nothing else.').waitFor();
    await saved();
    expect(Object.values((await only()).draft.accepted)).toEqual(['It is for nothing else.']);
  });
});

describe('more than one draft of a route', () => {
  it('two windows: the second is told, and neither loses work', async () => {
    const other = await page.context().newPage();
    await other.goto(page.url());
    await other.getByRole('heading', { name: 'Evening sign-ups' }).waitFor();
    const lists = (url: URL) => url.pathname === '/api/routes';
    const json: unknown = await (await page.context().request.get(`${world.app}/api/routes`)).json();
    await page.route(lists, (route) => route.fulfill({ json }));
    const mapTown = async (where: Page, field: string) => {
      const origin = where.getByLabel('Last name is filled from');
      await origin.fill(field);
      await where.getByRole('listbox', { name: 'Choices' }).getByText(field, { exact: true }).first().waitFor();
      await origin.press('Enter');
    };
    await mapTown(other, 'School');
    await other.getByText('Draft saved').waitFor();
    await page.bringToFront();
    await mapTown(page, 'Town');
    await page.getByText('Somebody else changed this meanwhile. Yours is not saved yet.').waitFor();
    await button('Take yours').click();
    await saved();
    await page.unroute(lists);
    await other.close();
    expect(await page.getByLabel('Last name is filled from').inputValue()).toBe('Town');
  });

  it('says in words what changed since the live one, and takes a version back', async () => {
    await button('version 1').click();
    const changes = page.getByRole('list', { name: 'What changed' });
    await changes.getByText('Tern Post: “Last name” is filled from “Town”').waitFor();
    expect(await violationsOn(page)).toEqual([]);
    await page.getByLabel('What is said of the version').fill('By town, for a trial.');
    await saved();
    await button('Publish version 2').click();
    await page.getByRole('row', { name: /2 \(newest\).*Wren.*By town, for a trial\./ }).waitFor();
    await page.getByRole('row', { name: /^1 / }).getByRole('button', { name: 'Take it as the draft' }).click();
    await changes.getByText('“Last name” is filled from “Last name”').first().waitFor();
    await saved();
  });

  it('goes over all samples, the odd ones first, each a click from the bench', async () => {
    await button('Try it on all samples').click();
    await page.getByRole('heading', { name: 'All samples' }).waitFor();
    await page.getByText('1 differs from live').waitFor();
    expect(await violationsOn(page)).toEqual([]);
    await button('mara@hill.example').click();
    await page.getByLabel('Last name is filled from').waitFor();
    expect(new URL(page.url()).searchParams.get('sample')).toMatch(/^[0-9a-f-]{36}$/);
  });
});

describe('who is not new, and what is there already', () => {
  const choose = (sample: string) => page.getByRole('combobox', { name: 'Sample', exact: true }).selectOption(sample);

  it('takes a sample for somebody known, for somebody who left, and for a robot', async () => {
    await choose('somebody known, with other answers before');
    await page.getByText(/^A person we know, by email/).waitFor();
    await page.getByText('Wren', { exact: true }).waitFor();
    await choose('somebody who took their consent back');
    await page.getByText(/they took back before what they agree to anew/).waitFor();
    // The mail that would go out, as whoever gets it sees it.
    await page.getByText('As it is received').first().click();
    const mail = page.locator('iframe[title^="The mail"]').first().contentFrame();
    await mail.getByRole('link').waitFor();
    expect(await mail.locator('body').textContent()).toContain('confirm');
    await page.getByText('As it is received').first().click();
    await choose('a robot');
    await page.getByText(/It would be set aside, since it filled a field that people do not see/).waitFor();
    expect(await violationsOn(page)).toEqual([]);
  });

  it('makes a list for each answer at one go', async () => {
    await page
      .getByRole('button', { name: /^To Tern Post/ })
      .first()
      .click();
    const before = (await only()).draft.targets[0]?.places.length ?? 0;
    await page
      .getByText(/^Everybody/)
      .first()
      .click();
    await button('A list by answer').first().click();
    await page.getByLabel('By the answers to').selectOption('How often do you come?');
    await page.getByLabel('The list for first time').selectOption('a new one of this name');
    await page.getByLabel('The list for every month').selectOption('a new one of this name');
    await page.getByLabel('The list for now and then').selectOption('no list');
    await button('Make 2 and use them').click();
    await page.getByLabel('List 3', { exact: true }).waitFor();
    await saved();
    const { places } = (await only()).draft.targets[0] ?? { places: [] };
    expect(places.slice(before).map(({ when }) => when?.kind === 'test' && when.value)).toEqual([
      'first time',
      'every month',
    ]);
    expect(new Set(places.map(({ list }) => list)).size).toBe(places.length);
    await button('Undo').click();
    await saved();
    expect((await only()).draft.targets[0]?.places).toHaveLength(before);
  });

  it('sends what was received, of those only that were chosen, and says what would be held', async () => {
    await page.getByRole('button', { name: 'Try it on all samples' }).click();
    await button('Send existing submissions').click();
    await page.getByLabel('Of', { exact: true }).selectOption('those for whom all of this is true');
    await page.getByLabel('Field of test 1', { exact: true }).selectOption('Town');
    await page.getByLabel('Test 1', { exact: true }).selectOption('is');
    await page.getByLabel('What test 1 compares with').fill('Elsewhere');
    await button('See what would happen').click();
    await page.getByText('Of 1: 1 not among those chosen.').waitFor();
    expect(await button('Send them').count()).toBe(0);
    await page.getByLabel('What is sent', { exact: true }).selectOption('what this route holds');
    await button('See what would happen').click();
    await page.getByText('Nothing of that period is held by this route.').waitFor();
    expect(await violationsOn(page)).toEqual([]);
  });
});

describe('a live rehearsal with a fault at each step of it', () => {
  const at = {
    'Tern Post': (fault: object) => world.faults(fault),
    Capstan: (fault: object) => others.capstan.faults(fault),
    Rowbarn: (fault: object) => others.rowbarn.faults(fault),
    Bellbuoy: (fault: object) => others.bellbuoy.faults(fault),
  };

  it('is of a route to all four', async () => {
    await operator.connectTo('bellbuoy', others.bellbuoy.url + BELL, {}, 'Bellbuoy');
    await page.reload();
    await button('Add a target').click();
    await button('Bellbuoy').click();
    await saved();
    expect((await only()).draft.targets).toHaveLength(4);
  });

  it.each<[name: keyof typeof at, step: string, where: object, standing: RegExp]>([
    ['Tern Post', 'writing', { method: 'PUT', path: '/v1/members', status: 500 }, /not proved/],
    ['Tern Post', 'looking', { method: 'POST', path: '/v1/members/find', status: 500 }, /not proved/],
    ['Tern Post', 'deleting', { method: 'DELETE', path: '/v1/members/', status: 403 }, /The test person stays there/],
    ['Capstan', 'writing', { method: 'POST', path: '/api/records/person', status: 500 }, /not proved/],
    ['Capstan', 'looking', { method: 'GET', path: '/api/records/person', status: 500 }, /not proved/],
    ['Capstan', 'deleting', { method: 'DELETE', path: '/api/records/', status: 403 }, /The test person stays there/],
    ['Rowbarn', 'writing', { method: 'POST', path: '/v2/sheets', status: 500 }, /not proved/],
    ['Bellbuoy', 'writing', { method: 'POST', status: 500 }, /not proved/],
    ['Rowbarn', 'looking', { method: 'GET', path: '/v2/sheets', status: 500 }, /not proved/],
  ])('at %s, while %s: it is said there, and the others are tried', async (name, _step, where, standing) => {
    await at[name]({ next: 1, kind: 'status', ...where });
    await button('Send a test person').click();
    await page.getByRole('button', { name: /^(Send it|Try again)$/ }).click();
    const dialog = page.getByRole('dialog', { name: 'Send a test person' });
    await dialog.getByRole('button', { name: 'Try again' }).waitFor();
    const part = dialog.locator('section', { has: page.getByRole('heading', { name }) });
    expect(await part.textContent()).toMatch(standing);
    expect(await dialog.locator('section').filter({ hasText: 'found there' }).count()).toBeGreaterThan(0);
    await button('Close').click();
    await Promise.all([world.noFaults(), ...Object.values(others).map((standIn) => standIn.noFaults())]);
  });

  it('met no script error on the way', () => expect(troubles).toEqual([]));
});
