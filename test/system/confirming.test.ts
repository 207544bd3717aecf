import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PersonView } from '../../src/contract/people.ts';
import type { PlacedPart, SentPart } from '../../src/contract/placing.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { Condition } from '../../src/core/conditions/index.ts';
import { answeredId, saying, VERSION_FIELD, VISITOR_FIELD } from '../../src/core/forms/index.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { agreedId } from '../../src/core/plan/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { formOf, sourceField } from '../world/fields.ts';
import { submitJson } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let source: LiveSource<FormDocument>;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  const connection = await operator.connect(world.ternPost, TERN_KEY);
  source = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  await operator.route('Letters', skyLetterRoute(source.id, connection.id));
});
afterAll(() => world.stop());

describe('a confirmation belongs to its sign-up', () => {
  it('confirms nothing that was taken back since, says so, and sends nothing', async () => {
    const email = 'mara@hill.example';
    const submission = await submitJson(source, { email, name: 'Mara Quill', consent: 'yes' });
    const [letter] = await eventually(
      () => world.letters(email),
      (letters) => letters.length > 0,
    );
    const [asked] = await world.rows<{ contact_id: string; purpose: string; kind: string }>(
      "SELECT contact_id, purpose, kind FROM consent_events WHERE kind = 'asked' ORDER BY id DESC LIMIT 1",
    );
    const [person] = await operator.get<{ rows: { id: string }[] }>(`/people?text=${email}`).then(({ rows }) => rows);
    // Until they confirm, nobody says that they agreed.
    const standing = async () =>
      (await operator.get<PersonView>(`/people/${person?.id}`)).consent.map(({ state }) => state);
    expect(await standing()).toContain('waiting');
    await world.rows(
      `INSERT INTO consent_events (id, contact_id, channel, purpose, kind, at, wording, evidence)
       VALUES (UUID(), ?, 'email', ?, 'withdrawn', ?, 'Rang us up.', '{}')`,
      [asked?.contact_id, asked?.purpose, Date.now()],
    );
    const pressed = await fetch(linkIn(letter), { method: 'POST', headers: { 'accept-language': 'en' } });
    expect([pressed.status, await pressed.text()]).toEqual([410, expect.stringContaining('You have taken this back')]);
    expect(await standing()).toContain('withdrawn');
    expect((await world.members()).some((member) => member.email === email)).toBe(false);
    expect((await operator.trail(submission)).deliveries).not.toMatchObject([{ state: 'delivered' }]);
  });

  it('who leaves twice within a minute has left twice, and who signs up after that can confirm it', async () => {
    const email = 'twice@hill.example';
    const signUp = async (name: string, letters: number) => {
      const submission = await submitJson(source, { email, name, consent: 'yes' });
      const sent = await eventually(
        () => world.letters(email),
        (all) => all.length === letters,
      );
      return { submission, links: sent.map(linkIn) };
    };
    const press = (link: string) => fetch(link, { method: 'POST', headers: { 'accept-language': 'en' } });
    const first = await signUp('Mara Quill', 1);
    expect((await press(first.links[0] ?? '')).status).toBe(200);
    const { contactId } = await operator.trailWhen(first.submission, 'delivered');
    const standing = async () => (await operator.get<PersonView>(`/people/${contactId}`)).consent[0]?.state;
    const connectionId = (await operator.trail(first.submission)).deliveries[0]?.connectionId ?? '';
    const leave = (reason: string) =>
      operator.post(`/people/${contactId}/places`, { act: 'unsubscribe', connectionId, reason });
    await leave('Rang us up.');
    expect(await standing()).toBe('withdrawn');
    const seen = new Set(first.links);
    for (const [number, isLeft] of [
      [2, true],
      [3, false],
    ] as const) {
      const { links } = await signUp(`Mara ${number}`, number);
      expect(await standing()).toBe('waiting');
      if (isLeft) await leave('Rang us up once more.');
      const newest = links.find((link) => !seen.has(link)) ?? '';
      seen.add(newest);
      expect([number, (await press(newest)).status]).toEqual([number, isLeft ? 410 : 200]);
      expect(await standing()).toBe(isLeft ? 'withdrawn' : 'confirmed');
    }
  });
});

