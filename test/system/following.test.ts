import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { InsightView, SilenceView, SourceInsight } from '../../src/contract/insight.ts';
import type { PlacedPart } from '../../src/contract/placing.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { Page } from '../../src/contract/pages.ts';
import type { SubmissionRow, TrailView } from '../../src/contract/submissions.ts';
import { TOOK_FIELD, type FormVariant } from '../../src/core/forms/index.ts';
import { countEarlier } from '../world/counts.ts';
import { formOf, postsOf, sourceField } from '../world/fields.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { BROWSER } from '../world/visitors.ts';
import { World } from '../world/world.ts';

const DAY = 24 * 3_600_000;
let world: World;
let operator: Operator;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

const email = sourceField('email', 'email', { required: true, keepAs: 'email' });
const idOf = ({ postUrl }: SourceView): string => postUrl.split('/').at(-1) ?? '';
const showing = (number: number) => `00000000-0000-4000-8000-${String(number).padStart(12, '0')}`;

const tell = (source: SourceView, told: { showing: string; page?: string; variant?: string; events: string[] }) =>
  fetch(`${world.app}/place/seen`, {
    method: 'POST',
    headers: { 'content-type': 'text/plain', origin: world.site, 'user-agent': BROWSER },
    body: JSON.stringify({
      form: idOf(source),
      page: `${world.site}/sky-letter`,
      referrer: '',
      ...told,
      events: told.events.map((what) => ({ what, question: '' })),
    }),
  });

async function send({ postUrl }: SourceView, address: string, more: Record<string, string> = {}): Promise<string> {
  const body = new URLSearchParams({ email: address, ...more });
  const headers = { accept: 'application/json', origin: world.site };
  const response = await fetch(postUrl, { method: 'POST', body, headers });
  expect(response.status).toBe(202);
  return ((await response.json()) as { submission: string }).submission;
}

const insightOf = async ({ id }: SourceView): Promise<SourceInsight | undefined> =>
  (await operator.get<InsightView>(`/insight?source=${id}`)).sources[0];

describe('how long it took', () => {
  it('is half within what the script told; what cannot be is no figure', async () => {
    const source = await operator.form('Timed', formOf([email]));
    const told = ['4', '7', '8', '14', '700', '', '-3', 'long', '999999'];
    for (const [at, took] of told.entries())
      await send(source, `timed${at}@hill.example`, took === '' ? {} : { [TOOK_FIELD]: took });
    const figures = await eventually(
      () => insightOf(source),
      (one) => one?.counts.completed === told.length && one.took?.count === 5,
    );
    // Of 4, 7, 8, 14 and 700 seconds, three took no longer than 10.
    expect(figures?.took).toEqual({ count: 5, half: 10 });
  });

  it('is noted by a colleague who answers: the first one, in the changes and in the trail', async () => {
    const source = await operator.form('Answered', formOf([email]));
    const id = await send(source, 'asks@hill.example');
    await eventually(
      () => insightOf(source),
      (one) => one?.counts.completed === 1,
    );
    await world.rows('UPDATE submissions SET received_at = received_at - 7000000 WHERE id = ?', [id]);
    await operator.post(`/submissions/${id}/answered`);
    const again = await operator.send('POST', `/submissions/${id}/answered`);
    expect([again.status, await again.text()]).toEqual([409, expect.stringContaining('Wren answered it before.')]);
    const { replied } = await operator.get<TrailView>(`/submissions/${id}`);
    expect(replied?.by).toBe('Wren');
    const figures = await eventually(
      () => insightOf(source),
      (one) => one?.replied?.count === 1,
    );
    // An hour, 56 minutes and 40 seconds are counted as up to two hours.
    expect(figures?.replied).toEqual({ count: 1, half: 2 * 3600 });
    const rows = await operator.get<Page<SubmissionRow>>(`/submissions?source=${source.id}&reached=replied`);
    expect(rows.rows.map((row) => row.id)).toEqual([id]);
    const { rows: changes } = await operator.get<Page<{ act: string; subject: { id: string } }>>('/changes');
    expect(changes.some(({ act, subject }) => act === 'answered' && subject.id === id)).toBe(true);
  });
});

