import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { saying } from '../../src/core/forms/index.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import { fields, observatory, sendJson, submitForm } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;
let source: LiveSource<FormDocument>;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  ({ source } = await observatory(world, operator));
});
afterAll(() => world.stop());

const countOf = async (text: string) => (await operator.submissions(`text=${text}`)).rows.length;

describe('a wrong value', () => {
  it('sends the visitor back with what is wrong beside the field, and nothing typed lost', async () => {
    const response = await submitForm(world, source, fields('nobody', { name: 'Mara "the Moon" <Quill>' }));
    const page = await response.text();
    expect(response.status).toBe(422);
    expect(page).toMatch(/<a href="#[^"]+-email">Email<\/a>: An email address has an @ in it/);
    expect(page).toMatch(/id="f-[^"]+-email"[^>]*aria-invalid="true"[^>]*aria-describedby="f-[^"]+-email-wrong"/);
    expect(page).toContain('value="Mara &quot;the Moon&quot; &lt;Quill&gt;"');
    expect(page).toContain('value="nobody"');
    expect(page).toMatch(/<input(?=[^>]*value="Taking pictures")[^>]*checked/);
    expect(page).toMatch(/<input(?=[^>]*id="f-[^"]+-consent")[^>]*checked/);
  });

  it('shows a box again as the visitor left it, and an address ticks none', async () => {
    const ticked = /<input(?=[^>]*id="f-[^"]+-consent")[^>]*checked/;
    const left = await submitForm(world, source, fields('nobody', { consent: 'no' }));
    expect(await left.text()).not.toMatch(ticked);
    const page = await (
      await fetch(`${source.postUrl}?consent=yes&telescope=yes&name=Mara&interests=Taking%20pictures`)
    ).text();
    expect(page).not.toMatch(ticked);
    expect(page).not.toMatch(/<input(?=[^>]*id="f-[^"]+-telescope")[^>]*checked/);
    expect(page).toMatch(/<input(?=[^>]*value="Taking pictures")[^>]*checked/);
    expect(page).toContain('value="Mara"');
  });

  it('is named by pointer when JSON was sent', async () => {
    const response = await sendJson(source, { ...fields('nobody'), interests: ['The Sun'] });
    expect(response.status).toBe(422);
    expect(await response.json()).toMatchObject({
      status: 422,
      errors: [{ pointer: '/email' }, { pointer: '/interests' }],
    });
  });

  it('is said in the words of the form, where it has some, with a button that resets it', async () => {
    const errorText = 'Your address, please, as your friends write it.';
    const { draft } = source;
    const own = await operator.form('In its own words', {
      ...draft,
      minimumSeconds: 0,
      resetLabel: 'Begin again',
      fields: draft.fields.map((field) => (field.key === 'email' ? { ...field, errorText } : field)),
    });
    const page = await (await submitForm(world, own, fields('nobody'))).text();
    expect(page).toMatch(new RegExp(`<a href="#[^"]+-email">Email</a>: ${errorText}`));
    expect(page).not.toContain('An email address has an @');
    expect(page).toMatch(/<button type="reset"[^>]*>Begin again<\/button>/);
    expect(own.html).toMatch(/<button type="reset"[^>]*>Begin again<\/button>/);
    const long = await operator.send('PUT', `/sources/${own.id}/draft`, { ...draft, resetLabel: 'x'.repeat(81) });
    expect([long.status, await long.text()]).toEqual([422, expect.stringContaining('80 characters')]);
  });

  it('is never stored', async () => {
    expect(await world.rows("SELECT id FROM submissions WHERE field_values LIKE '%nobody%'")).toEqual([]);
  });
});

const standing = async (email: string) =>
  (await operator.submissions(`progress=set+aside`)).rows.find((row) => row.email === email);

describe('robots', () => {
  it('that fill the trap see a thank-you, and are set aside until a person lets them through', async () => {
    const response = await submitForm(
      world,
      source,
      fields('trapped@hill.example', { website_url: 'https://spam.example' }),
    );
    expect(response.status).toBe(303);
    const row = await standing('trapped@hill.example');
    expect((await operator.trail(row?.id ?? '')).suspicion).toBe('trap filled');
    expect(await world.letters('trapped@hill.example')).toEqual([]);
    await operator.post(`/submissions/${row?.id}/release`);
    await operator.trailWhen(row?.id ?? '', 'waiting');
    expect((await operator.send('POST', `/submissions/${row?.id}/release`, {})).status).toBe(409);
  });

  it('that are faster than a person are set aside too, by what the page counted or by our own signed time', async () => {
    const strict = await operator.form('Strict', { ...source.draft, origins: [], minimumSeconds: 2 });
    await submitForm(world, strict, fields('fast@hill.example', { seconds_on_page: '0.4' }));
    await submitForm(world, strict, fields('slow@hill.example', { seconds_on_page: '2.1' }));
    const page = await (await fetch(strict.postUrl)).text();
    const stamp = /name="form_shown" value="([^"]+)"/.exec(page)?.[1] ?? '';
    await submitForm(world, strict, fields('hosted@hill.example', { form_shown: stamp }));
    await submitForm(
      world,
      strict,
      fields('forged@hill.example', { form_shown: stamp.replace(/^\d/, '9'), seconds_on_page: '30' }),
    );
    expect([
      (await standing('fast@hill.example'))?.progress,
      (await standing('hosted@hill.example'))?.progress,
    ]).toEqual(['set aside', 'set aside']);
    expect([await standing('slow@hill.example'), await standing('forged@hill.example')]).toEqual([
      undefined,
      undefined,
    ]);
  });
});

