import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  ChatBegun,
  ChatFace,
  ChatView,
  ConversationRow,
  ConversationView,
  FoundConversation,
} from '../../src/contract/chat.ts';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { Page as PageOf } from '../../src/contract/pages.ts';
import type { SourceView, VariantsView } from '../../src/contract/source.ts';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { ChatDocument } from '../../src/core/intake/index.ts';
import { frontDeskChat, frontDeskRoute } from '../../src/server/demo/chat.ts';
import { plainField } from '../../src/core/values/index.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { ProgramClock } from '../world/programClock.ts';
import { TERN_KEY, World } from '../world/world.ts';

const clock = new ProgramClock();
let world: World;
let operator: Operator;
let ternPost: ConnectionView;
let source: SourceView;
let chat = '';
let made = 0;
let number = 0;

const always = (document: ChatDocument, open: boolean): ChatDocument => ({
  ...document,
  parts: document.parts.map((part) => ({
    ...part,
    steps: part.steps.map((step) =>
      step.kind === 'decide'
        ? {
            ...step,
            rules: step.rules.map((rule) =>
              rule.hours
                ? {
                    ...rule,
                    hours: { days: open ? [1, 2, 3, 4, 5, 6, 7] : [], from: '00:00', to: '23:59', zone: 'UTC' },
                  }
                : rule,
            ),
          }
        : step,
    ),
  })),
});

beforeAll(async () => {
  world = await World.start(clock.env);
  operator = await world.operator();
  ternPost = await operator.connect(world.ternPost, TERN_KEY);
  const document = frontDeskChat(world.site, () => `id${(made += 1)}`);
  source = await operator.source('Front desk', always(document, true));
  chat = source.postUrl.split('/').at(-1) ?? '';
  const route = frontDeskRoute(source.id, ternPost.id);
  await operator.route('Front desk to the letter', {
    ...route,
    consent: { ...route.consent, confirmedBy: { by: 'nobody' } },
  });
});
afterAll(async () => {
  await world.stop();
  clock.stop();
});

const newAddress = () => `talks${(number += 1)}@hill.example`;
const post = (path: string, body: object, origin = world.site): Promise<Response> =>
  fetch(`${world.app}/chat/${chat}${path}`, { method: 'POST', headers: { origin }, body: JSON.stringify(body) });

/** A visitor's page, as its script has a conversation. */
class Page {
  token = '';
  after = 0;
  view: ChatView | null = null;

  static async open(): Promise<Page> {
    const page = new Page();
    const response = await post('', { page: `${world.site}/visit`, referrer: '' });
    const begun = (await response.json()) as ChatBegun;
    page.token = begun.token;
    page.#see(begun);
    return page;
  }
  #see(view: ChatView): void {
    this.view = view;
    this.after = view.lines.at(-1)?.number ?? this.after;
  }
  async send(said: object, id: string = crypto.randomUUID()): Promise<ChatView> {
    const response = await post('/say', { token: this.token, id, said, after: this.after });
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
    const view = (await response.json()) as ChatView;
    this.#see(view);
    return view;
  }
  say = (...texts: string[]) =>
    texts.reduce<Promise<ChatView | null>>(async (before, text) => {
      await before;
      return this.send({ kind: 'text', text });
    }, Promise.resolve(null));
  async look(after = this.after): Promise<ChatView> {
    return (await (await post('/look', { token: this.token, after })).json()) as ChatView;
  }
}

const conversations = (which = 'open') => operator.get<ConversationRow[]>(`/conversations?which=${which}`);
/** The newest conversation. */
async function newest(which = 'open'): Promise<ConversationRow> {
  const [row] = await conversations(which);
  if (!row) throw new Error('there is no conversation');
  return row;
}
const trailOf = (id: string, when: (trail: TrailView) => boolean): Promise<TrailView> =>
  eventually(() => operator.trail(id), when, 20_000);
const become = async (id: string): Promise<TrailView> => {
  const { submissionId } = await eventually(
    () => operator.get<ConversationView>(`/conversations/${id}`),
    (one) => one.submissionId !== null,
    20_000,
  );
  return trailOf(submissionId ?? '', ({ plan, progress }) => plan !== null && progress !== 'on its way');
};
const keyOf = (field: string) => source.draft.fields.find(({ id }) => id === field)?.key;
const memberOf = async (email: string) => (await world.members()).find((one) => one.email === email);

