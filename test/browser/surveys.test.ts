import type { Browser, BrowserContext, Page } from 'playwright-core';
import { disposableEmailBlocklist } from 'disposable-email-domains-js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { SetAsideView, SourceView, VariantsView, WaysView } from '../../src/contract/source.ts';
import type { ThemeView } from '../../src/contract/themes.ts';
import type { Condition, TestName } from '../../src/core/conditions/index.ts';
import { faceOf, saying, type FormItem } from '../../src/core/forms/index.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { agreedId } from '../../src/core/plan/index.ts';
import type { FieldValues } from '../../src/core/values/index.ts';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import { formOf, sourceField } from '../world/fields.ts';
import { observatory } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { BROWSER } from '../world/visitors.ts';
import { World } from '../world/world.ts';

let world: World;
let api: Operator;
let browser: Browser;
let context: BrowserContext;
let visitor: Page;
let planner: SourceView;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  api = await world.operator();
  browser = await startBrowser();
  context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  visitor = await watched(await context.newPage());
  planner = await api.form('Visit planner', PLANNER());
  await world.putScript();
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const watched = (page: Page): Promise<Page> => watch(page, troubles);

const kept = async (source: SourceView) =>
  (
    await world.rows<{ values: string }>(
      'SELECT field_values AS `values` FROM submissions WHERE source_id = ? ORDER BY id',
      [source.id],
    )
  ).map(({ values }) => JSON.parse(values) as FieldValues);

const is = (field: string, value: string, test: TestName = 'is'): Condition => ({
  kind: 'test',
  id: `${field} ${value}`,
  field,
  test,
  value,
});
const question = (id: string, shownIf: Condition | null = null): FormItem => ({ kind: 'question', id, shownIf });
const page = (id: string, title: string, shownIf: Condition | null = null): FormItem => ({
  kind: 'page',
  id,
  title,
  shownIf,
  skips: [],
});

const FIELDS = [
  sourceField('company', 'choice', {
    label: 'Who comes?',
    options: ['Children', 'A class', 'Only me'],
    widget: 'buttons',
    required: true,
  }),
  sourceField('age', 'number', { label: 'How old is the youngest?', required: true }),
  sourceField('blanket', 'yes/no', { label: 'Keep a blanket for us.' }),
  sourceField('pupils', 'number', { label: 'How many pupils?', required: true }),
  sourceField('name', 'text', { label: 'Your name', required: true, keepAs: 'full_name' }),
  sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' }),
];

const PLANNER = (more: Partial<FormDocument> = {}): FormDocument =>
  formOf(FIELDS, {
    title: 'Plan your evening',
    button: 'Send it',
    goOnLater: true,
    items: [
      question('company'),
      page('young', 'The young ones', is('company', 'Children')),
      question('age'),
      question('blanket', is('age', '6', 'is less than')),
      page('class', 'Your class', is('company', 'A class')),
      question('pupils'),
      page('who', 'Who are you?'),
      question('name'),
      question('email'),
    ],
    ending: saying('Choose your seats.', {
      link: { label: 'To the seats', url: `${world.site}/book?evening=Friday&name={name}&email={email}` },
    }),
    endings: [{ id: 'class', when: is('company', 'A class'), ...saying('We call you.', { title: 'A class' }) }],
    ...more,
  });

const next = (on: Page = visitor) => on.getByRole('button', { name: 'Next' }).click();
const back = (on: Page = visitor) => on.getByRole('button', { name: 'Back' }).click();

