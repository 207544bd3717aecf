import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { InsightView } from '../../src/contract/insight.ts';
import type { Page } from '../../src/contract/pages.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { SubmissionRow } from '../../src/contract/submissions.ts';
import { PLAIN_SHOWING } from '../../src/core/showing/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { countEarlier, expectRecounted } from '../world/counts.ts';
import { formOf, sourceField } from '../world/fields.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { BROWSER } from '../world/visitors.ts';
import { linkIn, TERN_KEY, World } from '../world/world.ts';

const DAY = 24 * 3_600_000;
let world: World;
let operator: Operator;
let source: SourceView;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  const { id } = await operator.connect(world.ternPost, TERN_KEY);
  source = await operator.form('Sky letter', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  await operator.route('Sky letter', skyLetterRoute(source.id, id));
});
afterAll(() => world.stop());

const publicId = () => source.postUrl.split('/').at(-1) ?? '';
let showings = 0;
const newShowing = () => `00000000-0000-4000-8000-${String((showings += 1)).padStart(12, '0')}`;

interface Told {
  form?: string;
  showing?: string;
  page?: string;
  referrer?: string;
  events?: { what: string; question: string }[];
}

/** Tells what a script on a page would. */
const tell = (told: Told, headers: Record<string, string> = {}) =>
  fetch(`${world.app}/place/seen`, {
    method: 'POST',
    headers: { 'content-type': 'text/plain', origin: world.site, 'user-agent': BROWSER, ...headers },
    body: JSON.stringify({
      form: publicId(),
      showing: newShowing(),
      page: `${world.site}/sky-letter?utm_campaign=autumn&utm_medium=email`,
      referrer: 'https://www.search.example/?q=private',
      events: [{ what: 'shown', question: '' }],
      ...told,
    }),
  });

const insight = (query = '') => operator.get<InsightView>(`/insight?source=${source.id}${query}`);
const countsNow = async () => (await insight()).sources[0]?.counts;
/** Waits for a stroke of counting that has everything in it. */
const counted = () =>
  eventually(
    () => world.rows<{ n: number }>('SELECT COUNT(*) AS n FROM form_events WHERE counted_by IS NULL'),
    ([row]) => row?.n === 0,
  );

/** Signs somebody up, and lets them confirm. */
async function signUp(
  name: string,
  confirms: boolean,
  page = `${world.site}/sky-letter?utm_campaign=autumn`,
): Promise<void> {
  const email = `${name}@hill.example`;
  const body = new URLSearchParams({ name: `${name} Hill`, email, consent: 'yes', form_page: page });
  const headers = { origin: world.site, 'user-agent': BROWSER };
  const response = await fetch(source.postUrl, { method: 'POST', body, headers, redirect: 'manual' });
  expect(response.status).toBe(303);
  if (!confirms) return;
  const [letter] = await eventually(
    () => world.letters(email),
    (letters) => letters.length > 0,
  );
  await fetch(linkIn(letter), { method: 'POST' });
  await eventually(
    () => world.members(),
    (members) => members.some((member) => member.email === email),
  );
}