describe('a conversation on a page', () => {
  it('says what its button and window need, in the language of the browser, on its own site alone', async () => {
    const face = await fetch(`${world.app}/chat/${chat}/face`, {
      headers: { origin: world.site, 'accept-language': 'pl' },
    });
    expect(await face.json()).toMatchObject({
      title: 'Front desk',
      language: 'pl',
      words: { send: 'Wyślij' },
    } satisfies Partial<Omit<ChatFace, 'words'> & { words: object }>);
    const elsewhere = await fetch(`${world.app}/chat/${chat}/face`, { headers: { origin: 'https://other.example' } });
    expect(elsewhere.status).toBe(404);
    expect((await post('', {}, 'https://other.example')).status).toBe(404);
    const placed = (await (
      await fetch(`${world.app}/place/site.json`, { headers: { origin: world.site } })
    ).json()) as object[];
    expect(placed).toMatchObject([{ id: chat, presentation: 'chat' }]);
  });

  it('is counted by what is answered, each once however often it is said', async () => {
    const page = await Page.open();
    const input = { kind: 'text', text: 'The Sky letter' };
    await page.send(input, 'said-once');
    await page.send(input, 'said-once');
    await page.say('Mara Quill');
    const { values } = await eventually(
      () => operator.get<{ values: { value: string; answered: number }[] }>(`/insight?by=question&source=${source.id}`),
      (told) => told.values.some(({ value }) => keyOf(value) === 'name'),
    );
    expect(Object.fromEntries(values.map(({ value, answered }) => [keyOf(value), answered]))).toEqual({
      topic: 1,
      name: 1,
    });
  });

  it('ends in a submission that goes where its route says, with the consent in its words', async () => {
    const email = newAddress();
    const page = await Page.open();
    expect(page.view?.awaits).toMatchObject({
      kind: 'choice',
      choices: ['An evening here', 'The Sky letter', 'Something else'],
    });
    await page.say('the sky leter', 'Mara Quill', `write to ${email}, please`);
    expect(page.view?.awaits).toMatchObject({ kind: 'consent' });
    const last = await page.send({ kind: 'consent', yes: true });
    expect(last).toMatchObject({ status: 'ended', awaits: { kind: 'nothing' } });
    expect(last.lines.at(-1)?.link?.text).toBe('What is on');
    const { id } = await newest('all');
    const trail = await become(id);
    expect(trail).toMatchObject({ progress: 'delivered', values: { finished: true, email, topic: 'The Sky letter' } });
    expect(trail.consent).toMatchObject([{ kind: 'given', channel: 'email' }]);
    expect(trail.visit.page).toBe(`${world.site}/visit`);
    expect(await memberOf(email)).toMatchObject({ state: 'active', fields: { given: 'Mara', family: 'Quill' } });
    expect((await operator.get<ConversationView>(`/conversations/of/${trail.id}`)).said.length).toBeGreaterThan(8);
  });

  it('counts what is said once, however often the page sends it, and knows it again after a reload', async () => {
    const page = await Page.open();
    const id = crypto.randomUUID();
    await page.send({ kind: 'text', text: 'The Sky letter' }, id);
    const before = await page.look(0);
    await page.send({ kind: 'text', text: 'The Sky letter' }, id);
    await page.send({ kind: 'text', text: 'Something else' }, id);
    expect((await page.look(0)).lines).toEqual(before.lines);
    expect(before.lines.map(({ number: at }) => at)).toEqual(before.lines.map((_, index) => index + 1));
    expect(before.awaits).toEqual({ kind: 'text', type: 'text' });
  });

  it('goes on where it was when the server is killed in the middle of it', async () => {
    const email = newAddress();
    const page = await Page.open();
    await page.say('The Sky letter', 'Mara Quill');
    await world.kill('server');
    await expect(page.send({ kind: 'text', text: email })).rejects.toThrow();
    await world.startServer();
    await page.say(email, 'yes please');
    expect(page.view?.status).toBe('ended');
    operator = await world.operator().catch(() => operator);
    const { id } = await newest('all');
    expect((await become(id)).progress).toBe('delivered');
  });

  it('takes nothing from whoever does not have it, and nothing that is too much', async () => {
    expect(
      (await post('/say', { token: 'no', id: crypto.randomUUID(), said: { kind: 'text', text: 'x' } })).status,
    ).toBe(404);
    expect((await post('/look', { token: '' })).status).toBe(404);
    expect((await post('/stream', { token: 'no' })).status).toBe(404);
    const page = await Page.open();
    const long = { kind: 'text', text: 'x'.repeat(3_000) };
    expect((await post('/say', { token: page.token, id: crypto.randomUUID(), said: long })).status).toBe(422);
    expect((await post('/say', { token: page.token, said: long, more: 'x'.repeat(20_000) })).status).toBe(413);
  });
});

