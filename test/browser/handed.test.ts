import { readFileSync } from 'node:fs';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { InsightView } from '../../src/contract/insight.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { OwnFileView } from '../../src/contract/ownFiles.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { faceOf, PLAIN_LOOK, saying, type FormVariant } from '../../src/core/forms/index.ts';
import { PLAIN_SHOWING } from '../../src/core/showing/index.ts';
import type { FileValue } from '../../src/core/values/index.ts';
import { skyLetterRoute } from '../../src/server/demo/documents.ts';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import { formOf, sourceField } from '../world/fields.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { BROWSER } from '../world/visitors.ts';
import { TERN_KEY, World } from '../world/world.ts';

let world: World;
let api: Operator;
let browser: Browser;
let context: BrowserContext;
let visitor: Page;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  api = await world.operator();
  browser = await startBrowser();
  context = await browser.newContext({ viewport: { width: 1280, height: 800 }, userAgent: BROWSER });
  visitor = await watched(await context.newPage());
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const watched = (page: Page): Promise<Page> => watch(page, troubles);
const insightOf = async ({ id }: SourceView) => (await api.get<InsightView>(`/insight?source=${id}`)).sources[0];

const email = sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' });
const asking = (more: Partial<FormDocument> = {}): FormDocument =>
  formOf([email], { title: 'Write to us', button: 'Go', ...more });

describe('a form in a page of others', () => {
  it('brings its font, though nothing in it counts outside of it', async () => {
    const source = await api.form('In serif', asking({ look: { ...PLAIN_LOOK, font: 'serif' } }));
    await world.putScript();
    await world.putPlace(source);
    const loads = visitor.waitForResponse(`${world.app}/place/fonts/**`);
    await visitor.goto(`${world.site}/sky-letter`);
    expect((await loads).status()).toBe(200);
    await expect.poll(() => visitor.evaluate(() => document.fonts.check("16px 'Source Serif 4 Variable'"))).toBe(true);
  });

  it('hands out what it says, and takes the visitor on in a tab of its own', async () => {
    const { id: file } = (await (await api.upload('sky.txt', 'the sky')).json()) as OwnFileView;
    const handing = saying('Here it is.', { download: { label: 'The sky', file, url: '', days: 7 } });
    const source = await api.form('Hands out', asking({ ending: handing }));
    await world.putPlace(source);
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByLabel('Email').fill('hand@hill.example');
    await visitor.getByRole('button', { name: 'Go' }).click();
    const download = visitor.waitForEvent('download');
    await visitor.getByRole('link', { name: 'The sky' }).click();
    const got = await download;
    expect(got.suggestedFilename()).toBe('sky.txt');
    expect(readFileSync(await got.path(), 'utf8')).toBe('the sky');

    const away = await api.form(
      'Goes on',
      asking({ ending: saying('It stays.', { next: `${world.site}/evenings`, newTab: true }) }),
    );
    await world.putPlace(away);
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByLabel('Email').fill('tab@hill.example');
    const tab = context.waitForEvent('page');
    await visitor.getByRole('button', { name: 'Go' }).click();
    const opened = await tab;
    await opened.waitForURL(`${world.site}/evenings`);
    expect(await opened.evaluate(() => window.opener === null)).toBe(true);
    await opened.close();
    await visitor.getByText('It stays.').waitFor();
    const figures = await eventually(
      () => insightOf(away),
      (one) => one?.took?.count === 1,
    );
    expect(figures?.took?.half).toBeLessThanOrEqual(10);
  });

  it('sends a large file in pieces, which go on where a broken connection left them', async () => {
    const source = await api.form(
      'Large',
      formOf([email, sourceField('plan', 'file', { label: 'Plan' })], { button: 'Go' }),
    );
    await world.putPlace(source);
    await visitor.goto(`${world.site}/sky-letter`);
    await visitor.getByLabel('Email').fill('large@hill.example');
    const content = Buffer.alloc(3_500_000, 'sky ');
    await visitor.getByLabel('Plan').setInputFiles({ name: 'plan.txt', mimeType: 'text/plain', buffer: content });
    const offsets: string[] = [];
    let broken = 0;
    await visitor.route('**/files/**', async (route) => {
      const request = route.request();
      if (request.method() !== 'PATCH') return route.continue();
      const offset = (await request.headerValue('upload-offset')) ?? '';
      offsets.push(offset);
      broken += 1;
      return broken === 2 ? route.abort() : route.continue();
    });
    await visitor.getByRole('button', { name: 'Go' }).click();
    await visitor.getByText('Thank you').waitFor({ timeout: 20_000 });
    await visitor.unroute('**/files/**');
    expect(offsets).toEqual(['0', '1000000', '1000000', '2000000', '3000000']);
    const [row] = await world.rows<{ v: string }>('SELECT field_values AS v FROM submissions WHERE source_id = ?', [
      source.id,
    ]);
    expect((JSON.parse(row?.v ?? '{}') as { plan: FileValue }).plan).toMatchObject({
      name: 'plan.txt',
      size: 3_500_000,
    });
  });
});