describe('a survey on the page of others', () => {
  it('asks by what is answered, goes back without loss, and ends where something is booked', async () => {
    await world.putPlace(planner);
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByText('Page 1 of 2').waitFor();
    expect(await violationsOn(visitor)).toEqual([]);
    await next();
    await visitor.getByText('Choose an answer.').waitFor();
    await visitor.getByLabel('Children').check();
    await visitor.getByText('Page 1 of 3').waitFor();
    expect(await visitor.getByText('Choose an answer.').count()).toBe(0);
    await next();
    expect(
      await visitor.evaluate(
        () => document.querySelector('[data-iwashi-form]')?.shadowRoot?.activeElement?.textContent,
      ),
    ).toBe('The young ones');
    expect(await visitor.getByLabel('Keep a blanket for us.').isVisible()).toBe(false);
    await visitor.getByLabel('How old is the youngest?').fill('5');
    await visitor.getByLabel('Keep a blanket for us.').check();
    // Enter goes on, as the button does.
    await visitor.getByLabel('How old is the youngest?').press('Enter');
    await visitor.getByText('Page 3 of 3').waitFor();
    await visitor.getByLabel('Your name').fill('Ada Vale');
    await back();
    expect(await visitor.getByLabel('How old is the youngest?').inputValue()).toBe('5');
    expect(await violationsOn(visitor)).toEqual([]);
    await next();
    await visitor.getByLabel('Email').fill('ada@hill.example');
    await visitor.getByRole('button', { name: 'Send it' }).click();
    await visitor.getByRole('link', { name: 'To the seats' }).click();
    const booking = visitor.locator('form[action="/book"]');
    await booking.getByText('Book', { exact: true }).waitFor();
    expect(await booking.getByLabel('Name').inputValue()).toBe('Ada Vale');
    expect(await booking.getByLabel('Email, if you have one').inputValue()).toBe('ada@hill.example');
    expect((await kept(planner)).at(-1)).toEqual({
      company: 'Children',
      age: 5,
      blanket: true,
      name: 'Ada Vale',
      email: 'ada@hill.example',
    });
  });
  it('leaves out what was answered before somebody turned back and went another way', async () => {
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByLabel('Children').check();
    await next();
    await visitor.getByLabel('How old is the youngest?').fill('4');
    await back();
    await visitor.getByLabel('A class').check();
    await next();
    await visitor.getByLabel('How many pupils?').fill('21');
    await next();
    await visitor.getByLabel('Your name').fill('Idris Vale');
    await visitor.getByLabel('Email').fill('idris@hill.example');
    await visitor.getByRole('button', { name: 'Send it' }).click();
    await visitor.getByText('We call you.').waitFor();
    expect((await kept(planner)).at(-1)).toEqual({
      company: 'A class',
      pupils: 21,
      name: 'Idris Vale',
      email: 'idris@hill.example',
    });
  });
  it('leads to the page on which something is wrong', async () => {
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByLabel('Only me').check();
    await next();
    await visitor.getByLabel('Your name').fill('Ada');
    // What the browser takes for an address, and we do not.
    await visitor.getByLabel('Email').fill('ada@hill');
    await visitor.getByRole('button', { name: 'Send it' }).click();
    await visitor.getByRole('alert').waitFor();
    expect(await visitor.getByLabel('Email').isVisible()).toBe(true);
    await visitor.getByRole('alert').getByRole('link', { name: 'Email' }).click();
    expect(await visitor.getByLabel('Email').inputValue()).toBe('ada@hill');
  });
  it('tells how many went which way', async () => {
    const { ways } = await eventually(
      () => api.get<WaysView>(`/sources/${planner.id}/ways`),
      ({ ways: now }) => now.length >= 6,
    );
    const told = Object.fromEntries(ways.map(({ from, to, count }) => [`${from} ${to}`, count]));
    expect(told).toEqual({
      'start young': 1,
      'young who': 1,
      'who end': 1,
      'start class': 1,
      'class who': 1,
      'who end:class': 1,
    });
  });
});

