import { readdirSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SubmissionRow, TrailView } from '../../src/contract/submissions.ts';
import type { FormDocument, PostsDocument } from '../../src/core/intake/index.ts';
import type { SourceField } from '../../src/core/values/index.ts';
import { formOf, postsOf, sourceField } from '../world/fields.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;

beforeAll(async () => {
  world = await World.start({ IWASHI_UPLOAD_BYTES: '100000' });
  operator = await world.operator();
});
afterAll(() => world.stop());

const email = sourceField('email', 'email', { required: true, keepAs: 'email', path: '$.customer.email' });
const at = (key: string, type: SourceField['type'], path: string, more: Partial<SourceField> = {}) =>
  sourceField(key, type, { path, ...more });

const post = (url: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });

interface Answer {
  submission: string;
  submissions: string[];
}

/** A small file of a kind that its content tells: PDF (ISO 32000-1, 7.5.2, begins with %PDF-). */
const PDF = Buffer.from('%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF\n');
const stored = () =>
  readdirSync(world.env.IWASHI_UPLOADS ?? '', { recursive: true, withFileTypes: true }).filter((one) => one.isFile());

describe('posts from elsewhere', () => {
  let source: LiveSource<PostsDocument>;
  beforeAll(async () => {
    const fields = [
      email,
      at('total', 'money', '$.total'),
      at('items', 'list of records', '$.items', { required: true }),
      at('first', 'text', '$.items[0].sku'),
      at('agreed', 'yes/no', '$.customer.agreed'),
    ];
    source = await operator.source('Orders', postsOf(fields, { statement: 'By ordering you agree to our letters.' }));
  });
  const order = (address: string) => ({
    customer: { email: address, agreed: true },
    total: { amount: '31.50', currency: 'EUR' },
    items: [
      { sku: 'chart', count: 2 },
      { sku: 'torch', count: 1 },
    ],
  });

  it('are read where the paths say, kept as they came, and answered with what they became', async () => {
    const response = await post(source.postUrl, order('orders@hill.example'));
    expect(response.status).toBe(202);
    const { submission, submissions } = (await response.json()) as Answer;
    expect(submissions).toEqual([submission]);
    const trail = await operator.trail(submission);
    expect(trail.values).toMatchObject({
      email: 'orders@hill.example',
      total: { amount: '31.50', currency: 'EUR' },
      items: [
        { sku: 'chart', count: 2 },
        { sku: 'torch', count: 1 },
      ],
      first: 'chart',
      agreed: true,
    });
    expect(trail.raw.payload).toEqual({ kind: 'json', json: order('orders@hill.example'), files: [] });
  });

  it('say what is wrong, by pointer, and nothing is kept', async () => {
    const wrong = await post(source.postUrl, { customer: { email: 'nobody' }, items: 'none' });
    expect(wrong.status).toBe(422);
    expect(await wrong.json()).toMatchObject({ errors: [{ pointer: '/email' }, { pointer: '/items' }] });
    expect((await post(source.postUrl, '{')).status).toBe(400);
    expect((await post(source.postUrl, '"text"')).status).toBe(400);
    expect(await world.rows("SELECT id FROM submissions WHERE raw LIKE '%nobody%'")).toEqual([]);
  });

  it('are read in the encoding that they say, and refused when they are not in it', async () => {
    const post = (body: Buffer, charset: string) =>
      fetch(source.postUrl, {
        method: 'POST',
        headers: { 'content-type': `application/json${charset}` },
        body: new Uint8Array(body),
      });
    const json = JSON.stringify({ order: 1 });
    const text = json.replace('1', '"Zo\u00eb"');
    expect((await post(Buffer.from(text, 'latin1'), '')).status).toBe(400);
    expect((await post(Buffer.from(text, 'latin1'), '; charset=none-such')).status).toBe(400);
    // Well read; what is in it is another matter.
    expect((await post(Buffer.from(text, 'latin1'), '; charset=iso-8859-1')).status).toBe(422);
    expect((await post(Buffer.from(text, 'utf8'), '; charset=utf-8')).status).toBe(422);
  });

  it('show no form to whoever opens the address', async () => {
    const page = await fetch(source.postUrl);
    expect([page.status, await page.text()]).toEqual([404, expect.stringContaining('There is no form')]);
  });

  it('may be several submissions by one arrival, taken all or none, and once however often it is sent', async () => {
    const each = await operator.source(
      'Guests',
      postsOf(
        [at('email', 'email', '@.mail', { required: true, keepAs: 'email' }), at('evening', 'date', '$.evening')],
        {
          each: '$.guests[*]',
        },
      ),
    );
    const evening = { evening: '2026-05-31', guests: [{ mail: 'one@hill.example' }, { mail: 'two@hill.example' }] };
    const sent = (await (await post(each.postUrl, evening)).json()) as Answer;
    expect(sent.submissions).toHaveLength(2);
    expect(((await (await post(each.postUrl, evening)).json()) as Answer).submissions).toEqual(sent.submissions);
    const [first, second] = await Promise.all(sent.submissions.map((id) => operator.trail(id)));
    expect([first?.values, second?.values]).toEqual([
      { email: 'one@hill.example', evening: '2026-05-31' },
      { email: 'two@hill.example', evening: '2026-05-31' },
    ]);
    expect(second?.raw.payload).toEqual({ kind: 'json', json: evening, files: [] });
    const wrong = await post(each.postUrl, { guests: [{ mail: 'three@hill.example' }, { mail: 'x' }] });
    expect(await wrong.json()).toMatchObject({ status: 422, errors: [{ pointer: '/1/email' }] });
    expect((await operator.submissions(`source=${each.id}`)).rows).toHaveLength(2);
  });

  it('say that a key was used for something else', async () => {
    const key = { 'idempotency-key': 'order-77' };
    const first = (await (await post(source.postUrl, order('key@hill.example'), key)).json()) as Answer;
    expect(await (await post(source.postUrl, order('key@hill.example'), key)).json()).toMatchObject(first);
    expect((await post(source.postUrl, order('other@hill.example'), key)).status).toBe(422);
  });

  it('are not published with a path that is none', async () => {
    await operator.put(`/sources/${source.id}/draft`, {
      ...source.draft,
      each: 'orders[',
      fields: [{ ...email, path: '$..[' }],
    });
    const refused = await operator.send('POST', `/sources/${source.id}/publish`);
    expect(await refused.json()).toMatchObject({
      status: 422,
      errors: [{ pointer: '/each' }, { pointer: '/fields/0/path' }],
    });
  });
});