describe('what was set aside', () => {
  const states = (email: string) =>
    world.rows<{ state: string; repeats: number }>(
      'SELECT state, repeats FROM submissions WHERE field_values LIKE ? ORDER BY id',
      [`%${email}%`],
    );
  const sendOnce = async (email: string, more: Record<string, string> = {}) =>
    expect((await submitForm(world, source, fields(email, more))).status).toBe(303);

  it('swallows nothing that the person sends themselves, though it is the very same', async () => {
    await sendOnce('both@hill.example', { website_url: 'https://spam.example' });
    await sendOnce('both@hill.example', { website_url: 'https://spam.example' });
    await sendOnce('both@hill.example');
    await eventually(
      () => world.letters('both@hill.example'),
      (letters) => letters.length === 1,
    );
    expect(await states('both@hill.example')).toEqual([
      { state: 'set aside', repeats: 1 },
      { state: 'planned', repeats: 0 },
    ]);
  });

  it('is not released when the person sent the same again, which was taken', async () => {
    await sendOnce('again@hill.example', { website_url: 'https://spam.example' });
    await sendOnce('again@hill.example');
    const aside = await standing('again@hill.example');
    const response = await operator.send('POST', `/submissions/${aside?.id ?? ''}/release`);
    expect([response.status, ((await response.json()) as { type: string }).type]).toEqual([
      409,
      '/problems/came-again',
    ]);
  });

  it('is a repeat when the real one came first', async () => {
    await sendOnce('first@hill.example');
    await sendOnce('first@hill.example', { website_url: 'https://spam.example' });
    expect(await states('first@hill.example')).toMatchObject([{ repeats: 1 }]);
  });
});

it("a caller's own name for a request is not taken for another request, and loses none", async () => {
  const named = { 'idempotency-key': 'order 17' };
  const send = (email: string) => sendJson(source, fields(email), named);
  const first = await send('one@hill.example');
  expect(first.status).toBe(202);
  const again = await send('one@hill.example');
  expect(await again.json()).toEqual(await first.json());
  const other = await send('two@hill.example');
  expect([other.status, ((await other.json()) as { type: string }).type]).toEqual([
    422,
    '/problems/idempotency-key-used',
  ]);
  expect(await countOf('two@hill.example')).toBe(0);
});