describe('a survey without script', () => {
  it('stands there whole, and asks for no more than belongs to the answers', async () => {
    const plain = await (await browser.newContext({ javaScriptEnabled: false })).newPage();
    await plain.goto(planner.postUrl);
    expect(await plain.getByRole('button', { name: 'Next' }).isVisible()).toBe(false);
    await plain.getByLabel('Only me').check();
    await plain.getByLabel('Your name').fill('Wren Ashdown');
    await plain.getByLabel('Email').fill('wren@hill.example');
    await plain.getByRole('button', { name: 'Send it' }).click();
    expect(await plain.getByRole('link', { name: 'To the seats' }).getAttribute('href')).toBe(
      `${world.site}/book?evening=Friday&name=Wren%20Ashdown&email=wren%40hill.example`,
    );
    // No address of ours has an answer in it.
    expect(plain.url()).toBe(planner.postUrl);
    await plain.goto(planner.postUrl);
    await plain.getByLabel('Children').check();
    await plain.getByLabel('Your name').fill('Wren');
    await plain.getByLabel('Email').fill('wren@hill.example');
    await plain.getByRole('button', { name: 'Send it' }).click();
    expect(await plain.getByRole('alert').getByRole('listitem').allInnerTexts()).toEqual([
      'How old is the youngest?: This is needed.',
    ]);
  });
});

describe('a survey that is left half filled in', () => {
  it('is gone on with by its link, where one was, until it is sent', async () => {
    await visitor.goto(planner.postUrl);
    await visitor.getByLabel('Children').check();
    await next();
    await visitor.getByLabel('How old is the youngest?').fill('9');
    await visitor.getByRole('button', { name: 'Go on later' }).click();
    const link = (await visitor.getByRole('link', { name: 'Go on now' }).getAttribute('href')) ?? '';
    const other = await watched(await (await browser.newContext()).newPage());
    await other.goto(link);
    await other.getByText('Page 2 of 3').waitFor();
    expect(await other.getByLabel('How old is the youngest?').inputValue()).toBe('9');
    await next(other);
    await other.getByLabel('Your name').fill('Mara Quill');
    await other.getByLabel('Email').fill('mara@hill.example');
    await other.getByRole('button', { name: 'Send it' }).click();
    await other.getByRole('link', { name: 'To the seats' }).waitFor();
    expect((await kept(planner)).at(-1)).toMatchObject({ age: 9, name: 'Mara Quill' });
    expect((await other.goto(link))?.status()).toBe(410);
    await other.getByText('This link does not work any more').waitFor();
  });
  it('nothing of it is kept where the link is not known, or the form does without', async () => {
    expect((await fetch(`${planner.postUrl}?later=made-up`)).status).toBe(410);
    const strict = await api.form('Not later', PLANNER({ goOnLater: false }));
    const body = new URLSearchParams({ form_later: 'yes', name: 'Half' });
    const response = await fetch(strict.postUrl, { method: 'POST', body, headers: { accept: 'text/html' } });
    expect(response.status).toBe(422);
  });
});

describe('a visitor of whom something is known', () => {
  it('is asked the next thing; nobody is known by an address that is typed', async () => {
    const { source: letter, route } = await observatory(world, api, 'single');
    const purpose = route.draft.consent.asks[0]?.purpose ?? '';
    const reader = is(agreedId(purpose, 'email'), 'yes');
    const bring = await api.form(
      'Under every story',
      formOf([sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' })], {
        title: 'One such story a month?',
        instead: [{ id: 'r', when: reader, ...saying('How about a visit?', { title: 'You read it already' }) }],
      }),
    );
    await world.putScript('data-storage="yes"');
    await world.putPlace(letter);
    await visitor.goto(`${world.site}/sky-letter`);
    const send = async (on: Page) => {
      await on.getByLabel('Your name').fill('Ida Fenn');
      await on.getByLabel('Email').fill('ida@hill.example');
      await on.getByLabel(/Yes, send me/).check();
      await on.getByRole('button', { name: 'Send me the Sky letter' }).click();
      await on.getByText('Thank you').first().waitFor();
    };
    await send(visitor);
    const [row] = await eventually(
      () =>
        world.rows<{ id: string; state: string }>('SELECT id, state FROM submissions WHERE source_id = ?', [letter.id]),
      ([one]) => one?.state === 'planned',
    );
    await world.putPlace(bring);
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByText('You read it already').waitFor();
    expect(await violationsOn(visitor)).toEqual([]);
    // Somebody else, who types the same address, is told nothing of it.
    const stranger = await watched(await (await browser.newContext()).newPage());
    await stranger.goto(`${world.site}/sky-letter`);
    await stranger.getByLabel('Email').fill('ida@hill.example');
    await stranger.getByRole('button', { name: 'Go' }).click();
    await stranger.getByText('Thank you').waitFor();
    await stranger.goto(`${world.site}/sky-letter`);
    await stranger.getByText('One such story a month?').waitFor();
    // A sign that was made up says nothing.
    const madeUp = `l${row?.id}.${'0'.repeat(64)}`;
    await stranger.goto(`${bring.postUrl}?visitor=${madeUp}`);
    await stranger.getByText('One such story a month?').waitFor();
  });
});