describe('what visitors read once they sent a form', () => {
  const said = async (form: LiveSource<FormDocument>, entries: Record<string, string>, language = 'en') => {
    const answer = await fetch(form.postUrl, {
      method: 'POST',
      headers: { accept: 'text/html', 'accept-language': language },
      body: new URLSearchParams(entries),
    });
    return answer.text();
  };
  let plain: LiveSource<FormDocument>;
  beforeAll(async () => {
    const document = { ...skyLetterForm(world.site), minimumSeconds: 0, origins: [], ending: saying('') };
    plain = await operator.form('Sky letter in our own words', { ...document, language: 'visitor' });
  });

  it('promises no mail while no live route sends one', async () => {
    const text = await said(plain, { email: 'ulric@hill.example', name: 'Ulric', consent: 'yes' });
    expect(text).toContain('We have what you sent.');
    expect(text).not.toMatch(/mail/i);
  });

  it('speaks of the mail once one is sent, to those who agreed, and to nobody whether they were confirmed before', async () => {
    const connections = await operator.get<{ id: string }[]>('/connections');
    await operator.route('Letters in our own words', skyLetterRoute(plain.id, connections[0]?.id ?? ''));
    const sent = (email: string) => said(plain, { email, name: 'Wanda', consent: 'yes' });
    const first = await eventually(
      () => sent('wanda@hill.example'),
      (text) => text.includes('look into your mailbox'),
    );
    expect(first).toContain('If your address is not confirmed yet');
    const [letter] = await eventually(
      () => world.letters('wanda@hill.example'),
      (letters) => letters.length > 0,
    );
    await fetch(linkIn(letter), { method: 'POST' });
    const words = (text: string) => /<p[^>]*>[^<]*confirmed yet[^<]*<\/p>/.exec(text)?.[0];
    expect(words(await sent('wanda@hill.example'))).toBe(words(first));
    expect(await said(plain, { email: 'xenia@hill.example', name: 'X', consent: 'yes' }, 'de')).toContain('Postfach');
  });
});

describe('a form that is live at once', () => {
  it('tells a colleague of what comes, or is not made', async () => {
    const make = (tell: string) =>
      operator.send('POST', '/sources', { name: 'A guide', kind: 'form', start: 'download', page: '', tell });
    expect((await make('nobody')).status).toBe(422);
    const made = await make('desk@hill.example');
    expect(made.status).toBe(201);
    const { postUrl, state } = (await made.json()) as { postUrl: string; state: string };
    expect(state).toBe('live');
    const sent = await fetch(postUrl, {
      method: 'POST',
      headers: { accept: 'text/html', 'accept-language': 'en' },
      body: new URLSearchParams({ email: 'yara@hill.example', first_name: 'Yara' }),
    });
    expect(await sent.text()).toContain('We have what you sent.');
    const [told] = await eventually(
      () => world.letters('desk@hill.example'),
      (letters) => letters.length > 0,
    );
    expect(JSON.stringify(told)).toContain('yara@hill.example');
  });
});

describe('what people agreed to is what stood on the page', () => {
  const evidenceOf = async (submission: string) => {
    const rows = await eventually(
      () =>
        world.rows<{ wording: string; evidence: string | object }>(
          "SELECT wording, evidence FROM consent_events WHERE submission_id = ? AND kind = 'given'",
          [submission],
        ),
      (found) => found.length > 0,
    );
    return rows.map(({ wording, evidence }) => `${wording} ${JSON.stringify(evidence)}`).join();
  };
  const OLD = 'Yes, send me the Sky letter of Pellam Ridge Observatory once a month. I can leave at any time.';
  const NEW = 'Yes, write to me whenever something happens in the sky.';

  it('a copy of the form goes on by its own words after others are published, and one that does not say so is not believed', async () => {
    const copied = (await operator.get<SourceView>(`/sources/${source.id}`)).html;
    expect(copied).toContain(OLD);
    const version = new RegExp(`name="${VERSION_FIELD}" value="(\\d+)"`).exec(copied)?.[1] ?? '';
    const { draft } = await operator.get<{ draft: FormDocument }>(`/sources/${source.id}`);
    const fields = draft.fields.map((field) => (field.id === 'consent' ? { ...field, label: NEW } : field));
    await operator.put(`/sources/${source.id}/draft`, { ...draft, fields });
    const [words] = await operator.get<{ purpose: string }[]>(`/sources/${source.id}/new-words`);
    await operator.post(`/sources/${source.id}/publish`, { agreed: [{ purpose: words?.purpose, wording: NEW }] });
    await eventually(
      () => fetch(source.postUrl).then((page) => page.text()),
      (page) => page.includes(NEW),
    );
    const send = (email: string, more: object) => submitJson(source, { email, name: 'Yuri', consent: 'yes', ...more });
    const ofCopy = await evidenceOf(await send('yuri@hill.example', { [VERSION_FIELD]: version }));
    expect(ofCopy).toContain(OLD);
    expect(ofCopy).toContain('version of the form');
    const ofNow = await evidenceOf(await send('zoe@hill.example', { [VERSION_FIELD]: String(Number(version) + 1) }));
    expect(ofNow).toContain(NEW);
    for (const claimed of [{}, { [VERSION_FIELD]: '99' }, { [VERSION_FIELD]: 'x' }]) {
      const unknown = await evidenceOf(await send(`a${JSON.stringify(claimed).length}@hill.example`, claimed));
      expect(unknown).toContain('not known: the page did not say');
    }
  });
});