describe('variants of a chat', () => {
  it('each visitor has the one of their page; what came of each is counted, and nothing of a chat that broke off', async () => {
    const own = await operator.source(
      'Front desk, compared',
      always(
        frontDeskChat(world.site, () => `id${(made += 1)}`),
        true,
      ),
    );
    const { draft } = own;
    const short: ChatDocument['parts'] = [
      {
        id: 'short',
        name: 'Short',
        steps: [
          { id: 'mail', kind: 'ask', text: 'Where can we write to you?', field: 'email', otherwise: '' },
          { id: 'bye', kind: 'end', text: 'Clear skies!', link: '', linkText: '' },
        ],
      },
    ];
    const face = { title: 'Write to us', launcher: 'Write', look: draft.look, parts: short };
    const variants: ChatDocument['variants'] = [
      { id: 'long', name: 'A', share: 50, face: null, nothing: false },
      { id: 'short', name: 'B', share: 50, face, nothing: false },
    ];
    await operator.put(`/sources/${own.id}/draft`, { ...draft, variants });
    await operator.post(`/sources/${own.id}/publish`);
    const address = own.postUrl.split('/').at(-1) ?? '';
    const ask = async <T>(path: string, body?: object): Promise<T> => {
      const how = body ? { method: 'POST', body: JSON.stringify(body) } : {};
      const response = await fetch(`${world.app}${path}`, { headers: { origin: world.site }, ...how });
      return (await response.json()) as T;
    };
    const placed = await ask<{ id: string; variants: object[] }[]>('/place/site.json');
    expect(placed.find(({ id }) => id === address)?.variants).toMatchObject([{ id: 'long' }, { id: 'short' }]);
    expect(await ask<ChatFace>(`/chat/${address}/face?variant=short`)).toMatchObject({ title: 'Write to us' });
    expect(await ask<ChatFace>(`/chat/${address}/face`)).toMatchObject({ title: 'Front desk' });

    const showing = (variant: string) => ({
      form: address,
      showing: crypto.randomUUID(),
      variant,
      page: `${world.site}/visit`,
      referrer: '',
      events: [{ what: 'shown', question: '' }],
    });
    for (const variant of ['long', 'long', 'short', 'short'])
      await fetch(`${world.app}/place/seen`, {
        method: 'POST',
        // Robots are not counted.
        headers: { origin: world.site, 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:150.0) Gecko/20100101' },
        body: JSON.stringify(showing(variant)),
      });
    const talk = async (variant: string, ...texts: string[]): Promise<ChatView> => {
      const begun = await ask<ChatBegun>(`/chat/${address}`, { page: `${world.site}/visit`, referrer: '', variant });
      let view: ChatView = begun;
      for (const text of texts)
        view = await ask<ChatView>(`/chat/${address}/say`, {
          token: begun.token,
          id: crypto.randomUUID(),
          said: { kind: 'text', text },
          after: 0,
        });
      return view;
    };
    expect((await talk('short', newAddress())).status).toBe('ended');
    // It breaks off.
    expect((await talk('long', 'The Sky letter')).status).toBe('talking');
    expect((await talk('gone')).awaits).toMatchObject({ kind: 'choice' });
    await clock.put(31 * 60_000, [world.server, world.worker]);
    const broken = ({ sourceId, status, submissionId }: ConversationRow) =>
      sourceId === own.id && status === 'broken off' && submissionId !== null && submissionId !== '';
    const rows = await eventually(
      () => conversations('all'),
      (all) => all.some(broken),
      30_000,
    );
    await become(rows.find(broken)?.id ?? '');
    await clock.put(0, [world.server, world.worker]);
    const told = await eventually(
      () => operator.get<VariantsView>(`/sources/${own.id}/variants`),
      ({ arms }) => arms[1]?.reached === 1 && arms[0]?.met === 2,
      20_000,
    );
    expect(told.arms.map(({ met, reached }) => [met, reached])).toEqual([
      [2, 0],
      [2, 1],
    ]);
  });

  it('do not go live where one leads nowhere, or their shares are not whole', async () => {
    const document = frontDeskChat(world.site, () => `id${(made += 1)}`);
    const step = { id: 'ask', kind: 'ask' as const, text: 'Who?', field: 'nobody', otherwise: 'nowhere' };
    const face = { title: 'B', launcher: 'B', look: document.look, parts: [{ id: 'p', name: 'Part', steps: [step] }] };
    const variants = [
      { id: 'a', name: 'A', share: 50, face: null, nothing: false },
      { id: 'b', name: 'B', share: 40, face, nothing: false },
    ];
    await expect(operator.source('Broken variants', { ...document, variants })).rejects.toThrow(
      /B: It leads to a part that is not there|shares add up to 90/,
    );
  });
});