/** A domain of mailboxes that last for minutes, whichever the list names first. */
const MINUTES = disposableEmailBlocklist()[0] ?? '';

describe("what looks like a robot's", () => {
  it('works for a moment to show that it is none, where a script can; otherwise it is set aside, and counted', async () => {
    const field = sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' });
    const guards = { words: ['casino'], mostLinks: 0, throwAway: true };
    const hasty = await api.form(
      'Hasty',
      formOf([field, sourceField('wish', 'text', { label: 'Wish' })], {
        title: 'Be quick',
        minimumSeconds: 60,
        guards,
      }),
    );
    await world.putPlace(hasty);
    await visitor.goto(`${world.site}/sky-letter`);
    const wanted = visitor.waitForResponse((response) => response.status() === 428);
    await visitor.getByLabel('Email').fill('quick@hill.example');
    await visitor.getByRole('button', { name: 'Go' }).click();
    await wanted;
    await visitor.getByText('Thank you').waitFor();
    const send = (body: Record<string, string>, query = '') =>
      fetch(`${hasty.postUrl}${query}`, {
        method: 'POST',
        body: new URLSearchParams(body),
        headers: { accept: 'application/json' },
      });
    const fast = { seconds_on_page: '1' };
    await send({ email: 'robot@hill.example', ...fast });
    // Made up: nobody worked for it. And work for one form is none for another one.
    await send({ email: 'liar@hill.example', ...fast, form_work: 'made.up:1' }, '?as=part');
    await send({ email: 'words@hill.example', wish: 'The best CASINO' });
    await send({ email: 'links@hill.example', wish: 'https://cheap.example' });
    await send({ email: `minutes@${MINUTES}` });
    const rows = await world.rows<{ email: string; suspicion: string | null }>(
      `SELECT JSON_UNQUOTE(JSON_EXTRACT(field_values, '$.email')) AS email, suspicion FROM submissions WHERE source_id = ? ORDER BY id`,
      [hasty.id],
    );
    expect(rows.map(({ email, suspicion }) => [email, suspicion])).toEqual([
      ['quick@hill.example', null],
      ['robot@hill.example', 'too fast'],
      ['liar@hill.example', 'too fast'],
      ['words@hill.example', 'unwanted words'],
      ['links@hill.example', 'too many links'],
      [`minutes@${MINUTES}`, 'throw-away address'],
    ]);
    await eventually(
      () => api.get<SetAsideView>(`/sources/${hasty.id}/set-aside`),
      ({ counts }) =>
        counts.map(({ why, count }) => `${why} ${count}`).join(', ') ===
        'trap filled 0, too fast 2, unwanted words 1, too many links 1, throw-away address 1',
    );
  });
});

