import path from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SourceView, VariantsView } from '../../src/contract/source.ts';
import type { ImportView } from '../../src/contract/imports.ts';
import { frontDeskChat } from '../../src/server/demo/chat.ts';
import { shopRoute } from '../../src/server/demo/documents.ts';
import { PLAIN_SHOWING } from '../../src/core/showing/index.ts';
import { formOf, sourceField } from '../world/fields.ts';
import { plainField } from '../../src/core/values/index.ts';
import { signIn, startBrowser, violationsOn, watch } from '../world/browser.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { FOX_TOKEN, TERN_KEY, World, type StandIn } from '../world/world.ts';

const PHONE = { width: 390, height: 844 };
/** Robots are not counted, and a browser without a window says that it is one. */
const PHONE_AGENT = 'Mozilla/5.0 (Android 16; Mobile; rv:150.0) Gecko/150.0 Firefox/150.0';
let world: World;
let api: Operator;
let browser: Browser;
let operator: Page;
let fox: StandIn;
const troubles: string[] = [];

beforeAll(async () => {
  world = await World.start();
  api = await world.operator();
  fox = await world.standIn('fennel-fox', { FENNEL_FOX_TOKEN: FOX_TOKEN });
  browser = await startBrowser();
  operator = await watch(await browser.newPage({ viewport: { width: 1280, height: 800 } }), troubles);
  await signIn(operator, world.app);
});
afterAll(async () => {
  await browser.close();
  await world.stop();
});

const SCRIPT = `Hello
  say "Clear skies!"
  choose topic "What can we do for you?"
    "Ask somebody" > Desk
    "Write to me" > Letter

Desk
  hand over "One moment." 60 s > Letter
  go > Letter

Letter
  ask email (email) "Where can we write to you?" > Bye
  agree letter "May we send you the letter?" : "Yes, send me the letter."
  go > Bye

Bye
  end "See you!"
`;

/** The parts of a page are reached by the tab key alone. */
async function tabTo(page: Page, name: string): Promise<void> {
  for (let count = 0; count < 60; count += 1) {
    await page.keyboard.press('Tab');
    const found = await page.evaluate(() => {
      const at = document.activeElement?.shadowRoot?.activeElement ?? document.activeElement;
      return at?.getAttribute('aria-label') ?? at?.textContent ?? '';
    });
    if (found.includes(name)) return;
  }
  throw new Error(`${name} is not reached by the keyboard`);
}