it('a conversation is followed by six pages at a time, and whoever leaves makes room at once', async () => {
  const [page, other] = [await Page.open(), await Page.open()];
  const follow = ({ token, after }: Page) => post('/stream', { token, after });
  const streams = await Promise.all(Array.from({ length: 6 }, () => follow(page)));
  expect(streams.map(({ status }) => status)).toEqual(Array(6).fill(200));
  expect((await follow(page)).status).toBe(429);
  const beside = await follow(other);
  expect(beside.status).toBe(200);
  await streams[0]?.body?.cancel();
  // Sooner than by the next beat, 15 seconds later.
  const room = await eventually(
    () => follow(page),
    ({ status }) => status === 200,
    5_000,
  );
  for (const { body } of [...streams.slice(1), beside, room]) await body?.cancel();
});

describe('a colleague', () => {
  it('is told by a list that goes on by itself, takes over, answers live, and leaves the rest to the chat', async () => {
    const email = newAddress();
    const page = await Page.open();
    await page.say('Something else', 'Do you have stairs?');
    expect(page.view).toMatchObject({ status: 'wanted', awaits: { kind: 'colleague', seconds: 60 } });
    const row = (await conversations()).find(({ status }) => status === 'wanted');
    expect(row).toMatchObject({ sourceName: 'Front desk', last: "One moment, I'll fetch somebody." });
    const id = row?.id ?? '';

    const stream = await post('/stream', { token: page.token, after: page.after });
    expect(stream.headers.get('content-type')).toContain('text/event-stream');
    const heard: ChatView[] = [];
    const reading = (async () => {
      let text = '';
      const decoder = new TextDecoder();
      for await (const part of stream.body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(part, { stream: true });
        const events = text.split('\n\n');
        text = events.pop() ?? '';
        for (const event of events) {
          const data = /^data: ?(.*)$/m.exec(event)?.[1];
          if (data) heard.push(JSON.parse(data) as ChatView);
        }
        if (heard.some(({ status }) => status === 'talking')) return;
      }
    })();

    await operator.post(`/conversations/${id}/take`);
    await page.send({ kind: 'text', text: 'Hello?' });
    await operator.post(`/conversations/${id}/say`, { text: 'No stairs: there is a ramp to the dome.' });
    await eventually(
      () => Promise.resolve(heard),
      (all) => all.some(({ lines }) => lines.some(({ by }) => by === 'colleague')),
    );
    expect(heard.some(({ status, colleague }) => status === 'taken' && colleague === 'Wren')).toBe(true);
    await operator.post(`/conversations/${id}/give-back`);
    await reading;
    const look = await page.look(0);
    expect(look.lines.map(({ by, text }) => `${by}: ${text}`).slice(-4)).toEqual([
      'visitor: Hello?',
      'colleague: No stairs: there is a ramp to the dome.',
      'us: We go on here.',
      'us: What may we call you?',
    ]);
    await page.say('Mara Quill', email, 'no');
    const trail = await become(id);
    expect(trail.consent).toMatchObject([{ kind: 'not given' }]);
    expect(await memberOf(email)).toBeUndefined();
    const changes = JSON.stringify(await operator.get('/changes'));
    expect(changes).toContain('took over');
  });

  it('may take it over in the middle of a question: what is said then is said to them, and it is asked once more', async () => {
    const page = await Page.open();
    await page.say('The Sky letter');
    expect(page.view?.awaits).toEqual({ kind: 'text', type: 'text' });
    const question = page.view?.lines.at(-1)?.text;
    const { id } = await newest();
    await operator.post(`/conversations/${id}/take`);
    const said = await page.say('no idea, who are you?');
    expect(said?.lines.map(({ by, text }) => [by, text])).toEqual([['visitor', 'no idea, who are you?']]);
    await operator.post(`/conversations/${id}/say`, { text: 'Wren. Go on, please.' });
    await operator.post(`/conversations/${id}/give-back`);
    const left = await page.look();
    expect(left.lines.at(-1)).toMatchObject({ by: 'us', text: question });
    expect(left.awaits).toEqual({ kind: 'text', type: 'text' });
    await page.say('Mara Quill');
    const { answers } = await operator.get<ConversationView>(`/conversations/${id}`);
    expect(answers.map(({ value }) => value)).toContain('Mara Quill');
  });

  it('may end it, and cannot take what has ended, nor answer where nobody took over', async () => {
    const page = await Page.open();
    await page.say('The Sky letter');
    const id = (await conversations()).find(({ last }) => last === 'What may we call you?')?.id ?? '';
    const early = await operator.send('POST', `/conversations/${id}/say`, { text: 'Hello' });
    expect(early.status).toBe(409);
    await operator.post(`/conversations/${id}/take`);
    await operator.post(`/conversations/${id}/end`);
    expect((await page.look(0)).status).toBe('ended');
    expect((await operator.send('POST', `/conversations/${id}/take`)).status).toBe(409);
    expect((await become(id)).values).toMatchObject({ finished: true });
  });

  it('who does not come in time is gone on without', async () => {
    const page = await Page.open();
    await page.say('Something else', 'Is it warm?');
    expect(page.view?.status).toBe('wanted');
    await clock.put(61_000, [world.server, world.worker]);
    const view = await eventually(
      () => page.look(0),
      ({ status }) => status === 'talking',
      10_000,
    );
    expect(view.lines.at(-1)?.text).toBe('What may we call you?');
    await clock.put(0, [world.server, world.worker]);
  });

  it('gets a mail where the desk is closed', async () => {
    const document = source.draft as ChatDocument;
    await operator.put(`/sources/${source.id}/draft`, always(document, false));
    await operator.post(`/sources/${source.id}/publish`);
    await eventually(
      async () => {
        const page = await Page.open();
        return page.say('Something else', 'May dogs come?');
      },
      (view) => view?.status === 'talking',
    );
    const [letter] = await eventually(
      () => world.letters('front-desk@pellam-ridge.example'),
      (letters) => letters.length > 0,
    );
    expect([letter?.subject, letter?.text.trim()]).toEqual(['A question from the chat', 'May dogs come?']);
  });
});