describe('a later goal', () => {
  it('counts for when the form was met, once, and only where it was met', async () => {
    const source = await operator.form('Goal', formOf([email]));
    await tell(source, { showing: showing(1), events: ['shown', 'opened'] });
    await eventually(
      () => insightOf(source),
      (one) => one?.counts.shown === 1,
    );
    await world.rows('UPDATE form_events SET at = at - ? WHERE source_id = ?', [2 * 3_600_000, source.id]);
    for (let times = 0; times < 2; times += 1)
      await tell(source, { showing: showing(1), page: `${world.site}/thanks`, events: ['reached'] });
    await tell(source, { showing: showing(2), page: `${world.site}/thanks`, events: ['reached'] });
    const figures = await eventually(
      () => insightOf(source),
      (one) => (one?.reached ?? 0) > 0,
    );
    expect([figures?.reached, figures?.opened]).toEqual([1, 1]);
    const events = await world.rows<{ what: string; at: number; page: string }>(
      'SELECT what, at, page FROM form_events WHERE source_id = ? ORDER BY what',
      [source.id],
    );
    expect(new Set(events.filter(({ what }) => what !== 'opened').map(({ at }) => at)).size).toBe(1);
    expect(events.find(({ what }) => what === 'reached')?.page).toBe(`${world.site}/sky-letter`);
  });
});

describe('a site that visitors come from', () => {
  it('is what the operator says it is, from then on, unless the campaign says something else', async () => {
    const source = await operator.form('From elsewhere', formOf([email]));
    const from = async (number: number, page = `${world.site}/sky-letter`) => {
      const body = JSON.stringify({
        form: idOf(source),
        showing: showing(number),
        page,
        referrer: 'https://www.hill-find.example/',
        events: [{ what: 'shown', question: '' }],
      });
      const headers = { 'content-type': 'text/plain', origin: world.site, 'user-agent': BROWSER };
      await fetch(`${world.app}/place/seen`, { method: 'POST', headers, body });
    };
    const put = (kind: string | null) =>
      operator.send('PUT', '/insight/sites', { host: 'www.hill-find.example', kind });
    const ways = async () => {
      const { values } = await operator.get<InsightView>(`/insight?source=${source.id}&by=cameBy`);
      return Object.fromEntries(values.map(({ value, counts }) => [value, counts.shown]));
    };
    await from(11);
    expect((await put('search')).status).toBe(204);
    await from(12);
    await from(13, `${world.site}/sky-letter?utm_medium=newsletter`);
    expect(
      await eventually(ways, (found) => Object.values(found).reduce((sum, shown) => sum + shown, 0) === 3),
    ).toEqual({ referral: 1, search: 1, mail: 1 });
    const { values } = await operator.get<InsightView>(`/insight?source=${source.id}&by=referrer`);
    expect(values).toMatchObject([{ value: 'hill-find.example', kind: 'search' }]);
    expect((await put('moon')).status).toBe(422);
    await put(null);
    await from(14);
    expect((await eventually(ways, (found) => found.referral === 2)).search).toBe(1);
  });
});