describe('a chat', () => {
  it('is built from empty by the keyboard, found wrong while it is, tried, and live', async () => {
    await operator.goto(`${world.app}/sources`);
    await operator.getByRole('button', { name: 'Add a source' }).click();
    const making = operator.getByRole('dialog', { name: 'A new source' });
    await making.getByLabel(/Chat: a conversation by steps/).check();
    await making.getByLabel('Name').fill('Front desk');
    await making.getByLabel('Name').press('Enter');
    await operator.getByRole('tab', { name: 'Script' }).focus();
    await operator.keyboard.press('Enter');
    const script = operator.getByLabel('The conversation as a script');
    await script.focus();
    await operator.keyboard.press('Control+a');
    await operator.keyboard.insertText('Hello\n  say "Clear skies!"\n  go > Nowhere');
    await operator.getByText('Line 3: There is no part “Nowhere”.').waitFor();
    await operator.keyboard.press('Control+a');
    await operator.keyboard.insertText('Hello\n  say "Clear skies!"\n  go > Hello');
    await operator.getByText('From here it goes round for ever').waitFor();
    await operator.keyboard.press('Control+a');
    await operator.keyboard.insertText(SCRIPT);
    await operator.getByText('Every way leads to an end.').waitFor();
    expect(await violationsOn(operator)).toEqual([]);

    await operator.getByRole('tab', { name: 'Drawing' }).click();
    await operator
      .getByRole('region', { name: 'The conversation, drawn' })
      .getByText('What can we do for you?')
      .click();
    await operator.getByRole('heading', { name: 'Offer answers' }).waitFor();
    expect(await operator.getByRole('textbox', { name: 'Answer 1' }).inputValue()).toBe('Ask somebody');
    await operator.getByRole('textbox', { name: 'Answer 1' }).fill('Talk to somebody');
    await operator.getByRole('tab', { name: 'Script' }).click();
    await operator.getByText('"Talk to somebody" > Desk').or(script).first().waitFor();
    expect(await script.inputValue()).toContain('"Talk to somebody" > Desk');

    await operator.getByRole('tab', { name: 'Try it' }).click();
    await operator.getByRole('button', { name: 'Try it' }).click();
    await operator.getByRole('button', { name: 'Write to me' }).click();
    await operator.getByLabel('Your answer').fill('none');
    await operator.keyboard.press('Enter');
    await operator.getByText('I did not quite get that.').waitFor();
    await operator.getByLabel('Your answer').fill('it is mara@hill.example');
    await operator.keyboard.press('Enter');
    await operator.getByText('No route takes it: it would be kept here.').waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByText('Draft saved').waitFor();
    await operator.getByRole('button', { name: 'Publish', exact: true }).click();
    await operator.getByText('version 1').waitFor();
  });

  it('is had on a telephone over pages and a reload, taken over by a colleague, and part of the trail', async () => {
    await world.putScript();
    const visitor = await watch(await browser.newPage({ viewport: PHONE, hasTouch: true }), troubles);
    await eventually(
      async () => {
        await visitor.goto(`${world.site}/visit`);
        return visitor
          .getByRole('button', { name: 'Open the chat: Ask us' })
          .waitFor({ timeout: 2_000 })
          .then(() => true)
          .catch(() => false);
      },
      (isThere) => isThere,
      45_000,
    );
    await tabTo(visitor, 'Open the chat');
    await visitor.keyboard.press('Enter');
    const panel = visitor.getByRole('dialog', { name: 'Ask us' });
    await panel.getByText('What can we do for you?').waitFor();
    expect(await violationsOn(visitor)).toEqual([]);
    await visitor.keyboard.press('Escape');
    expect(await panel.isHidden()).toBe(true);
    await visitor.keyboard.press('Enter');
    await panel.getByRole('button', { name: 'Talk to somebody' }).click();
    await panel.getByText('Somebody is being fetched.').waitFor();
    // Another page, and a reload: it is still there.
    await visitor.goto(`${world.site}/evenings`);
    await panel.getByText('One moment.').waitFor();
    await visitor.reload();
    await panel.getByText('One moment.').waitFor();
    // It takes nobody's cursor from the page, and who puts it away has it away on the next page.
    expect(await visitor.evaluate(() => document.activeElement?.tagName)).toBe('BODY');
    await panel.getByRole('button', { name: 'Close' }).click();
    await visitor.reload();
    await visitor.getByRole('button', { name: 'Open the chat: Ask us' }).waitFor();
    expect(await panel.isHidden()).toBe(true);
    await visitor.getByRole('button', { name: 'Open the chat: Ask us' }).click();
    await panel.getByText('One moment.').waitFor();

    await operator.getByRole('link', { name: 'Activity' }).click();
    await operator.getByRole('link', { name: 'Chats' }).click();
    await operator
      .getByRole('link', { name: /Front desk/ })
      .first()
      .click();
    await operator.getByRole('button', { name: 'Take it over' }).click();
    await panel.getByText('Wren is here now.').waitFor();
    await operator.getByLabel('Your answer').fill('Hello, this is Wren.');
    await operator.getByRole('button', { name: 'Say it' }).click();
    await panel.getByText('Hello, this is Wren.').waitFor();
    await panel.getByPlaceholder('Type your answer').fill('Is it warm up there?');
    await visitor.keyboard.press('Enter');
    const talk = operator.getByRole('log', { name: 'What was said' });
    await talk.getByText('Is it warm up there?').waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Let the chat go on' }).click();
    await panel.getByText('Where can we write to you?').waitFor();

    // While there is no connection, nothing is lost.
    await visitor.context().setOffline(true);
    await panel.getByPlaceholder('Type your answer').fill('ada@hill.example');
    await visitor.keyboard.press('Enter');
    await panel.getByText('Not sent yet').waitFor();
    await visitor.context().setOffline(false);
    await panel.getByText('Yes, send me the letter.').waitFor();
    await panel.getByRole('button', { name: 'Yes', exact: true }).click();
    await panel.getByText('See you!').waitFor();
    // What is over is not opened again on the next page.
    await visitor.reload();
    await visitor.getByRole('button', { name: 'Open the chat: Ask us' }).waitFor();
    expect(await panel.isHidden()).toBe(true);
    await operator.getByRole('button', { name: 'What became of it' }).click();
    await operator.getByRole('heading', { name: 'What was said' }).waitFor();
    await operator.getByText('Hello, this is Wren.').waitFor();
    await visitor.close();
  });
});