describe('a conversation that breaks off', () => {
  it('is a submission that is marked so; who it was is known, and nothing goes anywhere', async () => {
    const email = newAddress();
    const page = await Page.open();
    await page.say('The Sky letter', 'Ada Quill', email);
    const own = (await conversations()).find(({ last }) => last === 'May we send you the Sky letter?');
    const id = own?.id ?? '';
    const other = await Page.open();
    await clock.put(31 * 60_000, [world.server, world.worker]);
    const trail = await become(id);
    expect(trail).toMatchObject({
      progress: 'nothing to send',
      values: { finished: false, email },
      plan: { contact: { match: 'new' }, notes: [{ code: 'broke off' }] },
    });
    expect(await memberOf(email)).toBeUndefined();
    // Who only opened it said nothing, and is nothing.
    expect(other.view?.status).toBe('talking');
    const rows = await conversations('all');
    expect(rows.filter(({ submissionId }) => submissionId === trail.id)).toHaveLength(1);
    // Whoever comes back goes on, and it ends as another submission of the same person.
    await page.say('yes');
    expect(page.view?.status).toBe('ended');
    const ended = await eventually(
      () => operator.get<ConversationView>(`/conversations/${id}`),
      ({ submissionId }) => submissionId !== null && submissionId !== trail.id,
      20_000,
    );
    expect((await trailOf(ended.submissionId ?? '', ({ progress }) => progress === 'delivered')).values).toMatchObject({
      finished: true,
    });
    expect(await memberOf(email)).toMatchObject({ state: 'active' });
    await clock.put(0, [world.server, world.worker]);
  });
});