describe('what happens at a form', () => {
  it('is counted once each, however often it is told', async () => {
    const showing = newShowing();
    const events = [
      { what: 'shown', question: '' },
      { what: 'started', question: '' },
      { what: 'answered', question: 'email' },
      { what: 'answered', question: 'no-such-question' },
    ];
    expect((await tell({ showing, events })).status).toBe(204);
    await tell({ showing, events: [...events, ...events] });
    await tell({ events: [{ what: 'shown', question: '' }] });
    await counted();
    expect(await countsNow()).toMatchObject({ shown: 2, started: 1, completed: 0 });
    const { values } = await insight('&by=question');
    expect(values).toMatchObject([{ value: 'email', answered: 1 }]);
  });

  it('is not counted of robots, of those who ask not to be followed, for other sites, or of what is none', async () => {
    await tell({}, { 'user-agent': 'Mozilla/5.0 (compatible; Examplebot/2.1)' });
    await tell({}, { 'sec-gpc': '1' });
    expect((await tell({}, { origin: 'https://elsewhere.example' })).status).toBe(404);
    expect((await tell({ events: [{ what: 'delivered', question: '' }] })).status).toBe(400);
    expect((await tell({ showing: 'x' })).status).toBe(400);
    await counted();
    expect(await countsNow()).toMatchObject({ shown: 2, delivered: 0 });
  });

  it('keeps nothing of who it was: no query, no address, no name', async () => {
    const rows = await world.rows<Record<string, unknown>>('SELECT * FROM form_events');
    const text = JSON.stringify(rows);
    for (const secret of ['private', 'utm_', 'Mozilla']) expect(text).not.toContain(secret);
    expect(rows[0]).toMatchObject({ page: `${world.site}/sky-letter`, referrer: 'search.example', came_by: 'mail' });
  });

  it('goes on to what became of it: completed, confirmed, delivered, each by page and campaign', async () => {
    await signUp('ada', true);
    await signUp('ben', false);
    await signUp('cleo', true, `${world.site}/stories/a-comet-for-breakfast`);
    // A robot's is set aside, and is nobody's success.
    const robot = new URLSearchParams({
      email: 'robot@hill.example',
      consent: 'yes',
      name: 'x',
      website_url: 'http://x',
    });
    await fetch(source.postUrl, { method: 'POST', body: robot, headers: { origin: world.site }, redirect: 'manual' });
    await eventually(countsNow, (counts) => counts?.delivered === 2);
    expect(await countsNow()).toEqual({ shown: 2, started: 1, completed: 3, confirmed: 2, delivered: 2 });
    const byCampaign = (await insight('&by=campaign')).values;
    expect(byCampaign).toMatchObject([
      { value: 'autumn', counts: { shown: 2, completed: 2, confirmed: 1, delivered: 1 } },
    ]);
    const byPage = (await insight('&by=page')).values.map(({ value, counts }) => [value, counts.completed]);
    expect(byPage).toEqual([
      [`${world.site}/sky-letter`, 2],
      [`${world.site}/stories/a-comet-for-breakfast`, 1],
    ]);
  });

  it('every figure leads to the very submissions', async () => {
    const { fromMs, toMs } = await insight();
    const of = async (query: string) =>
      (
        await operator.get<Page<SubmissionRow>>(`/submissions?source=${source.id}&from=${fromMs}&to=${toMs}&${query}`)
      ).rows
        .map(({ email }) => email.split('@')[0])
        .sort();
    expect(await of('reached=completed')).toEqual(['ada', 'ben', 'cleo']);
    expect(await of('reached=delivered')).toEqual(['ada', 'cleo']);
    expect(await of('reached=confirmed&by=campaign&value=autumn')).toEqual(['ada']);
    const earlier = await operator.get<Page<SubmissionRow>>(`/submissions?reached=completed&to=${fromMs}`);
    expect(earlier.rows).toEqual([]);
    expect((await operator.send('GET', '/submissions?from=yesterday')).status).toBe(422);
  });

  it('adds up to the raw events, by everything it is kept apart by, also where workers were killed at it', async () => {
    const tellMany = async () => {
      for (let at = 0; at < 120; at += 1)
        await tell({
          page: `${world.site}/stories/${at % 7}?utm_campaign=c${at % 3}`,
          referrer: at % 2 ? '' : 'https://friends.example/',
        });
    };
    const telling = tellMany();
    for (let kills = 0; kills < 4; kills += 1) {
      await new Promise((resolve) => setTimeout(resolve, 400));
      await world.kill('worker');
      await world.startWorker();
    }
    await telling;
    await counted();
    await expectRecounted(world);
    expect((await countsNow())?.shown).toBe(122);
  });
});

it('what was counted of a source that is deleted is out of the counts of all', async () => {
  const other = await operator.form('Soon gone', formOf([sourceField('email', 'email', { keepAs: 'email' })]));
  const shownOfAll = async () =>
    (await operator.get<InsightView>('/insight?by=page')).trend.reduce((sum, { shown }) => sum + shown, 0);
  const before = await shownOfAll();
  for (let at = 0; at < 3; at += 1) await tell({ form: other.postUrl.split('/').at(-1) ?? '' });
  await counted();
  expect(await shownOfAll()).toBe(before + 3);
  expect((await operator.send('DELETE', `/sources/${other.id}`)).status).toBe(204);
  expect(await shownOfAll()).toBe(before);
  await expectRecounted(world);
});