describe('nothing at all', () => {
  it('is a variant like others: met by its share, and compared by who comes to a page later', async () => {
    const variants: FormVariant[] = [
      { id: 'own', name: 'A', share: 50, face: null, nothing: false },
      { id: 'none', name: 'Nothing', share: 50, face: null, nothing: true },
    ];
    const source = await api.form('Or nothing', asking({ variants, goal: 'reached', goalPage: '/evenings' }));
    await world.putScript('data-storage="yes"');
    await world.putPlace(source);
    const met = { form: 0, nothing: 0 };
    for (let at = 0; at < 12; at += 1) {
      const own = await browser.newContext({ userAgent: BROWSER });
      const one = await watched(await own.newPage());
      // Once it is told that it was met, the form stands there, or nothing does.
      const told = one.waitForResponse('**/place/seen');
      await one.goto(`${world.site}/sky-letter`);
      await told;
      const isShown = (await one.getByText('Write to us').count()) > 0;
      met[isShown ? 'form' : 'nothing'] += 1;
      // Half of them go on to the page that is the goal.
      if (at % 2 === 0) {
        await one.goto(`${world.site}/evenings`);
        const reached = one.waitForResponse('**/place/seen');
        await one.evaluate(() => dispatchEvent(new Event('pagehide')));
        await reached;
      }
      await own.close();
    }
    // All of one kind would come by chance once in 2,048 times.
    expect(Math.min(met.form, met.nothing)).toBeGreaterThan(0);
    const view = await eventually(
      () => api.get<{ variants: string[]; arms: { met: number; reached: number }[] }>(`/sources/${source.id}/variants`),
      ({ arms }) =>
        arms.reduce((sum, { reached }) => sum + reached, 0) === 6 && arms.reduce((sum, arm) => sum + arm.met, 0) === 12,
    );
    expect(view.arms.map((arm) => arm.met)).toEqual([met.form, met.nothing]);
  });

  it('comes over no page, and is counted when the form would have come', async () => {
    const variants: FormVariant[] = [
      { id: 'own', name: 'A', share: 1, face: faceOf(asking()), nothing: false },
      { id: 'none', name: 'Nothing', share: 99, face: null, nothing: true },
    ];
    const showing = { ...PLAIN_SHOWING, triggers: [{ kind: 'after' as const, seconds: 0 }] };
    const source = await api.form(
      'Not over it',
      asking({ presentation: 'pop-up', showing, variants, goal: 'reached', goalPage: '/thanks' }),
    );
    await world.put('form', '');
    const own = await browser.newContext({ userAgent: BROWSER });
    const one = await watched(await own.newPage());
    // The one in a hundred that gets the form would be no test.
    await one.addInitScript(() => (Math.random = () => 0.9));
    const told = one.waitForResponse('**/place/seen');
    await one.goto(`${world.site}/evenings`);
    await told;
    expect(await one.getByRole('dialog').count()).toBe(0);
    await own.close();
    await eventually(
      () => insightOf(source),
      (figures) => figures?.counts.shown === 1,
    );
    await api.post(`/sources/${source.id}/pause`);
  });

  it('a form that is opened by a click is counted so', async () => {
    const showing = { ...PLAIN_SHOWING, triggers: [{ kind: 'click' as const, selector: 'h1' }] };
    const source = await api.form('By a click', asking({ presentation: 'pop-up', showing }));
    await eventually(
      async () => (await (await fetch(`${world.app}/place/site.json`)).json()) as { id: string }[],
      (list) => list.some(({ id }) => source.postUrl.endsWith(id)),
    );
    await visitor.goto(`${world.site}/evenings`);
    await visitor.locator('h1').click();
    await visitor.getByRole('dialog').waitFor();
    await eventually(
      () => insightOf(source),
      (figures) => figures?.opened === 1 && figures.counts.shown === 1,
    );
    await api.post(`/sources/${source.id}/pause`);
  });
});