it('somebody who quickly corrects a mistake is no robot, and came from the page they came from', async () => {
  const strict = await operator.form('Strict corrections', { ...source.draft, origins: [], minimumSeconds: 2 });
  const page = await (await submitForm(world, strict, fields('nobody', { seconds_on_page: '12' }))).text();
  const stamp = /name="form_shown" value="([^"]+)"/.exec(page)?.[1] ?? '';
  const firstPage = /name="form_page" value="([^"]+)"/.exec(page)?.[1] ?? '';
  await fetch(strict.postUrl, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin: world.app, referer: strict.postUrl, accept: 'text/html' },
    body: new URLSearchParams(fields('quick@hill.example', { form_shown: stamp, form_page: firstPage })),
  });
  const { rows } = await operator.submissions('progress=set+aside');
  expect(rows.filter(({ email }) => email === 'quick@hill.example')).toEqual([]);
  await eventually(
    () => operator.submissions('text=quick@'),
    (found) => found.rows[0]?.progress === 'nothing to send',
  );
  const [quick] = (await operator.submissions('text=quick@')).rows;
  expect((await operator.trail(quick?.id ?? '')).visit.page).toBe(`${world.site}/sky-letter`);
});

describe('where it comes from', () => {
  const post = (headers: Record<string, string>, body: BodyInit = new URLSearchParams(fields('origin@hill.example'))) =>
    fetch(source.postUrl, { method: 'POST', redirect: 'manual', headers, body });

  it('must be a site that the form may be on', async () => {
    expect((await post({ origin: 'https://elsewhere.example' })).status).toBe(403);
    expect((await post({})).status).toBe(403);
    expect((await post({ origin: world.site })).status).toBe(303);
    expect((await post({ referer: `${world.site}/sky-letter` })).status).toBe(303);
  });

  it('may read the answer from script only if it is such a site', async () => {
    const ask = (origin: string) =>
      fetch(source.postUrl, { method: 'OPTIONS', headers: { origin, 'access-control-request-method': 'POST' } });
    expect((await ask('https://elsewhere.example')).status).toBe(403);
    const allowed = await ask(world.site);
    expect([allowed.status, allowed.headers.get('access-control-allow-origin')]).toEqual([204, world.site]);
    expect(
      (await sendJson(source, fields('cors@hill.example'), { origin: world.site })).headers.get(
        'access-control-allow-origin',
      ),
    ).toBe(world.site);
  });

  it('must send what a form sends', async () => {
    const headers = { origin: world.site };
    expect((await post({ ...headers, 'content-type': 'text/plain' }, 'hello')).status).toBe(415);
    expect((await post({ ...headers, 'content-type': 'application/json' }, '[1]')).status).toBe(400);
    expect((await post({ ...headers, 'content-type': 'multipart/form-data; boundary=x' }, 'nonsense')).status).toBe(
      400,
    );
    expect((await post(headers, 'x'.repeat(300_000))).status).toBe(413);
  });
});

it('a form that is unknown or paused says so, and stores nothing', async () => {
  const before = await countOf('');
  expect(
    (await fetch(`${world.app}/in/unknown`, { method: 'POST', body: new URLSearchParams({ a: 'b' }) })).status,
  ).toBe(404);
  await operator.post(`/sources/${source.id}/pause`);
  await eventually(
    () => submitForm(world, source, fields('pausing@hill.example')),
    ({ status }) => status === 404,
    5_000,
  );
  expect((await submitForm(world, source, fields('paused@hill.example'))).status).toBe(404);
  await operator.post(`/sources/${source.id}/resume`);
  await eventually(
    () => submitForm(world, source, fields('resumed@hill.example')),
    ({ status }) => status === 303,
    5_000,
  );
  expect(await countOf('paused@')).toBe(0);
  expect(await countOf('')).toBeGreaterThan(before);
});