describe('files', () => {
  const form = (more: Partial<SourceField> = {}) =>
    formOf([
      sourceField('email', 'email', { required: true, keepAs: 'email' }),
      sourceField('plan', 'file', { label: 'Plan', required: true, ...more }),
    ]);
  let source: LiveSource<FormDocument>;
  beforeAll(async () => {
    source = await operator.form('Plans', form({ options: ['application/pdf', 'image/*'] }));
  });
  const send = (values: Record<string, string | Blob>, name = '../../etc/plän "1".pdf') => {
    const body = new FormData();
    for (const [key, value] of Object.entries(values))
      if (typeof value === 'string') body.append(key, value);
      else body.append(key, value, name);
    return fetch(source.postUrl, { method: 'POST', redirect: 'manual', headers: { accept: 'text/html' }, body });
  };
  const pdf = new Blob([PDF], { type: 'text/html' });
  const newest = async (address: string): Promise<TrailView> => {
    const [row] = (
      await eventually(
        () => operator.submissions(`text=${address}`),
        ({ rows }: { rows: SubmissionRow[] }) => rows.length === 1,
      )
    ).rows;
    return operator.trail(row?.id ?? '');
  };

  it('are kept under a name of our own, known by their content, and handed to signed-in people only', async () => {
    expect((await send({ email: 'plan@hill.example', plan: pdf })).status).toBe(303);
    const { values } = await newest('plan@hill.example');
    expect(values.plan).toMatchObject({ name: 'plän "1".pdf', mediaType: 'application/pdf', size: PDF.length });
    const { link } = values.plan as { link: string };
    expect((await fetch(link)).status).toBe(401);
    const download = await operator.open(link);
    expect(Buffer.from(await download.arrayBuffer()).equals(PDF)).toBe(true);
    expect(download.headers.get('content-disposition')).toBe(
      'attachment; filename="file"; filename*=UTF-8\'\'pl%C3%A4n%20%221%22.pdf',
    );
    expect(download.headers.get('x-content-type-options')).toBe('nosniff');
    expect(download.headers.get('content-security-policy')).toContain('sandbox');
    expect((await operator.open(`${world.app}/files/nothing`)).status).toBe(404);
    expect((await fetch(`${world.app}/uploads`)).headers.get('content-type')).toContain('text/html');
  });

  it('of another kind, or too large, are refused beside the field, and nothing typed is lost', async () => {
    const script = await (await send({ email: 'script@hill.example', plan: new Blob(['<script>']) }, 'a.pdf')).text();
    expect(script).toContain('is text/plain, which is not taken here');
    expect(script).toContain('value="script@hill.example"');
    const large = await (
      await send({ email: 'large@hill.example', plan: new Blob([Buffer.alloc(400_000)]) }, 'a.pdf')
    ).text();
    expect(large).toContain('is larger than 100 kB, which is the most that is taken.');
    expect(large).toContain('value="large@hill.example"');
    // What is far too much is not read: the connection ends with the answer, or before it is read.
    const flood = send({ email: 'flood@hill.example', plan: new Blob([Buffer.alloc(5_000_000)]) });
    expect(
      await flood.then(
        ({ status }) => status,
        () => 413,
      ),
    ).toBe(413);
    expect((await operator.submissions(`source=${source.id}`)).rows).toHaveLength(1);
  });

  it('need not be chosen again when something else has to be mended', async () => {
    const page = await (await send({ email: 'nobody', plan: pdf })).text();
    expect(page).toContain('is kept; choose another to send that instead.');
    const token = /name="plan\.kept" value="([^"]+)"/.exec(page)?.[1] ?? '';
    const forged = await send({ email: 'kept@hill.example', 'plan.kept': token.replace(/^./, 'f') });
    expect(forged.status).toBe(422);
    expect((await send({ email: 'kept@hill.example', 'plan.kept': token })).status).toBe(303);
    expect((await newest('kept@hill.example')).values.plan).toMatchObject({ mediaType: 'application/pdf' });
    // It belongs to that one now: nobody else can send it once more.
    expect((await send({ email: 'again@hill.example', 'plan.kept': token })).status).toBe(422);
  });

  it('come beside JSON, and within it', async () => {
    const posts = await operator.source('Plans by program', postsOf([email, at('plan', 'file', '$.plan')]));
    const within = await post(posts.postUrl, {
      customer: { email: 'within@hill.example' },
      plan: { name: 'plan.pdf', content: PDF.toString('base64') },
    });
    const trail = await operator.trail(((await within.json()) as Answer).submission);
    expect(trail.values.plan).toMatchObject({ name: 'plan.pdf', mediaType: 'application/pdf', size: PDF.length });
    expect(JSON.stringify(trail.raw)).not.toContain(PDF.toString('base64'));
    const body = new FormData();
    body.append(
      'payload',
      new Blob([JSON.stringify({ customer: { email: 'beside@hill.example' } })], { type: 'application/json' }),
    );
    body.append('plan', new Blob([PDF]), 'beside.pdf');
    const beside = (await (await fetch(posts.postUrl, { method: 'POST', body })).json()) as Answer;
    expect((await operator.trail(beside.submission)).values).toMatchObject({
      email: 'beside@hill.example',
      plan: { name: 'beside.pdf', mediaType: 'application/pdf' },
    });
  });

  it('that belong to nothing are cleared away, and those of a submission are not', async () => {
    const before = stored().length;
    await send({ email: 'nobody', plan: pdf });
    expect(stored()).toHaveLength(before + 1);
    await world.rows('UPDATE uploads SET created_at = created_at - 7200000');
    await eventually(
      () => Promise.resolve(stored().length),
      (count) => count < before,
      30_000,
    );
    const kept = await world.rows<{ submission_id: string | null }>('SELECT submission_id FROM uploads');
    expect(stored()).toHaveLength(kept.length);
    expect(kept.every(({ submission_id }) => submission_id !== null)).toBe(true);
    expect(kept).toHaveLength(4);
  });
});