describe('the browser that sent something', () => {
  const when = (field: string): Condition => ({ kind: 'test', id: 'w', field, test: 'is', value: 'yes' });
  const EMAIL = sourceField('email', 'email', { label: 'Email', required: true, keepAs: 'email' });
  const OPEN = { origins: [], minimumSeconds: 0 };
  const publicId = ({ postUrl }: SourceView) => postUrl.split('/').at(-1) ?? '';
  /** Sends a form as the script does, in a browser that is known by a sign. @returns the sign that it has from then on */
  async function send(form: SourceView, entries: Record<string, string>, sign = ''): Promise<string> {
    const answer = await fetch(`${form.postUrl}?as=part`, {
      method: 'POST',
      headers: { origin: world.site, accept: 'application/json' },
      body: new URLSearchParams({ ...entries, [VISITOR_FIELD]: sign }),
    });
    return ((await answer.json()) as SentPart).visitor ?? '';
  }

  it('is told of that alone, though whoever it named confirmed it, and is known elsewhere as well', async () => {
    const email = 'odile@hill.example';
    const before = await operator.form('Visits of before', formOf([EMAIL], OPEN));
    const own = await operator.form('Sky letter by script', { ...skyLetterForm(world.site), ...OPEN });
    const connection = await operator.connect(world.ternPost, TERN_KEY);
    const route = await operator.route('Letters by script', skyLetterRoute(own.id, connection.id));
    const purpose = route.draft.consent.asks[0]?.purpose ?? '';
    const shown = await operator.form(
      'Who is known',
      formOf([EMAIL], {
        ...OPEN,
        title: 'Nobody is known',
        instead: [
          { id: 'b', when: when(answeredId(before.id)), ...saying('', { title: 'You came before' }) },
          { id: 'r', when: when(agreedId(purpose, 'email')), ...saying('', { title: 'You read it' }) },
        ],
      }),
    );
    const seenBy = async (sign: string) => {
      const part = await fetch(`${world.app}/place/${publicId(shown)}.json`, {
        method: 'POST',
        headers: { origin: world.site },
        body: sign,
      });
      return /Nobody is known|You came before|You read it/.exec(((await part.json()) as PlacedPart).html)?.[0];
    };
    // They came before, by a browser of their own, which is told so.
    const theirs = await send(before, { email });
    await eventually(
      () => seenBy(theirs),
      (text) => text === 'You came before',
    );
    // Somebody else types their address, and they confirm: they wanted the letter anyway.
    const another = await send(own, { email, name: 'Odile', consent: 'yes' });
    expect(await seenBy(another)).toBe('Nobody is known');
    const [letter] = await eventually(
      () => world.letters(email),
      (letters) => letters.length > 0,
    );
    expect((await fetch(linkIn(letter), { method: 'POST' })).status).toBe(200);
    // It is told what it sent itself, and nothing else of them.
    expect(await seenBy(another)).toBe('You read it');
    // What one browser sent one after the other it speaks for together.
    const both = await send(before, { email: 'odile.too@hill.example' }, another);
    await eventually(
      () => seenBy(both),
      (text) => text === 'You came before',
    );
  });
});