describe('the page of figures', () => {
  it('is by days in the zone that is asked for, beside as many days before', async () => {
    const yesterday = Date.now() - DAY;
    await world.rows('UPDATE form_events SET at = at - 86400000 WHERE campaign = ?', ['c1']);
    await world.rows('DELETE FROM form_counts');
    await world.rows('UPDATE form_events SET counted_by = NULL');
    await counted();
    const day = (at: number) => new Date(at).toISOString().slice(0, 10);
    const one = await insight(`&from=${day(Date.now())}&to=${day(Date.now())}&zone=UTC`);
    expect(one.trend).toHaveLength(1);
    expect(one.sources[0]?.counts.shown).toBe(82);
    expect(one.sources[0]?.before.shown).toBe(40);
    const two = await insight(`&from=${day(yesterday)}&to=${day(Date.now())}&zone=UTC`);
    expect(two.trend.map(({ shown }) => shown)).toEqual([40, 82]);
    const span = `&from=${day(yesterday)}&to=${day(Date.now())}&zone=UTC`;
    const hours = await insight(`${span}&per=hour`);
    expect(hours.trend).toHaveLength(48);
    expect(hours.trend.reduce((sum, { shown }) => sum + shown, 0)).toBe(122);
    for (const per of ['week', 'month'] as const) {
      const longer = (await insight(`${span}&per=${per}`)).trend;
      // Two days are in one of them, or in two.
      expect(longer.length).toBeLessThanOrEqual(2);
      expect(longer.reduce((sum, { shown }) => sum + shown, 0)).toBe(122);
      expect(
        longer.every(({ from }) =>
          per === 'month' ? from.endsWith('-01T00:00') : new Date(`${from}Z`).getUTCDay() === 1,
        ),
      ).toBe(true);
    }
    const away = await insight(`&from=${day(yesterday)}&to=${day(Date.now())}&zone=Pacific/Kiritimati`);
    expect(away.fromMs).toBe(Date.parse(`${day(yesterday)}T00:00:00+14:00`));
  });

  it.each([
    'from=soon',
    'from=2026-02-02&to=2026-02-01',
    'zone=Hill/Top',
    'by=moon',
    'from=2020-01-01&to=2026-01-01',
    'per=year',
    'per=hour&from=2026-01-01&to=2026-03-01',
  ])('refuses what cannot be: %s', async (query) =>
    expect((await operator.send('GET', `/insight?${query}`)).status).toBe(422),
  );

  it('tells of a source that is silent for longer than its rhythm', async () => {
    const { id } = source;
    expect((await insight()).sources[0]?.silence).toBeNull();
    // Twelve a day until three days ago.
    await world.rows('UPDATE submissions SET received_at = received_at - ? WHERE source_id = ?', [3 * DAY, id]);
    await countEarlier(world, id, { daysAgo: 5, what: 'completed', many: 300 });
    const [told] = (await insight()).sources;
    expect(told?.silence?.usualADay).toBeGreaterThan(11);
    expect(told?.silence?.chance).toBeLessThan(0.005);
  });
});