describe('a variant that is nothing at all', () => {
  const variants = (nothing = true): FormVariant[] => [
    { id: 'own', name: 'A', share: 50, face: null, nothing: false },
    { id: 'none', name: 'Nothing', share: 50, face: null, nothing },
  ];
  it('is compared by a later goal alone', async () => {
    const pointers = async (more: object) => {
      const { id } = await operator.post<SourceView>('/sources', { name: 'Or nothing', kind: 'form' });
      await operator.put(`/sources/${id}/draft`, formOf([email], { variants: variants(), ...more }));
      const response = await operator.send('POST', `/sources/${id}/publish`);
      return ((await response.json()) as { errors?: { pointer: string }[] }).errors?.map(({ pointer }) => pointer);
    };
    expect(await pointers({ goal: 'completed' })).toEqual(['/goal']);
    expect(await pointers({ goal: 'reached' })).toEqual(['/goalPage']);
    expect(await pointers({ goal: 'reached', goalPage: '/thanks*', variants: variants(false) })).toEqual(['/variants']);
  });
  it('is handed out empty to a page of others, and never on the page of the form itself', async () => {
    const goal = { goal: 'reached', goalPage: '/thanks*' } as const;
    const source = await operator.form('Shown or not', formOf([email], { variants: variants(), ...goal }));
    const part = async (variant: string) =>
      (await (
        await fetch(`${world.app}/place/${idOf(source)}.json?variant=${variant}`, { headers: { origin: world.site } })
      ).json()) as PlacedPart;
    expect(await part('none')).toMatchObject({
      html: '',
      css: ':host{all:initial!important;display:block!important;font-family:inherit!important}\n',
      goalPage: '/thanks*',
    });
    expect((await part('own')).html).toContain('<form');
    for (let times = 0; times < 12; times += 1) {
      const page = await (await fetch(source.postUrl)).text();
      expect(page).toContain('<form');
      expect(page).not.toContain('form_variant');
    }
  });
});

describe('a silence', () => {
  /** Makes a source one that brought twelve a day, until three days ago. */
  async function silent(source: SourceView, shownSince: number): Promise<void> {
    await send(source, 'last@hill.example');
    await world.rows('UPDATE submissions SET received_at = received_at - ? WHERE source_id = ?', [3 * DAY, source.id]);
    const count = (what: string, many: number, daysAgo = 5) => countEarlier(world, source.id, { daysAgo, what, many });
    const onPage = (path: string, many: number) =>
      countEarlier(world, source.id, {
        daysAgo: 5,
        what: 'shown',
        many,
        dimension: 'page',
        value: `${world.site}${path}`,
      });
    await count('completed', 300);
    await count('shown', 2_000);
    await onPage('/no-such-page', 2_000);
    await onPage('/evenings', 90);
    if (shownSince > 0) await count('shown', shownSince, 1);
  }
  const why = async ({ id }: SourceView) => {
    const { findings } = await operator.get<SilenceView>(`/sources/${id}/silence`);
    return findings.filter(({ ok }) => !ok).map(({ found }) => found);
  };

  it('is looked into: who saw it since, what was set aside, and what its pages say', async () => {
    const source = await operator.form('Gone quiet', formOf([email]));
    await silent(source, 40);
    const found = await why(source);
    expect(found).toContainEqual('It was seen 40 times since, begun 0 times, and sent by nobody.');
    expect(found).toContainEqual(expect.stringMatching(/no-such-page: The page answers with 404\./));
    expect(found.some((one) => one.startsWith(`${world.site}/evenings: `))).toBe(true);
    const needs = (await operator.get<{ needs: { kind: string; text: string; link: string }[] }>('/overview')).needs;
    expect(needs).toContainEqual(
      expect.objectContaining({
        kind: 'silent',
        link: `/insight?source=${source.id}`,
        text: expect.stringMatching(/^Gone quiet: nothing since/) as string,
      }),
    );
  });
  it('is said to be of pages that do not show it, where nobody saw it', async () => {
    const source = await operator.form('Not seen', formOf([email]));
    await silent(source, 0);
    expect(await why(source)).toContainEqual('Nobody has seen it since: it is gone from its pages, or our script is.');
  });
  it('is none where a source is quiet as usual, and of an address for programs says what is known', async () => {
    const quiet = await operator.form('As usual', formOf([email]));
    await send(quiet, 'now@hill.example');
    expect((await operator.get<SilenceView>(`/sources/${quiet.id}/silence`)).since).toBeNull();
    const posts = await operator.source('Orders', postsOf([email]));
    await silent(posts, 0);
    const { findings } = await operator.get<SilenceView>(`/sources/${posts.id}/silence`);
    expect(findings.at(-1)?.found).toMatch(/^Its address answers\./);
  });
});