describe('how a submission came', () => {
  it('is a column each, filtered by, and carried through the hosted page', async () => {
    const source = await operator.form('Campaign', formOf([sourceField('email', 'email', { required: true })]));
    const page = await (
      await fetch(`${source.postUrl}?utm_campaign=comets&utm_source=poster&email=a%40b.example`)
    ).text();
    expect(page).toContain('value="a@b.example"');
    const carried = [...page.matchAll(/<input type="hidden" name="(form_\w+)" value="([^"]*)"/g)].map(
      ([, name = '', value = '']): [string, string] => [name, value.replaceAll('&amp;', '&')],
    );
    const userAgent =
      'Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0 Mobile Safari/537.36';
    const send = (entries: [string, string][]) =>
      fetch(source.postUrl, {
        method: 'POST',
        redirect: 'manual',
        headers: { accept: 'text/html', 'user-agent': userAgent },
        body: new URLSearchParams(entries),
      });
    // Shown again after a mistake, it still knows.
    const again = await (await send([...carried, ['email', 'nobody'], ['form_placement', 'footer']])).text();
    expect(again).toContain('utm_campaign=comets');
    await send([...carried, ['email', 'came@hill.example'], ['form_placement', 'footer']]);
    const [row] = (await operator.submissions('campaign=comets')).rows;
    const { visit } = await operator.trail(row?.id ?? '');
    expect(visit).toEqual({
      page: source.postUrl,
      campaign: 'comets',
      source: 'poster',
      device: 'phone',
      placement: 'footer',
    });
    const found = async (query: string) => (await operator.submissions(query)).rows.some(({ id }) => id === row?.id);
    expect(await found(`page=${encodeURIComponent(source.postUrl.slice(0, -2))}&device=phone&placement=footer`)).toBe(
      true,
    );
    expect([await found('campaign=moon'), await found('device=tablet'), await found('placement=top')]).toEqual([
      false,
      false,
      false,
    ]);
    expect((await operator.send('GET', '/submissions?device=toaster')).status).toBe(422);
  });
});