it('what broke off is not held up by many that may still go on', async () => {
  const document = always(
    frontDeskChat(world.site, () => `id${(made += 1)}`),
    true,
  );
  const patient = await operator.source('Patient desk', { ...document, breaksOffMinutes: 1_440 });
  const address = patient.postUrl.split('/').at(-1) ?? '';
  const begun = await Promise.all(
    Array.from({ length: 60 }, () =>
      fetch(`${world.app}/chat/${address}`, {
        method: 'POST',
        headers: { origin: world.site },
        body: JSON.stringify({ page: `${world.site}/visit`, referrer: '' }),
      }),
    ),
  );
  expect(begun.filter(({ status }) => status !== 201)).toEqual([]);
  const page = await Page.open();
  await page.say('The Sky letter', 'Ada Quill', newAddress());
  const { id } = (await conversations()).find(({ last }) => last === 'May we send you the Sky letter?') ?? { id: '' };
  await clock.put(31 * 60_000, [world.server, world.worker]);
  expect(await become(id)).toMatchObject({ values: { finished: false } });
  expect((await conversations()).filter(({ sourceName }) => sourceName === 'Patient desk')).toHaveLength(60);
  await clock.put(0, [world.server, world.worker]);
});

it('many answer at the same moment, though each answer is decided by what is known', async () => {
  const document = always(
    frontDeskChat(world.site, () => `many${(made += 1)}`),
    true,
  );
  const parts = document.parts.map((part, at) => {
    if (at > 0) return part;
    const topic = document.fields.find(({ key }) => key === 'topic');
    const when = {
      kind: 'test' as const,
      id: 'is it',
      field: topic?.id ?? '',
      test: 'is' as const,
      value: 'nothing of that',
    };
    const rule = { id: 'never', when, hours: null, to: '' };
    const [first, second, ...rest] = part.steps;
    const decide = { id: 'by what is known', kind: 'decide' as const, rules: [rule] };
    return { ...part, steps: [first, second, decide, ...rest].filter((step) => step !== undefined) };
  });
  const own = await operator.source('Many at once', { ...document, parts });
  const before = chat;
  chat = own.postUrl.split('/').at(-1) ?? '';
  try {
    // More than there are connections to the database.
    const pages = await Promise.all(Array.from({ length: 40 }, () => Page.open()));
    const views = await Promise.all(pages.map((page) => page.say('Something else')));
    expect(views.map((view) => view?.awaits)).toEqual(pages.map(() => ({ kind: 'text', type: 'long text' })));
  } finally {
    chat = before;
  }
}, 60_000);

it('conversations are listed page by page beyond the newest, each once', async () => {
  await world.rows(`INSERT INTO conversations (id, source_id, source_version, token_hash, status, state, language, visit, line_count, submission_id, started_at, touched_at)
    SELECT UUID(), '${source.id}', 1, SHA2(CONCAT('listed', seq), 256), 'ended', '{"at":null,"values":{},"misses":0}', 'en', '{}', 0, UUID(), seq DIV 3, seq DIV 3 FROM seq_1_to_450`);
  const rows = await conversations('all');
  expect(rows).toHaveLength(200);
  const last = rows.at(-1);
  let next: string | null = last ? `${Date.parse(last.touchedAt)}_${last.id}` : null;
  while (next !== null) {
    const page: PageOf<ConversationRow> = await operator.get(`/conversations/earlier?which=all&before=${next}`);
    rows.push(...page.rows);
    next = page.next;
  }
  expect(new Set(rows.map(({ id }) => id)).size).toBe(rows.length);
  const [all] = await world.rows<{ count: number }>('SELECT COUNT(*) AS count FROM conversations');
  expect(rows).toHaveLength(all?.count ?? 0);
  expect((await operator.send('GET', '/conversations/earlier?which=all&before=x_y')).status).toBe(422);
});