describe('a chat that opens by itself', () => {
  it('does so once its time has come, without the cursor; never on a phone, or for who put it away', async () => {
    await world.putScript();
    const desk = frontDeskChat(world.site, () => crypto.randomUUID());
    const triggers = [{ kind: 'after' as const, seconds: 1 }];
    const pages = { ...desk.showing, pages: ['/stories*'], triggers, priority: 5 };
    const bar = await api.form('Along the edge', {
      ...formOf([sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' })]),
      title: 'Clear skies by mail',
      presentation: 'bar',
      showing: { ...PLAIN_SHOWING, pages: ['/stories*'], triggers: [{ kind: 'after', seconds: 0 }], entrance: 'none' },
    });
    const source = await api.source('By itself', { ...desk, launcher: 'Talk to us', showing: pages });
    const visitor = await watch(await browser.newPage({ viewport: { width: 1280, height: 800 } }), troubles);
    const panel = visitor.getByRole('dialog', { name: 'Front desk' });
    await eventually(
      async () => {
        await visitor.goto(`${world.site}/stories/a-comet-for-breakfast`);
        const button = visitor.getByRole('button', { name: /Talk to us/ });
        return button.waitFor({ timeout: 2_000 }).then(
          () => true,
          () => false,
        );
      },
      (isThere) => isThere,
      45_000,
    );
    await panel.getByText("This is the observatory's front desk.").waitFor();
    expect(await visitor.evaluate(() => document.activeElement?.tagName)).toBe('BODY');
    await panel.getByRole('button', { name: 'Close' }).click();
    // What stands along the edge, and its button, is not covered by the button of the chat.
    const edge = await visitor.getByRole('complementary', { name: 'Clear skies by mail' }).boundingBox();
    const opener = await visitor.getByRole('button', { name: /Talk to us/ }).boundingBox();
    expect((opener?.y ?? 0) + (opener?.height ?? Infinity)).toBeLessThanOrEqual(edge?.y ?? 0);
    await visitor.getByRole('complementary').getByRole('button', { name: 'Close' }).click();
    const back = await visitor.getByRole('button', { name: /Talk to us/ }).boundingBox();
    expect(back?.y ?? 0).toBeGreaterThan(opener?.y ?? Infinity);
    await api.post(`/sources/${bar.id}/pause`);
    await visitor.reload();
    await visitor.getByRole('button', { name: /Talk to us/ }).waitFor();
    await visitor.waitForTimeout(2_500);
    expect(await panel.isHidden()).toBe(true);
    await visitor.close();

    const phone = await watch(await browser.newPage({ viewport: PHONE, hasTouch: true }), troubles);
    await phone.goto(`${world.site}/stories/a-comet-for-breakfast`);
    await phone.getByRole('button', { name: /Talk to us/ }).waitFor();
    await phone.waitForTimeout(2_500);
    expect(await phone.getByRole('dialog', { name: 'Front desk' }).isHidden()).toBe(true);
    await phone.close();
    // Who only saw it has said nothing: nothing became of it.
    expect((await api.submissions(`source=${source.id}`)).rows).toEqual([]);
    await api.post(`/sources/${source.id}/pause`);
  });
});

describe('a chat in variants', () => {
  it('is made so by an operator; a visitor has one of them, hands over a photo, and what they said is found', async () => {
    const desk = frontDeskChat(world.site, () => crypto.randomUUID());
    const source = await api.source('Photos', {
      ...desk,
      launcher: 'Show us',
      fields: [
        { ...plainField('photo', 'file'), label: 'Photo', options: ['image/*'] },
        { ...plainField('note', 'text'), label: 'Note' },
        { ...plainField('email', 'email'), label: 'Email', keepAs: 'email' },
        { ...plainField('finished', 'yes/no'), label: 'Came to its end' },
      ],
      parts: [
        {
          id: 'photo',
          name: 'Photo',
          steps: [
            { id: 'ask', kind: 'ask', text: 'Your photo of the sky?', field: 'photo', otherwise: '' },
            { id: 'note', kind: 'ask', text: 'What does it show?', field: 'note', otherwise: '' },
            { id: 'bye', kind: 'end', text: 'Lovely!', link: '', linkText: '' },
          ],
        },
      ],
      showing: { ...desk.showing, pages: ['/evenings'], triggers: [], priority: 9 },
    });
    await operator.goto(`${world.app}/sources/${source.id}?view=script`);
    await operator.getByRole('tab', { name: 'Variants' }).click();
    await operator.getByRole('button', { name: 'Make a second variant' }).click();
    await operator.getByText('Variant B').waitFor();
    const script = operator.getByLabel('The conversation as a script');
    await script.fill((await script.inputValue()).replace('Your photo of the sky?', 'May we see your sky?'));
    await operator.getByRole('tab', { name: 'Chat', exact: true }).click();
    await operator.getByLabel('On the button').fill('Show it');
    await operator.getByRole('tab', { name: 'Variants' }).click();
    // Nearly all have the second one.
    await operator.getByLabel('Shown to, in percent').first().fill('1');
    await operator.getByLabel('Shown to, in percent').last().fill('99');
    await operator.getByRole('button', { name: 'Work on the chat itself' }).click();
    expect(await script.inputValue()).toContain('Your photo of the sky?');
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByText('Draft saved').waitFor();
    await operator.getByRole('button', { name: /^Publish/ }).click();
    await operator
      .getByRole('dialog')
      .getByRole('button', { name: /^Publish/ })
      .click();
    await operator.getByText('version 2').waitFor();

    await world.putScript();
    const visitor = await watch(
      await browser.newPage({ viewport: PHONE, hasTouch: true, userAgent: PHONE_AGENT }),
      troubles,
    );
    const opener = visitor.getByRole('button', { name: 'Open the chat: Show it' });
    await eventually(
      async () => {
        await visitor.goto(`${world.site}/evenings`);
        return opener.waitFor({ timeout: 2_000 }).then(
          () => true,
          () => false,
        );
      },
      (isThere) => isThere,
      45_000,
    );
    // There is one chat on a page.
    expect(await visitor.getByRole('button', { name: /Open the chat/ }).count()).toBe(1);
    await opener.click();
    const panel = visitor.getByRole('dialog', { name: 'Front desk' });
    await panel.getByText('May we see your sky?').waitFor();
    expect(await violationsOn(visitor)).toEqual([]);
    const chosen = panel.getByLabel('Choose a file');
    await chosen.setInputFiles({ name: 'words.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') });
    await panel.getByText('which is not taken here').waitFor();
    await chosen.setInputFiles(path.join(import.meta.dirname, '../world/one-pixel.png'));
    await panel.getByText('What does it show?').waitFor();
    await panel.getByPlaceholder('Type your answer').fill('A halo around the moon');
    await visitor.keyboard.press('Enter');
    await panel.getByText('Lovely!').waitFor();
    await visitor.close();

    await operator.goto(`${world.app}/activity/chats`);
    await operator.getByLabel('Look for what was said').fill('halo moon');
    const list = operator.getByRole('region', { name: 'Conversations' });
    await list.getByText('Said in one conversation.').waitFor();
    await list.getByRole('link', { name: /Photos.*A halo around the moon/ }).click();
    await operator.getByRole('link', { name: 'one-pixel.png' }).waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    // What was looked for is of a person: it stands in no address.
    expect(operator.url()).not.toContain('halo');
    await operator.getByLabel('Look for what was said').fill('aurora');
    await list.getByText('Nobody said “aurora”').waitFor();
    await eventually(
      () => api.get<VariantsView>(`/sources/${source.id}/variants`),
      ({ arms }) => arms[1]?.met === 1 && arms[1].reached === 1,
      20_000,
    );
    await operator.goto(`${world.app}/sources/${source.id}`);
    await operator.getByRole('tab', { name: 'Variants' }).click();
    const figures = operator.getByRole('region', { name: 'Figures of the variants' });
    await figures.getByRole('row', { name: /^B 1 1 / }).waitFor();
    await api.post(`/sources/${source.id}/pause`);
  });
});

describe('a shop', () => {
  it('is connected, becomes a source, and its customers of before are fetched, rehearsed and taken', async () => {
    for (const name of ['ada', 'mara', 'quill'])
      await fetch(`${fox.url}/buy`, {
        method: 'POST',
        body: new URLSearchParams([
          ['address', `${name}@shop.example`],
          ['given', name],
          ['CHART-N', '1'],
          ...(name === 'quill' ? [] : [['agree', 'email']]),
        ]),
      });
    await operator.goto(`${world.app}/connections/new?service=fennel-fox`);
    await operator.getByLabel('Base URL').fill(fox.url);
    await operator.getByLabel('Token').fill(FOX_TOKEN);
    await operator.getByRole('button', { name: 'Verify', exact: true }).click();
    await operator.getByRole('button', { name: 'Save', exact: true }).click();
    await eventually(
      () => api.get<{ id: string }[]>('/sources/shops'),
      (shops) => shops.length === 1,
    );
    await operator.goto(`${world.app}/sources`);
    await operator.getByRole('button', { name: 'Source', exact: true }).click();
    const making = operator.getByRole('dialog', { name: 'A new source' });
    await making.getByLabel(/Shop: what happens/).check();
    await making.getByLabel('Name').fill('The shop');
    await making.getByRole('button', { name: 'Make it', exact: true }).click();
    await operator.getByText('Our address is registered there: the shop tells what happens.').waitFor();
    await operator.getByText('“Yes, send me the Sky letter by email.”', { exact: true }).waitFor();
    expect(await violationsOn(operator)).toEqual([]);
    await operator.getByRole('button', { name: 'Publish', exact: true }).click();
    await operator.getByText('version 1').waitFor();
    const source = (await api.get<SourceView[]>('/sources')).find(({ name }) => name === 'The shop');
    const ternPost = await api.connect(world.ternPost, TERN_KEY);
    const route = shopRoute(source?.id ?? '', { ternPost: ternPost.id });
    await api.route('Shop to the letter', { ...route, consent: { ...route.consent, confirmedBy: { by: 'nobody' } } });

    await operator.getByRole('button', { name: 'Fetch all customers' }).click();
    const customers = operator.locator('details').filter({ hasText: 'All customers of' });
    await customers.getByRole('button', { name: 'Rehearse all customers' }).click();
    await customers.getByText('Of 3 customers, as everything is live').waitFor();
    await customers.getByLabel('Customers a minute').fill('60000');
    await customers.getByRole('button', { name: 'Take 3 customers' }).click();
    await eventually(
      () => api.get<ImportView[]>(`/sources/${source?.id}/imports`),
      ([one]) => one?.state === 'done',
    );
    await eventually(
      () => world.members(),
      (members) => members.length === 2,
    );
    // And live: who buys now is there in a moment.
    await fetch(`${fox.url}/buy`, {
      method: 'POST',
      body: new URLSearchParams([
        ['address', 'new@shop.example'],
        ['given', 'New'],
        ['CHART-N', '1'],
        ['agree', 'email'],
      ]),
    });
    await eventually(
      () => world.members(),
      (members) => members.some(({ email, state }) => email === 'new@shop.example' && state === 'active'),
    );
    await operator.getByText(/It told us/).waitFor();

    // One person by several ways: she unsubscribes in the shop, and is left alone in the list.
    const shop = await browser.newPage();
    await shop.goto(`${fox.url}/account?address=new@shop.example`);
    await shop.getByRole('button', { name: 'Stop it' }).click();
    await eventually(
      () => world.members(),
      (members) => members.some(({ email, state }) => email === 'new@shop.example' && state === 'left'),
    );
    await shop.close();
    await operator.getByRole('link', { name: 'People' }).click();
    await operator
      .getByRole('link', { name: /new@shop.example/ })
      .first()
      .click();
    await operator.getByText('withdrawn').first().waitFor();
  });
});

it('nothing went wrong in scripts, and no policy blocked anything', () => expect(troubles).toEqual([]));