it('a changed draft does nothing until it is published', async () => {
  const own = await operator.form('Versions', { ...source.draft, origins: [], ending: saying('') });
  await operator.put(`/sources/${own.id}/draft`, {
    ...own.draft,
    ending: saying('', { next: `${world.site}/evenings` }),
  });
  const answer = () => submitForm(world, own, fields(`v${Math.random()}@hill.example`));
  expect((await answer()).headers.get('location')).toMatch(/\/thanks$/);
  await operator.post(`/sources/${own.id}/publish`);
  await eventually(answer, (response) => response.headers.get('location') === `${world.site}/evenings`, 5_000);
  const rows = await world.rows<{ source_version: number }>(
    'SELECT source_version FROM submissions WHERE source_id = ? ORDER BY received_at',
    [own.id],
  );
  expect([rows[0]?.source_version, rows.at(-1)?.source_version]).toEqual([1, 2]);
});

it('a form that could not work is not published, with the reason at its place', async () => {
  const own = await operator.post<LiveSource<FormDocument>>('/sources', { name: 'Broken' });
  const [email] = own.draft.fields;
  const draft = {
    ...own.draft,
    fields: [
      email,
      { ...email, id: 'again', label: 'Again' },
      { ...email, id: 'likes', key: 'likes', type: 'choice', label: 'Likes' },
      { ...email, key: 'ways', type: 'file', widget: 'buttons', path: 'ways[' },
    ],
  };
  await operator.put(`/sources/${own.id}/draft`, draft);
  const response = await operator.send('POST', `/sources/${own.id}/publish`, {});
  expect(response.status).toBe(422);
  expect(((await response.json()) as { errors: { pointer: string }[] }).errors.map(({ pointer }) => pointer)).toEqual([
    '/fields/1/key',
    '/fields/2/options',
    '/fields/3/id',
    '/fields/3/widget',
    '/fields/3/path',
  ]);
  const wrong = await operator.send('PUT', `/sources/${own.id}/draft`, {
    ...own.draft,
    button: '',
    ending: saying('', { next: 'javascript:alert(1)' }),
    origins: ['example.org'],
  });
  expect(((await wrong.json()) as { errors: { pointer: string }[] }).errors.map(({ pointer }) => pointer)).toEqual([
    '/button',
    '/ending/next',
    '/origins',
  ]);
});

describe('two who change the same draft', () => {
  it('the second is told, and nothing of either is lost', async () => {
    const own = await operator.form('Shared', { ...source.draft, origins: [], ending: saying('') });
    const path = `/sources/${own.id}/draft`;
    const save = (button: string, revision: string) =>
      operator.send('PUT', path, { ...own.draft, button }, { 'if-match': `"${revision}"` });
    const first = await save('First', own.draftAt);
    expect(first.status).toBe(200);
    const { draftAt } = (await first.json()) as LiveSource<FormDocument>;
    const second = await save('Second', own.draftAt);
    expect([second.status, await second.json()]).toMatchObject([412, { type: '/problems/changed-meanwhile' }]);
    expect((await operator.get<LiveSource<FormDocument>>(`/sources/${own.id}`)).draft.button).toBe('First');
    expect((await save('Second', draftAt)).status).toBe(200);
    // Two at the same moment: one of them is told.
    const newest = (await operator.get<LiveSource<FormDocument>>(`/sources/${own.id}`)).draftAt;
    const both = await Promise.all([save('A', newest), save('B', newest)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 412]);
  });
});