describe('what the script asks for', () => {
  it('is small, and told to the sites that a form may be on, and to no other', async () => {
    const script = await fetch(`${world.app}/place/script.js`);
    expect(script.headers.get('content-type')).toContain('text/javascript');
    const { gzipSync } = await import('node:zlib');
    expect(gzipSync(await script.text(), { level: 9 }).length).toBeLessThan(12_000);
    const part = (origin: string) => fetch(`${world.app}/place/${publicId()}.json`, { headers: { origin } });
    const here = await part(world.site);
    expect(here.headers.get('access-control-allow-origin')).toBe(world.site);
    expect((await part('https://elsewhere.example')).status).toBe(403);
    expect((await fetch(`${world.app}/place/nothing.json`)).status).toBe(404);
  });

  it('names what shows itself, while it is open', async () => {
    const { draft } = source;
    if (draft.kind !== 'form') throw new Error('it is no form');
    const list = async (origin: string) =>
      (await (await fetch(`${world.app}/place/site.json`, { headers: { origin } })).json()) as { id: string }[];
    expect(await list(world.site)).toEqual([]);
    const popUp = { ...draft, presentation: 'pop-up' as const, showing: PLAIN_SHOWING };
    const shown = await operator.form('Pops up', popUp);
    const publicName = shown.postUrl.split('/').at(-1);
    await eventually(
      () => list(world.site),
      (found) => found.some(({ id }) => id === publicName),
    );
    expect(await list('https://elsewhere.example')).toEqual([]);
    const over = { from: '', to: '2020-01-01T00:00', zone: 'Europe/London' };
    const closed = await operator.form('Over', { ...popUp, open: over, closedText: 'See you in spring.' });
    await new Promise((resolve) => setTimeout(resolve, 1_200));
    expect((await list(world.site)).map(({ id }) => id)).toEqual([publicName]);
    const page = await fetch(closed.postUrl, { headers: { 'accept-language': 'de' } });
    expect(page.status).toBe(404);
    expect(await page.text()).toContain('See you in spring.');
    const body = new URLSearchParams({ email: 'late@hill.example', consent: 'yes', name: 'Late' });
    expect((await fetch(closed.postUrl, { method: 'POST', body, headers: { origin: world.site } })).status).toBe(404);
  });

  it('cannot go live with times or rules that never show it', async () => {
    const { draft } = source;
    if (draft.kind !== 'form') throw new Error('it is no form');
    const refused = async (more: object) => {
      const { id } = await operator.post<SourceView>('/sources', { name: 'Never', kind: 'form' });
      await operator.put(`/sources/${id}/draft`, { ...draft, ...more });
      const response = await operator.send('POST', `/sources/${id}/publish`);
      return ((await response.json()) as { errors?: { pointer: string }[] }).errors?.map(({ pointer }) => pointer);
    };
    expect(await refused({ open: { from: '', to: '', zone: 'Hill/Top' } })).toEqual(['/open/zone']);
    expect(await refused({ open: { from: '2026-02-01T00:00', to: '2026-01-01T00:00', zone: 'UTC' } })).toEqual([
      '/open',
    ]);
    const never = { ...PLAIN_SHOWING, triggers: [], devices: [] };
    expect(await refused({ presentation: 'bar', showing: never })).toEqual(['/showing/triggers', '/showing/devices']);
  });
});

describe('public pages', () => {
  it('say what they let in, are framed where they may be, and keep nothing of anybody', async () => {
    const policy = (response: Response) => response.headers.get('content-security-policy') ?? '';
    const first = await fetch(source.postUrl);
    expect(policy(first)).toMatch(/^default-src 'none'; style-src 'nonce-[\w-]{20,}'/);
    expect(policy(first)).toContain(`frame-ancestors 'self' ${world.site}`);
    expect(policy(first)).toContain(`form-action 'self' ${world.site}`);
    const nonce = /nonce-([\w-]+)/.exec(policy(first))?.[1];
    expect(await first.text()).toContain(`<style nonce="${nonce}">`);
    const again = await fetch(source.postUrl, {
      method: 'POST',
      headers: { origin: world.site, accept: 'text/html' },
      body: new URLSearchParams({ email: 'nobody' }),
    });
    expect(again.status).toBe(422);
    expect(again.headers.get('cache-control')).toBe('no-store');
    const prefilled = await fetch(`${source.postUrl}?name=Mara`);
    expect(prefilled.headers.get('cache-control')).toBe('no-store');
    const unknown = await fetch(`${world.app}/confirm/none`, { headers: { 'accept-language': 'sv' } });
    expect(unknown.headers.get('cache-control')).toBe('no-store');
    expect(await unknown.text()).toContain('Länken är okänd');
  });

  it('say what is wrong in the language of the visitor, where the form has theirs', async () => {
    const { draft } = source;
    if (draft.kind !== 'form') throw new Error('it is no form');
    const form = await operator.form('In every language', { ...draft, language: 'visitor' });
    const wrong = async (language: string) => {
      const response = await fetch(form.postUrl, {
        method: 'POST',
        headers: { origin: world.site, accept: 'text/html', 'accept-language': language },
        body: new URLSearchParams({ email: 'nobody', name: '' }),
      });
      return response.text();
    };
    expect(await wrong('pl')).toContain('Wpisz adres e-mail, na przykład name@example.org.');
    expect(await wrong('de-CH')).toContain('Diese Angabe fehlt.');
    expect(await wrong('fr')).toContain('Cochez cette case pour continuer.');
    expect(await wrong('en')).toContain('An email address has an @ in it');
  });
});