describe('a draft that goes live by itself', () => {
  const setTime = (id: string, at: number | null) => operator.send('POST', `/sources/${id}/schedule`, { at });
  const view = (id: string) => operator.get<SourceView>(`/sources/${id}`);

  it('does so at its time, as it is then, and says who set it', async () => {
    const source = await operator.form('Later', formOf([email], { title: 'Before' }));
    await operator.put(`/sources/${source.id}/draft`, formOf([email], { title: 'After' }));
    expect((await setTime(source.id, Date.now() + 3_000)).status).toBe(200);
    expect((await view(source.id)).goesLive?.by).toBe('Wren');
    await operator.put(`/sources/${source.id}/draft`, formOf([email], { title: 'After all' }));
    const live = await eventually(
      () => view(source.id),
      (one) => one.liveVersion === 2,
      20_000,
    );
    expect(live.live).toMatchObject({ title: 'After all' });
    expect([live.goesLive, live.changed]).toEqual([null, false]);
  });
  it('waits where it cannot, says why here and on the overview, and goes live once that is mended', async () => {
    const source = await operator.form('Broken', formOf([email]));
    await operator.put(`/sources/${source.id}/draft`, formOf([email], { title: 'New' }));
    await setTime(source.id, Date.now() + 1_000);
    await operator.put(`/sources/${source.id}/draft`, formOf([]));
    const kept = await eventually(
      () => view(source.id),
      (one) => one.keptBack.length > 0,
    );
    expect(kept.keptBack[0]).toBe('It has no fields.');
    const { needs } = await operator.get<{ needs: { text: string }[] }>('/overview');
    expect(needs.map(({ text }) => text)).toContainEqual('Broken was to go live, and cannot: It has no fields.');
    await operator.put(`/sources/${source.id}/draft`, formOf([email], { title: 'Mended' }));
    const live = await eventually(
      () => view(source.id),
      (one) => one.liveVersion === 2,
      20_000,
    );
    expect(live.live).toMatchObject({ title: 'Mended' });
  });
  it('is refused where the time is over, and where it could not go live now', async () => {
    const source = await operator.form('Never', formOf([email]));
    expect((await setTime(source.id, Date.now() - 1)).status).toBe(422);
    await operator.put(`/sources/${source.id}/draft`, formOf([]));
    expect((await setTime(source.id, Date.now() + DAY)).status).toBe(422);
    expect((await setTime(source.id, null)).status).toBe(200);
  });
});

describe('a source that is archived', () => {
  it('takes nothing, and does as before once it is taken out again', async () => {
    const source = await operator.form('Put aside', formOf([email]));
    await send(source, 'one@hill.example');
    await operator.post(`/sources/${source.id}/archive`);
    expect((await operator.send('POST', `/sources/${source.id}/archive`)).status).toBe(409);
    expect((await operator.send('POST', `/sources/${source.id}/publish`)).status).toBe(409);
    const page = await eventually(
      () => fetch(source.postUrl),
      (response) => response.status === 404,
    );
    expect(await page.text()).toContain('This form is closed');
    const { rows } = await operator.get<Page<SubmissionRow>>(`/submissions?source=${source.id}`);
    expect(rows).toHaveLength(1);
    await operator.post(`/sources/${source.id}/restore`);
    await eventually(
      () => fetch(source.postUrl),
      (response) => response.status === 200,
    );
    await send(source, 'two@hill.example');
  });
});

describe('versions of a source', () => {
  it('are all there, the newest first, each as it was', async () => {
    const source = await operator.form('Versions', formOf([email], { title: 'One' }));
    await operator.put(`/sources/${source.id}/draft`, formOf([email], { title: 'Two' }));
    await operator.post(`/sources/${source.id}/publish`);
    const versions = await operator.get<{ version: number }[]>(`/sources/${source.id}/versions`);
    expect(versions.map(({ version }) => version)).toEqual([2, 1]);
    expect(await operator.get(`/sources/${source.id}/versions/1`)).toMatchObject({ title: 'One' });
    expect((await operator.send('GET', `/sources/${source.id}/versions/3`)).status).toBe(404);
  });
});