it('a file that is asked for is kept with its conversation, given to colleagues alone, and goes where its route says', async () => {
  const own = await operator.source('Photos', {
    ...frontDeskChat(world.site, () => `id${(made += 1)}`),
    fields: [
      { ...plainField('photo', 'file'), label: 'Photo', options: ['image/*'] },
      { ...plainField('email', 'email'), label: 'Email', keepAs: 'email' },
      { ...plainField('finished', 'yes/no'), label: 'Came to its end' },
    ],
    parts: [
      {
        id: 'photo',
        name: 'Photo',
        steps: [
          { id: 'ask', kind: 'ask', text: 'Your photo, please', field: 'photo', otherwise: '' },
          { id: 'mail', kind: 'ask', text: 'And your address?', field: 'email', otherwise: '' },
          { id: 'bye', kind: 'end', text: 'Thank you!', link: '', linkText: '' },
        ],
      },
    ],
  });
  const address = own.postUrl.split('/').at(-1) ?? '';
  const begun = await fetch(`${world.app}/chat/${address}`, {
    method: 'POST',
    headers: { origin: world.site, 'accept-language': 'de' },
    body: JSON.stringify({ page: `${world.site}/visit`, referrer: '' }),
  });
  const { token, awaits } = (await begun.json()) as ChatBegun;
  expect(awaits).toEqual({ kind: 'file', kinds: ['image/*'], required: false });
  const hand = (file: File | null, by = token, id: string = crypto.randomUUID()): Promise<Response> => {
    const form = new FormData();
    for (const [name, value] of Object.entries({ token: by, id, after: '0' })) form.set(name, value);
    if (file) form.set('file', file);
    return fetch(`${world.app}/chat/${address}/file`, { method: 'POST', headers: { origin: world.site }, body: form });
  };
  const kept = async () => (await world.rows<{ count: number }>('SELECT COUNT(*) AS count FROM uploads'))[0]?.count;
  const before = await kept();
  const png = readFileSync(path.join(import.meta.dirname, '../world/one-pixel.png'));
  const photo = new File([png], '../moon.png', { type: 'image/png' });
  expect((await hand(photo, 'nobody')).status).toBe(404);
  expect(await kept()).toBe(before);
  const told = async (response: Response) => ((await response.json()) as ChatView).issues.map(({ message }) => message);
  expect(await told(await hand(new File(['words'], 'a.png', { type: 'image/png' })))).toEqual([
    'Diese Datei wird hier nicht angenommen.',
  ]);
  expect(await told(await hand(new File([new Uint8Array(11 * 1024 * 1024)], 'big.png')))).toEqual([
    'Diese Datei wird hier nicht angenommen.',
  ]);
  const id = crypto.randomUUID();
  const taken = (await (await hand(photo, token, id)).json()) as ChatView;
  expect(taken.lines.map(({ by, text }) => [by, text])).toEqual([
    ['us', 'Your photo, please'],
    ['visitor', 'moon.png'],
    ['us', 'And your address?'],
  ]);
  const again = (await (await hand(photo, token, id)).json()) as ChatView;
  expect(again.lines).toHaveLength(3);
  const row = (await conversations()).find(({ sourceId }) => sourceId === own.id);
  const { answers } = await operator.get<ConversationView>(`/conversations/${row?.id}`);
  expect(answers).toMatchObject([{ label: 'Photo', value: 'moon.png' }]);
  const link = answers[0]?.link ?? '';
  expect((await fetch(link)).status).toBe(401);

  // What belongs to nothing is cleared away after an hour; a conversation may take longer.
  await clock.put(2 * 3_600_000, [world.server, world.worker]);
  await eventually(kept, (count) => count === (before ?? 0) + 1, 60_000);
  await clock.put(0, [world.server, world.worker]);
  const said = await fetch(`${world.app}/chat/${address}/say`, {
    method: 'POST',
    headers: { origin: world.site },
    body: JSON.stringify({ token, id: crypto.randomUUID(), said: { kind: 'text', text: newAddress() }, after: 0 }),
  });
  expect(((await said.json()) as ChatView).status).toBe('ended');
  const { submissionId } = await eventually(
    () => operator.get<ConversationView>(`/conversations/${row?.id}`),
    (one) => one.submissionId !== null,
    20_000,
  );
  const { values } = await operator.trail(submissionId ?? '');
  expect(values.photo).toMatchObject({ name: 'moon.png', mediaType: 'image/png', size: png.length });
});