describe('the builder', () => {
  let operator: Page;
  const open = async (source: SourceView) => {
    await operator.goto(`${world.app}/sources/${source.id}`);
    await operator.getByRole('tab', { name: 'Look' }).waitFor();
  };
  beforeAll(async () => {
    operator = await watched(await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage());
    await signIn(operator, world.app);
  });

  it('takes a picture behind the form, shrinks what is too heavy, and says how much ground has to lie over it', async () => {
    const source = await api.form('Behind it', asking());
    await open(source);
    await operator.getByRole('tab', { name: 'Look' }).click();
    const part = operator.getByRole('group', { name: 'Picture behind the form' });
    // As many random points as a picture of that weight has.
    const heavy = await operator.evaluate(async () => {
      const canvas = new OffscreenCanvas(600, 450);
      const pixels = new ImageData(600, 450);
      for (let at = 0; at < pixels.data.length; at += 1) pixels.data[at] = Math.random() * 256;
      canvas.getContext('2d')?.putImageData(pixels, 0, 0);
      return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())];
    });
    await part
      .getByLabel('Choose a file')
      .setInputFiles({ name: 'sky.png', mimeType: 'image/png', buffer: Buffer.from(heavy) });
    await part.getByText('At most 500 kB are taken').waitFor();
    await part.getByRole('button', { name: 'Shrink it to 600 px' }).click();
    await part.locator('img').waitFor();
    await operator.getByText('Draft saved').waitFor();
    const [kept] = await api.get<OwnFileView[]>('/own-files');
    expect(kept).toMatchObject({ name: 'sky.webp', mediaType: 'image/webp' });
    expect(kept?.width).toBeLessThanOrEqual(600);
    expect(kept?.size).toBeLessThan(500_000);
    await operator.getByLabel('Ground over it, in percent').fill('30');
    await operator.getByRole('button', { name: /^Take \d+ %$/ }).click();
    expect(await operator.getByText('words on it cannot be read well').count()).toBe(0);
    await operator.getByText('Draft saved').waitFor();
    // What lies under the bar of tabs is too small to be hit, until one scrolls.
    await operator.evaluate(() => document.querySelectorAll('*').forEach((one) => (one.scrollTop = 0)));
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Pictures and files of yours' }).click();
    await operator.getByRole('dialog').getByText('in Behind it').waitFor();
    expect(await violationsOn(operator)).toEqual([]);
  });

  it('shows the form on a page as it is, and in every state', async () => {
    await world.put('form', '');
    const under = await api.form(
      'Under it',
      asking({
        showing: { ...PLAIN_SHOWING, placeAt: 'main p', pages: ['/evenings'] },
        instead: [
          {
            ...saying('You have it already.'),
            id: 'known',
            when: { kind: 'test', id: 't', field: '@source other', test: 'is', value: 'yes' },
          },
        ],
      }),
    );
    await open(under);
    await operator.getByLabel('State that is shown').selectOption('for who is known, offer 1');
    await operator.frameLocator('iframe').getByText('You have it already.').waitFor();
    await operator.getByLabel('State that is shown').selectOption('as it is met');
    await operator.getByRole('button', { name: 'On a page' }).click();
    for (const [page, words] of [
      ['/evenings', 'It stands where its rule puts it.'],
      ['/sky-letter', 'the patterns of pages leave this page out'],
    ]) {
      await operator.getByLabel('Address of the page').fill(`${world.site}${page}`);
      await operator.getByRole('button', { name: 'Show it there' }).click();
      await operator.getByText(words ?? '').waitFor();
      const shown = operator.frameLocator('iframe[title="The form on that page"]');
      await shown.getByText('Write to us').first().waitFor();
      await shown.getByText('Pellam Ridge Observatory').first().waitFor();
    }
    await operator.getByLabel('Address of the page').fill(`${world.site}/no-such-page`);
    await operator.getByRole('button', { name: 'Show it there' }).click();
    await operator.getByText('The page answers with 404. Look whether it opens in a browser.').waitFor();
  });

  it('feeds a field of a destination with an answer, and makes it there where it is missing', async () => {
    const { id } = await api.connect(world.ternPost, TERN_KEY);
    const source = await api.form(
      'Feeds',
      formOf([email, sourceField('moon', 'text', { label: 'Favourite moon' })], { button: 'Go' }),
    );
    const route = await api.post<RouteView>('/routes', { name: 'Feeds Tern Post', sourceId: source.id });
    const [target] = skyLetterRoute(source.id, id).targets;
    await api.put(`/routes/${route.id}/draft`, {
      ...route.draft,
      targets: [{ ...target, id: 'only', needs: null, places: [], tags: [], lines: [] }],
    });
    await open(source);
    await operator.getByRole('button', { name: 'Settings of Favourite moon' }).click();
    const feed = operator.getByRole('region', { name: 'Where the answer goes' });
    const choose = feed.getByLabel('Feed a field in tern-post');
    await choose.selectOption('make “Favourite moon” there');
    await feed.getByText('It feeds Favourite moon now').waitFor();
    const after = await api.get<RouteView>(`/routes/${route.id}`);
    expect(after.draft.targets[0]?.lines).toMatchObject([{ from: { kind: 'field', field: 'moon' } }]);
    const there = (await api.connection(id)).catalogue?.fields.map(({ label }) => label);
    expect(there).toContain('Favourite moon');
    await feed.getByText('Favourite moon in tern-post').waitFor();
  });

  it('lets a draft go live at a time, and puts a source aside after saying what stops', async () => {
    const source = await api.form('Fate', asking());
    await open(source);
    await operator.getByLabel('Let the draft go live at').fill('2031-05-01T09:30');
    await operator.getByRole('button', { name: 'Set this time' }).click();
    await operator.getByText(/The draft goes live by itself .*2031/).waitFor();
    await operator.getByRole('button', { name: 'Not by itself' }).click();
    await expect.poll(() => operator.getByText(/The draft goes live by itself/).count()).toBe(0);
    await operator.getByRole('region', { name: 'Details' }).getByRole('button', { name: 'More of Fate' }).click();
    await operator.getByRole('button', { name: 'Archive it' }).click();
    await operator.getByRole('dialog').getByText('find it closed').waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('dialog').getByRole('button', { name: 'Archive this source' }).click();
    await operator.getByText(/^Archived .*: it accepts nothing/).waitFor();
    await operator.getByRole('button', { name: 'Take it out again' }).click();
    await expect.poll(() => operator.getByText(/^Archived /).count()).toBe(0);
  });

  it('puts a start on a page of a site by three clicks, and takes an earlier version back', async () => {
    await operator.goto(`${world.app}/sources`);
    const pages = operator.waitForResponse('**/api/sources/pages');
    await operator.getByRole('button', { name: 'Source', exact: true }).click();
    expect(await (await pages).json()).toContain(`${world.site}/sky-letter`);
    await operator.getByRole('radio', { name: /^Feedback/ }).check();
    // Where most people met a form of ours.
    const chosen = operator.getByLabel('The page on which it is shown at once');
    await expect.poll(() => chosen.inputValue()).toBe(`${world.site}/sky-letter`);
    await operator.getByRole('button', { name: 'Make it, and show it on' }).click();
    await operator.getByRole('heading', { name: 'Feedback', level: 2 }).waitFor();
    await operator.getByRole('button', { name: 'version 1' }).waitFor();
    const { postUrl, id } = (await api.get<SourceView[]>('/sources')).find(({ name }) => name === 'Feedback') ?? {};
    expect((await fetch(postUrl ?? '')).status).toBe(200);
    const own = await browser.newContext({ userAgent: BROWSER });
    const stranger = await watched(await own.newPage());
    await stranger.goto(`${world.site}/sky-letter`);
    await stranger.locator('main').getByText('How was it?').waitFor();
    await own.close();
    await operator.getByLabel('Heading').fill('What did you see?');
    await operator.getByText('Draft saved').waitFor();
    await operator.getByRole('button', { name: 'version 1' }).click();
    const dialog = operator.getByRole('dialog');
    await dialog.frameLocator('iframe[title="The draft"]').getByText('What did you see?').waitFor();
    expect(await dialog.frameLocator('iframe[title="Version 1"]').getByText('What did you see?').count()).toBe(0);
    await dialog.getByRole('button', { name: 'Take version 1 as the draft' }).click();
    await expect.poll(async () => (await api.get<SourceView>(`/sources/${id}`)).changed).toBe(false);
  });

  it('had no trouble on any page', () => expect(troubles).toEqual([]));
});