it('many that come at the same time are each taken once, and a repeat among them is no trouble for the others', async () => {
  const names = Array.from({ length: 60 }, (_, at) => `together${at % 40}@hill.example`);
  const taken = await Promise.all(
    names.map(async (email) => {
      const response = await sendJson(source, { email, name: 'Together', consent: 'yes' });
      return { email, id: ((await response.json()) as { submission?: string }).submission };
    }),
  );
  const rows = await world.rows<{ id: string; email: string; repeats: number }>(
    "SELECT id, JSON_VALUE(field_values, '$.email') AS email, repeats FROM submissions WHERE JSON_VALUE(field_values, '$.email') LIKE 'together%'",
  );
  expect(rows).toHaveLength(40);
  expect(rows.reduce((sum, { repeats }) => sum + repeats, 0)).toBe(20);
  // Whoever repeats it is not told which it was.
  const told = taken.filter(({ id }) => id !== undefined);
  expect(told).toHaveLength(40);
  for (const { email, id } of told) expect(rows.find((row) => row.email === email)?.id).toBe(id);
});

it('who sends by a browser what cannot be stored gets the form back with what they typed, and is told to come again', async () => {
  const typed = { email: 'again@hill.example', name: 'Kept <Safe>', consent: 'yes' };
  await world.rows('RENAME TABLE submissions TO submissions_gone');
  const refused = await submitForm(world, source, typed).finally(() =>
    world.rows('RENAME TABLE submissions_gone TO submissions'),
  );
  const page = await refused.text();
  expect([refused.status, refused.headers.get('retry-after')]).toEqual([503, '60']);
  expect(page).toContain('value="again@hill.example"');
  expect(page).toContain('value="Kept &lt;Safe&gt;"');
  expect(page).toContain('Something went wrong at our end');
  expect(refused.headers.get('cache-control')).toBe('no-store');
  expect((await submitForm(world, source, typed)).status).toBe(303);
  expect(await countOf('again@hill')).toBe(1);
});

it.each([
  [
    'a browser',
    (to: typeof source, sent: Record<string, string>) => submitForm(world, to, sent),
    'text/html',
    'This is more than the form can take.',
  ],
  ['a program', sendJson, 'application/problem+json', 'This is more than this source can hold.'],
])('%s that sends too much is told in its own way', async (_who, send, type, said) => {
  const refused = await send(source, { ...fields('much@hill.example'), name: 'x'.repeat(300_000) });
  expect(refused.status).toBe(413);
  expect(refused.headers.get('content-type')).toContain(type);
  expect(refused.headers.get('x-content-type-options')).toBe('nosniff');
  expect(await refused.text()).toContain(said);
});

it('nobody is turned away while connections to the database break, and each is taken once', async () => {
  const own = await operator.form('Through breaks', { ...source.draft, origins: [] });
  await sendJson(own, { email: 'first@breaks.example', name: 'First', consent: 'yes' });
  const [{ here } = { here: '' }] = await world.rows<{ here: string }>('SELECT DATABASE() AS here');
  let goesOn = true;
  const breaking = (async () => {
    while (goesOn) {
      const threads = await world.rows<{ id: number }>(
        'SELECT id FROM information_schema.processlist WHERE db = ? AND id <> CONNECTION_ID()',
        [here],
      );
      for (const { id } of threads) await world.rows(`KILL ${id}`).catch(() => null);
      await new Promise((resolve) => setTimeout(resolve, 3));
    }
  })();
  const answers: number[] = [];
  for (let at = 0; at < 150; at += 1) {
    const response = await sendJson(own, { email: `break${at}@breaks.example`, name: 'Break', consent: 'yes' });
    answers.push(response.status);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  goesOn = false;
  await breaking;
  expect(answers.filter((status) => status !== 202)).toEqual([]);
  const rows = await eventually(
    () =>
      world.rows<{ email: string; repeats: number }>(
        "SELECT JSON_VALUE(field_values, '$.email') AS email, repeats FROM submissions WHERE source_id = ?",
        [own.id],
      ),
    (found) => found.length >= 151,
  );
  expect(rows).toHaveLength(151);
  expect(rows.every(({ repeats }) => repeats === 0)).toBe(true);
});