describe('a mistyped address', () => {
  it('asks nothing while somebody presses: a press that ends the answer is never lost, by mouse, touch or keyboard', async () => {
    const fields = [sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' })];
    const asked = await api.form('Pressed', formOf(fields, { title: 'Press once' }));
    const sent = async () => {
      const [row] = await world.rows<{ count: number }>(
        'SELECT COUNT(*) AS count FROM submissions WHERE source_id = ?',
        [asked.id],
      );
      return Number(row?.count);
    };
    await world.putPlace(asked);
    let count = 0;
    /** Types an address, and leaves it for so long. @returns where the button is as a hand comes down, which waits for nothing */
    const typedFor = async (page: Page, query: string, address: string, rest: number) => {
      await page.goto(`${world.site}/sky-letter?${query}`);
      await page.getByLabel('Email').fill(address);
      if (rest > 0) {
        await page.getByLabel('Email').blur();
        await page.waitForTimeout(rest);
      }
      const box = await page.getByRole('button', { name: 'Go' }).boundingBox();
      return { x: (box?.x ?? 0) + 10, y: (box?.y ?? 0) + (box?.height ?? 0) - 4 };
    };
    // At every moment of a hint's life: pressed for long, let go at once, and after it stands there.
    for (const [held, rest] of [
      [0, 0],
      [600, 0],
      [0, 200],
      [0, 345],
      [30, 340],
      [0, 700],
    ] as const) {
      const { x, y } = await typedFor(visitor, `press=${held}-${rest}`, `ada${count}@hill.con`, rest);
      await visitor.mouse.move(x, y);
      await visitor.mouse.down();
      if (held > 0) await visitor.waitForTimeout(held);
      await visitor.mouse.up();
      count += 1;
      await eventually(sent, (now) => now === count);
    }
    await visitor.goto(`${world.site}/sky-letter?press=keys`);
    await visitor.getByLabel('Email').fill('keys@hill.con');
    await visitor.keyboard.press('Tab');
    await visitor.keyboard.press('Enter');
    await eventually(sent, (now) => now === count + 1);
    const hand = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
    const phone = await hand.newPage();
    for (const rest of [0, 200, 345, 700]) {
      const { x, y } = await typedFor(phone, `touch=${rest}`, `hand${rest}@hill.con`, rest);
      await phone.touchscreen.tap(x, y);
      count += 1;
      await eventually(sent, (now) => now === count + 1);
    }
    await hand.close();
  });
  it('is asked about, taken by a click, and never stands in the way; also where the form is shown again', async () => {
    const fields = [
      sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' }),
      sourceField('town', 'text', { label: 'Town', required: true }),
    ];
    const asked = await api.form('Asked about', formOf(fields, { title: 'Once more' }));
    await world.putPlace(asked);
    await visitor.goto(`${world.site}/sky-letter`);
    const hint = visitor.getByRole('button', { name: 'ada@hill.com' });
    const type = async () => {
      await visitor.getByLabel('Email').fill('ada@hill.con');
      await visitor.getByLabel('Email').blur();
      await hint.waitFor();
    };
    await type();
    expect(await violationsOn(visitor)).toEqual([]);
    await hint.click();
    expect(await visitor.getByLabel('Email').inputValue()).toBe('ada@hill.com');
    await hint.waitFor({ state: 'detached' });
    await visitor.getByRole('button', { name: 'Go' }).click();
    await visitor.getByRole('alert').waitFor();
    await type();
    await visitor.getByLabel('Town').fill('Pellam');
    await visitor.getByRole('button', { name: 'Go' }).click();
    await visitor.getByText('Thank you').waitFor();
    expect((await kept(asked)).map(({ email }) => email)).toEqual(['ada@hill.con']);
  });
});

describe('variants', () => {
  it('are each shown to their share, to nobody another one than before, and compared', async () => {
    const field = sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' });
    const form = formOf([field], { title: 'The first words', button: 'Go' });
    const variants: FormDocument['variants'] = [
      { id: 'one', name: 'A', share: 50, face: null, nothing: false },
      { id: 'two', name: 'B', share: 50, face: { ...faceOf(form), title: 'The other words' }, nothing: false },
    ];
    const compared = await api.form('Compared', { ...form, variants });
    await world.putScript('data-storage="yes"');
    await world.putPlace(compared);
    const met = new Map<string, number>();
    for (let at = 0; at < 14; at += 1) {
      const own = await browser.newContext({ userAgent: BROWSER });
      const one = await watched(await own.newPage());
      const words = async () => {
        await one.goto(`${world.site}/sky-letter`);
        return await one.getByText(/The (first|other) words/).innerText();
      };
      const first = await words();
      expect(await words()).toBe(first);
      met.set(first, (met.get(first) ?? 0) + 1);
      await one.getByLabel('Email').fill(`reader${at}@hill.example`);
      await one.getByRole('button', { name: 'Go' }).click();
      await one.getByText('Thank you').waitFor();
      // What was seen is told at once by who leaves.
      const told = one.waitForResponse('**/place/seen');
      await one.evaluate(() => dispatchEvent(new Event('pagehide')));
      await told;
      await own.close();
    }
    // All of one kind would come by chance once in 8,192 times.
    expect(met.size).toBe(2);
    const view = await eventually(
      () => api.get<VariantsView>(`/sources/${compared.id}/variants`),
      ({ arms }) => arms.reduce((sum, { reached }) => sum + reached, 0) === 14,
    );
    expect(view.variants).toEqual(['one', 'two']);
    expect(view.arms.map(({ reached }) => reached)).toEqual([met.get('The first words'), met.get('The other words')]);
    expect(view.arms.every(({ met: saw, reached }) => saw >= reached)).toBe(true);
    expect(view.differ).toBe(false);
    // People know them by their names, here and on the trail.
    const [{ id } = { id: '' }] = (await api.submissions(`source=${compared.id}`)).rows;
    const { visit } = await api.get<TrailView>(`/submissions/${id}`);
    expect(['A', 'B']).toContain(visit.variant);
  });
  it.each<[string, (variants: FormDocument['variants']) => FormDocument['variants'], string]>([
    ['shares that do not make a whole', ([a, b]) => [{ ...a, share: 30 }, b] as FormDocument['variants'], '/variants'],
    ['one by itself', ([a]) => [{ ...a, share: 99 }] as FormDocument['variants'], '/variants'],
    [
      'a question that the form itself does not have',
      ([a, b]) =>
        [a, { ...b, face: { ...b?.face, fields: [...FIELDS, sourceField('more')] } }] as FormDocument['variants'],
      '/variants/1',
    ],
  ])('do not go live with %s', async (_, change, pointer) => {
    const form = PLANNER();
    const variants: FormDocument['variants'] = [
      { id: 'a', name: 'A', share: 50, face: null, nothing: false },
      { id: 'b', name: 'B', share: 50, face: faceOf(form), nothing: false },
    ];
    const made = await api.post<SourceView>('/sources', { name: 'Wrong', kind: 'form' });
    await api.put(`/sources/${made.id}/draft`, { ...form, variants: change(variants) });
    const said = await api.send('POST', `/sources/${made.id}/publish`);
    expect(said.status).toBe(422);
    expect(JSON.stringify(await said.json())).toContain(`"${pointer}"`);
  });
});

describe('the builder', () => {
  it('divides a form into pages, asks by answers, and ends by them', async () => {
    const operator = await watched(
      await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage(),
    );
    await signIn(operator, world.app);
    const made = await api.form('Two pages', formOf(FIELDS.slice(0, 1).concat(FIELDS.slice(4)), { button: 'Send it' }));
    await operator.goto(`${world.app}/sources/${made.id}`);
    await operator.getByRole('button', { name: 'Settings of Who comes?' }).click();
    await operator.getByLabel('Add something between questions').selectOption('page');
    await operator.getByLabel('Title of the page').fill('About you');
    await operator.getByRole('button', { name: 'Another way' }).click();
    await operator.getByLabel('What test 1 compares with').fill('Only me');
    await operator.getByLabel('Where way 1 leads').selectOption({ label: 'it is sent' });
    await operator.getByRole('button', { name: 'Settings of Your name' }).click();
    await operator.getByLabel('Shown', { exact: true }).selectOption('none');
    await operator.getByLabel('What test 1 compares with').fill('A class');
    await operator.getByRole('button', { name: 'Form', exact: true }).click();
    await operator.getByRole('tab', { name: 'After' }).click();
    await operator.getByRole('button', { name: 'Ending for some' }).click();
    const ending = operator.getByRole('region', { name: 'Ending 1' });
    await ending.getByLabel('What test 1 compares with').fill('A class');
    await ending.getByLabel('Message').fill('We call you.');
    await operator.getByRole('tab', { name: 'Pages' }).click();
    await operator.getByText('If Who comes? is "Only me": it is sent').waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByText('Draft saved').waitFor();
    const surface = operator.frameLocator('iframe[title^="The form"]');
    await operator.getByRole('button', { name: 'Try it' }).click();
    await surface.getByText('Page 1 of 2').waitFor();
    await surface.getByLabel('A class').check();
    await surface.getByRole('button', { name: 'Next' }).click();
    expect(await surface.getByLabel('Your name').isVisible()).toBe(false);
    // Its button does what it does for visitors, but for sending.
    await surface.getByRole('button', { name: 'Send it' }).click();
    await operator.getByText('It would not be taken', { exact: false }).waitFor();
    await surface.locator('[aria-invalid=true]').first().waitFor({ state: 'attached' });
    expect(await surface.getByLabel('A class').isChecked()).toBe(true);
    await surface.getByLabel('Email').fill('class@hill.example');
    await surface.getByRole('button', { name: 'Send it' }).click();
    await surface.getByText('We call you.').waitFor();
    await operator.getByRole('button', { name: 'Fill it in once more' }).click();
    await surface.getByText('Page 1 of 2').waitFor();
    expect(await surface.getByLabel('A class').isChecked()).toBe(false);
    expect(await world.rows('SELECT id FROM submissions WHERE source_id = ?', [made.id])).toEqual([]);
    await operator.getByRole('button', { name: 'Work on it' }).click();
    await operator.getByRole('tab', { name: 'Variants' }).click();
    await operator.getByRole('button', { name: 'Make a second variant' }).click();
    await operator.getByText('Variant B').waitFor();
    await operator.getByRole('tab', { name: 'Form' }).click();
    await operator.getByLabel('Button', { exact: true }).fill('Count me in');
    await surface.getByRole('button', { name: 'Count me in' }).waitFor();
    await operator.getByRole('tab', { name: 'Variants' }).click();
    await operator.getByRole('button', { name: 'Work on the form itself' }).click();
    await surface.getByRole('button', { name: 'Send it' }).waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Publish changes' }).click();
    await operator.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
    await eventually(
      () => api.get<SourceView>(`/sources/${made.id}`),
      ({ changed }) => !changed,
    );
    await operator.getByRole('button', { name: 'End it, and keep B' }).click();
    await surface.getByRole('button', { name: 'Count me in' }).waitFor();
    await operator.getByRole('button', { name: 'Make a second variant' }).waitFor();
  });
  it.each<[string, Partial<FormDocument>, string]>([
    ['a question that depends on a later one', { items: [question('company', is('age', '5'))] }, '/items/0/shownIf'],
    [
      'a page that leads back',
      { items: [question('company'), { ...page('a', 'A'), skips: [{ id: 's', when: null, to: 'a' }] } as FormItem] },
      '/items/1/skips',
    ],
    [
      'an ending with an answer that nobody gives',
      { ending: saying('', { next: 'https://a.example/?x={gone}' }) },
      '/ending/next',
    ],
    ['an address whose host is an answer', { ending: saying('', { next: 'https://{name}/' }) }, '/ending/next'],
    [
      'what is said instead by an answer',
      { instead: [{ id: 'i', when: is('name', 'x'), ...saying('') }] },
      '/instead/0/when',
    ],
  ])('does not go live with %s', async (_, more, pointer) => {
    const made = await api.post<SourceView>('/sources', { name: 'Wrong', kind: 'form' });
    const draft = await api.send('PUT', `/sources/${made.id}/draft`, PLANNER(more));
    const said = draft.ok ? await api.send('POST', `/sources/${made.id}/publish`) : draft;
    expect(said.status).toBe(422);
    expect(JSON.stringify(await said.json())).toContain(`"${pointer}"`);
  });
});

describe('a newcomer', () => {
  it('makes a form from nothing, placed and receiving, in fewer than 30 actions', async () => {
    const operator = await watched(
      await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage(),
    );
    await signIn(operator, world.app);
    const begun = Date.now();
    let actions = 0;
    const act = async (does: Promise<unknown>) => {
      actions += 1;
      await does;
    };
    await act(operator.getByRole('navigation', { name: 'Areas' }).getByRole('link', { name: 'Sources' }).click());
    await act(operator.getByRole('button', { name: 'Source', exact: true }).click());
    await act(operator.getByLabel('Name', { exact: true }).fill('First letter'));
    await act(operator.getByRole('button', { name: 'Make it', exact: true }).click());
    await act(operator.getByRole('button', { name: 'Publish', exact: true }).click());
    await act(operator.getByRole('tab', { name: 'Place it' }).click());
    const line = await operator
      .getByText(/data-iwashi-form=/)
      .first()
      .innerText();
    // Two lines are pasted into the page, and it is saved.
    actions += 3;
    await world.put('form', line);
    await act(visitor.goto(`${world.site}/sky-letter`));
    await act(visitor.getByLabel('Email').fill('first@hill.example'));
    await act(visitor.getByRole('checkbox').check());
    await act(visitor.getByRole('button', { name: 'Sign up' }).click());
    await visitor.getByText('Thank you').waitFor();
    await act(operator.getByRole('link', { name: 'Activity' }).click());
    await operator.getByText('first@hill.example').first().waitFor();
    expect(actions).toBeLessThan(30);
    console.info(
      `made, placed and receiving by ${actions} actions, ${Math.round((Date.now() - begun) / 1000)} s of them by machine`,
    );
  });
});

describe('a look', () => {
  it('is taken from the pages of a site, made a theme, and shared by forms', async () => {
    const operator = await watched(
      await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage(),
    );
    await signIn(operator, world.app);
    const field = sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' });
    const [one, other] = [
      await api.form('Shares it', formOf([field])),
      await api.form('Shares it, too', formOf([field])),
    ];
    await operator.goto(`${world.app}/sources/${one.id}`);
    await operator.getByRole('tab', { name: 'Look' }).click();
    await operator.getByRole('button', { name: 'Take the look of a site' }).click();
    await operator.getByLabel('Address of a page').fill(`${world.site}/evenings`);
    await operator.getByRole('button', { name: 'Read it' }).click();
    await operator.getByText(/^the ground is #/).waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Take it' }).click();
    await operator.getByRole('button', { name: 'Make it a theme' }).click();
    await operator.getByRole('dialog').getByLabel('Name').fill('Our pages');
    await operator.getByRole('dialog').getByRole('button', { name: 'Make it', exact: true }).click();
    await operator.getByText('Draft saved').waitFor();
    const [theme] = await eventually(
      () => api.get<ThemeView[]>('/themes'),
      ([made]) => made?.forms.length === 1,
    );
    await api.put(`/sources/${other.id}/draft`, {
      ...other.draft,
      theme: theme?.id,
      look: theme?.look,
    });
    // A change of the theme reaches the drafts that have it, and what is live only once it is published.
    await operator.getByLabel('Rounded corners, px').fill('17');
    await operator.getByRole('button', { name: 'Change the theme so' }).click();
    const changed = await eventually(
      () => api.get<SourceView>(`/sources/${other.id}`),
      ({ draft }) => draft.kind === 'form' && draft.look.radius === 17,
    );
    expect(changed.live).toMatchObject({ look: { radius: 4 } });
    expect(changed.changed).toBe(true);
    await api.send('DELETE', `/themes/${theme?.id}`);
    expect((await api.get<SourceView>(`/sources/${other.id}`)).draft).toMatchObject({ look: { radius: 17 } });
  });
  it('is not read from where nobody may look', async () => {
    const said = await api.send('POST', '/themes/found', { css: '', url: 'http://127.0.0.1:1/' });
    expect(said.status).toBe(422);
    expect(await said.text()).toContain('Paste its CSS instead');
  });
});

it('nothing of it went wrong in a browser', () => expect(troubles).toEqual([]));