describe('what was said', () => {
  const search = (text: string, before = '') =>
    operator.post<PageOf<FoundConversation>>('/conversations/search', { text, before });

  it('is found by its words, whoever of the people said it, and not by what a chat says to all', async () => {
    const page = await Page.open();
    const said = 'Is the ÉTOILE double at 100% tonight?';
    await page.say('Something else', said);
    const [first] = (await search('étoile')).rows;
    const { said: lines } = await operator.get<ConversationView>(`/conversations/${first?.id}`);
    expect(lines.map(({ text }) => text)).toContain(said);
    for (const text of ['double étoile', 'TONIGHT', '100%'])
      expect((await search(text)).rows.map(({ id, line }) => [id, line.by, line.text])).toEqual([
        [first?.id, 'visitor', said],
      ]);
    expect((await search('double planet')).rows).toEqual([]);
    expect((await search('1__% ')).rows).toEqual([]);
    expect((await search('would like to know')).rows).toEqual([]);
    expect((await operator.send('POST', '/conversations/search', { text: 'x' })).status).toBe(422);
    expect((await operator.send('POST', '/conversations/search', { text: '  ' })).status).toBe(422);
    expect((await operator.send('POST', '/conversations/search', { text: 'xx', before: 'no' })).status).toBe(422);
  });

  it('is looked through a part at a time, however much it is, and each conversation is found once', async () => {
    const text = 'Perseids';
    const page = await Page.open();
    await page.say('Something else', `When are the ${text}?`);
    await world.rows(`INSERT INTO conversations (id, source_id, source_version, token_hash, status, state, language, visit, line_count, submission_id, started_at, touched_at)
      SELECT CONCAT('00000000-0000-7000-8000-', LPAD(seq, 12, '0')), '${source.id}', 1, SHA2(CONCAT('said', seq), 256), 'ended', '{"at":null,"values":{},"misses":0}', 'en', '{}', 1, UUID(), seq, seq FROM seq_1_to_8500`);
    await world.rows(`INSERT INTO chat_lines (conversation_id, number, said_by, text, at)
      SELECT CONCAT('00000000-0000-7000-8000-', LPAD(seq, 12, '0')), 1, 'visitor', IF(seq = 7, 'The ${text} again', 'Hello'), seq FROM seq_1_to_8500`);
    const found: string[] = [];
    let [next, parts]: [string | null, number] = ['', 0];
    while (next !== null) {
      const part: PageOf<FoundConversation> = await search(text, next);
      found.push(...part.rows.map(({ line }) => line.text));
      expect(part.looked).toBe(part.next === null ? undefined : 4_000);
      next = part.next;
      parts += 1;
    }
    expect(found).toEqual([`When are the ${text}?`, `The ${text} again`]);
    expect(parts).toBe(3);

    // What many said comes a hundred at a time, and goes on behind the last of them.
    const many = await search('Hello');
    expect([many.rows.length, many.next, many.looked]).toEqual([100, many.rows.at(-1)?.id, undefined]);
    const behind = await search('Hello', many.next ?? '');
    expect(new Set([...many.rows, ...behind.rows].map(({ id }) => id)).size).toBe(200);
  });
});

it('a chat with a way that ends nowhere does not go live', async () => {
  const { draft } = await operator.get<SourceView>(`/sources/${source.id}`);
  const broken = {
    ...draft,
    parts: [{ id: 'a', name: 'A', steps: [{ id: 's', kind: 'jump', to: 'a' }] }],
  };
  await operator.put(`/sources/${source.id}/draft`, broken);
  const refused = await operator.send('POST', `/sources/${source.id}/publish`);
  expect([refused.status, JSON.stringify(await refused.json())]).toEqual([
    422,
    expect.stringContaining('goes round for ever'),
  ]);
  const wrong = await operator.send('PUT', `/sources/${source.id}/draft`, {
    ...draft,
    parts: [{ id: 'a', name: 'A', steps: [{ id: 's', kind: 'shout' }] }],
  });
  expect(wrong.status).toBe(422);
});
