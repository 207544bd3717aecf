import { createHmac } from 'node:crypto';
import { connect } from 'node:net';
import { Webhook } from 'standardwebhooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ArrivalRow, ArrivalView, SecretView, ShapeView } from '../../src/contract/webhook.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { PLAIN_WEBHOOK, type PostsDocument, type Proof } from '../../src/core/intake/index.ts';
import { postsOf, sourceField } from '../world/fields.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(() => world.stop());

const EMAIL = sourceField('email', 'email', { required: true, keepAs: 'email', path: '$.customer.email' });
const customer = (email: string, more: object = {}) => ({ customer: { email }, ...more });

const post = (url: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
const idsIn = async (response: Response) => ((await response.json()) as { submissions: string[] }).submissions;
const arrivals = (source: SourceView) => operator.get<ArrivalRow[]>(`/sources/${source.id}/arrivals`);
const outcomes = async (source: SourceView) => (await arrivals(source)).map(({ outcome }) => outcome);
const submissionsOf = async (source: SourceView) => (await operator.submissions(`source=${source.id}`)).rows.length;

const webhook = (name: string, more: Partial<PostsDocument> = {}): Promise<LiveSource<PostsDocument>> =>
  operator.source(name, postsOf([EMAIL], more));

describe('an address for programs', () => {
  it('shows what comes before it is published, and takes it once somebody sends it again', async () => {
    const source = await operator.post<SourceView>('/sources', { name: 'Members', kind: 'posts' });
    const sent = { member: { mail: 'first@hill.example', joined: '2026-03-01' }, token: 'a-secret' };
    const answer = await post(source.postUrl, sent, {
      'x-from': 'the gate',
      'x-api-key': 'another-secret',
      cookie: 'c=1',
    });
    expect([answer.status, await answer.json()]).toMatchObject([202, { accepted: false }]);
    const [row] = await arrivals(source);
    expect(row).toMatchObject({ outcome: 'sample', submissions: [] });
    const view = await operator.get<ArrivalView>(`/sources/${source.id}/arrivals/${row?.id}`);
    expect(view).toMatchObject({
      read: { json: sent },
      contentType: 'application/json',
      headers: { 'x-from': 'the gate' },
    });
    expect(JSON.stringify(view.headers)).not.toMatch(/another-secret|c=1/);
    const shape = await operator.get<ShapeView>(`/sources/${source.id}/shape`);
    expect(shape.findings).toMatchObject([
      { path: '$.member.mail', type: 'email', filled: 1, confidence: 1, personal: true, example: 'first@hill.example' },
      { path: '$.member.joined', type: 'date', personal: false },
      { path: '$.token', secret: true, example: '' },
    ]);
    const again = `/sources/${source.id}/arrivals/${row?.id}/again`;
    expect((await operator.send('POST', again)).status).toBe(409);
    await operator.put(`/sources/${source.id}/draft`, postsOf([{ ...EMAIL, path: '$.member.mail' }]));
    await operator.post(`/sources/${source.id}/publish`);
    const { submissions } = await operator.post<{ submissions: string[] }>(again);
    expect((await operator.trail(submissions[0] ?? '')).values).toEqual({ email: 'first@hill.example' });
    expect(await arrivals(source)).toMatchObject([{ outcome: 'taken' }, { outcome: 'taken', submissions }]);
  });

  it('reads XML, lines of JSON, lists, form fields, and what does not say what it is', async () => {
    const source = await webhook('Any writing');
    const xml =
      '<?xml version="1.0"?><customer kind="new"><email>xml@hill.example</email><name>Zo&#235;</name></customer>';
    const taken = async (body: string, type: string) => {
      const response = await fetch(source.postUrl, { method: 'POST', headers: { 'content-type': type }, body });
      expect([type, response.status]).toEqual([type, 202]);
      return Promise.all((await idsIn(response)).map(async (id) => (await operator.trail(id)).values.email));
    };
    expect(await taken(xml, 'application/xml')).toEqual(['xml@hill.example']);
    const lines = [customer('l1@hill.example'), customer('l2@hill.example')].map((one) => JSON.stringify(one));
    expect(await taken(lines.join('\n'), 'application/x-ndjson')).toEqual(['l1@hill.example', 'l2@hill.example']);
    expect(await taken(`[${lines.join(',').replaceAll('@hill', '@list')}]`, 'application/vnd.gate+json')).toEqual([
      'l1@list.example',
      'l2@list.example',
    ]);
    expect(await taken(JSON.stringify(customer('untold@hill.example')), 'text/plain')).toEqual(['untold@hill.example']);
    const refused = (body: string, type: string) =>
      fetch(source.postUrl, { method: 'POST', headers: { 'content-type': type }, body }).then(({ status }) => status);
    expect(await refused('<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', 'text/xml')).toBe(400);
    expect(await refused('<a><b></a>', 'text/xml')).toBe(400);
    expect(await refused('{"a":1}\nnothing', 'application/x-ndjson')).toBe(400);
    expect(await refused('words', 'text/plain')).toBe(415);
    expect((await outcomes(source)).slice(0, 4)).toEqual(Array.from({ length: 4 }, () => 'not readable'));
  });

  it('knows a message by its id, however late it comes again, and says where another one has the same', async () => {
    const source = await webhook('By id', { idPath: '$.id' });
    const [first] = await idsIn(await post(source.postUrl, customer('once@hill.example', { id: 'm-1' })));
    await world.rows(`UPDATE submissions SET received_at = received_at - 86400000 WHERE id = '${first}'`);
    expect(await idsIn(await post(source.postUrl, customer('once@hill.example', { id: 'm-1' })))).toEqual([first]);
    expect(await idsIn(await post(source.postUrl, customer('other@hill.example', { id: 'm-1' })))).toEqual([first]);
    expect(await idsIn(await post(source.postUrl, customer('once@hill.example', { id: 'm-2' })))).not.toEqual([first]);
    expect(await submissionsOf(source)).toBe(2);
    const repeated = (await arrivals(source)).filter(({ outcome }) => outcome === 'repeated');
    expect(repeated.map(({ why }) => why.split('.')[0])).toEqual([
      'Another one came before under the same id, with other values',
      'It came before',
    ]);
    // Somebody who sends it again from here means it.
    await operator.post(`/sources/${source.id}/arrivals/${repeated[1]?.id}/again`);
    expect(await submissionsOf(source)).toBe(3);
  });

  it('takes each of ten thousand in a burst once, in whichever order and however often they come', async () => {
    const proof = { ...PLAIN_WEBHOOK.proof, by: 'bearer' as const };
    const source = await webhook('Storm', { idPath: '$.id', proof });
    const { secret } = await operator.put<SecretView>(`/sources/${source.id}/secret`, { secret: '' });
    const headers = { authorization: `Bearer ${secret}` };
    const messages = Array.from({ length: 8_000 }, (_, at) => customer(`s${at}@storm.example`, { id: at }));
    const sent = [...messages, ...messages.toReversed().slice(0, 2_000)];
    let next = 0;
    const statuses = new Set<number>();
    await Promise.all(
      Array.from({ length: 24 }, async () => {
        for (let at = next++; at < sent.length; at = next++)
          statuses.add((await post(source.postUrl, sent[at], headers)).status);
      }),
    );
    expect([...statuses]).toEqual([202]);
    const [row] = await world.rows<{ stored: number; repeats: number }>(
      `SELECT COUNT(*) AS stored, SUM(repeats) AS repeats FROM submissions WHERE source_id = '${source.id}'`,
    );
    expect([Number(row?.stored), Number(row?.repeats)]).toEqual([8_000, 2_000]);
  }, 300_000);

  it('answers who has closed their half of the connection, takes nothing of half a body, and once what is sent again', async () => {
    const source = await webhook('Half closed', { idPath: '$.id' });
    const { hostname, port, pathname } = new URL(source.postUrl);
    const body = JSON.stringify(customer('half@hill.example', { id: 1 }));
    const request = (length: number) =>
      `POST ${pathname} HTTP/1.1\r\nHost: ${hostname}:${port}\r\nContent-Type: application/json\r\nContent-Length: ${length}\r\n\r\n`;
    /** Writes, closes its own half, and reads what comes until the other one is closed. */
    const spoken = (text: string, breaks = false) =>
      new Promise<string>((resolve) => {
        const socket = connect({ host: hostname, port: Number(port), allowHalfOpen: true });
        let answer = '';
        socket.on('data', (part) => (answer += String(part)));
        socket.on('error', () => resolve('broken'));
        socket.on('close', () => resolve(answer));
        socket.on('end', () => socket.end());
        if (breaks) socket.write(text, () => setTimeout(() => socket.resetAndDestroy(), 20));
        else socket.end(text);
      });
    // RFC 9112, 9.6: who has closed their half may still read.
    expect(await spoken(request(Buffer.byteLength(body)) + body)).toMatch(/^HTTP\/1\.1 202 /);
    expect(await submissionsOf(source)).toBe(1);
    expect(await spoken(request(1_000) + body.slice(0, 20))).not.toContain(' 202 ');
    // Forty who break off before they are answered, and send it again as senders do.
    const many = Array.from({ length: 40 }, (_, at) => JSON.stringify(customer(`b${at}@hill.example`, { id: at + 2 })));
    await Promise.all(many.map((one) => spoken(request(Buffer.byteLength(one)) + one, true)));
    const again = await Promise.all(many.map((one) => post(source.postUrl, one)));
    expect(new Set(again.map(({ status }) => status))).toEqual(new Set([202]));
    const [row] = await world.rows<{ stored: number }>(
      `SELECT COUNT(*) AS stored FROM submissions WHERE source_id = '${source.id}'`,
    );
    expect(row?.stored).toBe(41);
  });

  it('takes some kinds of events, ignores others, and counts both', async () => {
    const source = await webhook('Kinds', {
      events: { path: '$.type', known: [{ kind: 'member.joined', act: 'take' }], others: 'ignore' },
    });
    const event = (type: string, email: string) => customer(email, { type });
    expect(await idsIn(await post(source.postUrl, event('member.joined', 'joined@hill.example')))).toHaveLength(1);
    expect(await idsIn(await post(source.postUrl, event('member.left', 'left@hill.example')))).toEqual([]);
    const both = [event('member.joined', 'two@hill.example'), event('member.left', 'three@hill.example')];
    expect(await idsIn(await post(source.postUrl, both))).toHaveLength(1);
    expect(await submissionsOf(source)).toBe(2);
    expect((await arrivals(source)).map(({ outcome, kinds }) => [outcome, kinds])).toEqual([
      ['taken', ['member.joined', 'member.left']],
      ['ignored', ['member.left']],
      ['taken', ['member.joined']],
    ]);
    const { kinds } = await eventually(
      () => operator.get<ShapeView>(`/sources/${source.id}/shape`),
      (shape) => shape.kinds.reduce((sum, { came }) => sum + came, 0) === 4,
    );
    expect(new Map(kinds.map(({ kind, came }) => [kind, came]))).toEqual(
      new Map([
        ['member.joined', 2],
        ['member.left', 2],
      ]),
    );
  });

  it('says what does not come any more, since when, and which field it was', async () => {
    const source = await webhook('Changing', {
      fields: [EMAIL, sourceField('city', 'text', { path: '$.customer.city' })],
    });
    const send = (at: number, city: object) =>
      post(source.postUrl, { customer: { email: `c${at}@change.example`, ...city } });
    for (let at = 0; at < 12; at += 1) expect((await send(at, { city: 'Pellam' })).status).toBe(202);
    for (let at = 12; at < 16; at += 1) expect((await send(at, { town: 'Pellam' })).status).toBe(202);
    const { gone } = await eventually(
      () => operator.get<ShapeView>(`/sources/${source.id}/shape`),
      (shape) => shape.gone.length > 0 && shape.gone[0]?.without === 4,
    );
    expect(gone).toMatchObject([{ path: '$.customer.city', without: 4, field: 'city', kind: '' }]);
    expect(Math.abs(Date.parse(gone[0]?.since ?? '') - Date.now())).toBeLessThan(60_000);
    const { needs } = await operator.get<{ needs: { kind: string; text: string }[] }>('/overview');
    expect(needs.find(({ text }) => text.startsWith('Changing'))?.text).toMatch(/\$\.customer\.city is gone since/);
  });

  it('answers as its sender needs it, and says back what it is asked', async () => {
    const source = await webhook('Answers', {
      answer: { status: 200, body: '<ok/>', mediaType: 'application/xml' },
      challenge: { by: 'query', name: 'hub.challenge' },
    });
    const taken = await post(source.postUrl, customer('answered@hill.example'));
    expect([taken.status, taken.headers.get('content-type'), await taken.text()]).toEqual([
      200,
      'application/xml; charset=utf-8',
      '<ok/>',
    ]);
    const asked = await fetch(`${source.postUrl}?hub.challenge=${encodeURIComponent('<b>12')}`);
    expect([asked.status, asked.headers.get('content-type')?.split(';')[0], await asked.text()]).toEqual([
      200,
      'text/plain',
      '<b>12',
    ]);
    const inBody = await webhook('Asked in the body', { challenge: { by: 'body', name: '$.challenge' } });
    const said = await post(inBody.postUrl, { type: 'verify', challenge: 'say this' });
    expect([said.status, await said.text()]).toEqual([200, 'say this']);
    expect(await submissionsOf(inBody)).toBe(0);
    const silent = await webhook('Silent', { answer: { ...PLAIN_WEBHOOK.answer, status: 204 } });
    expect((await post(silent.postUrl, customer('silent@hill.example'))).status).toBe(204);
  });

  it('keeps what comes while it is paused, to be sent again', async () => {
    const source = await webhook('Paused');
    await operator.post(`/sources/${source.id}/pause`);
    await eventually(
      () => post(source.postUrl, customer('paused@hill.example')),
      ({ status }) => status === 404,
    );
    await operator.post(`/sources/${source.id}/resume`);
    const closed = (await arrivals(source)).find(({ outcome }) => outcome === 'closed');
    await operator.post(`/sources/${source.id}/arrivals/${closed?.id}/again`);
    expect(await submissionsOf(source)).toBe(1);
  });
});

describe('who may send', () => {
  const proved = async (proof: Partial<Proof>, secret = '') => {
    const source = await webhook(`By ${proof.by}`, { proof: { ...PLAIN_WEBHOOK.proof, ...proof } });
    const set = await operator.put<SecretView>(`/sources/${source.id}/secret`, { secret });
    return { source, ...set };
  };
  const body = JSON.stringify(customer('proved@hill.example'));
  const basic = (text: string) => `Basic ${Buffer.from(text).toString('base64')}`;

  it.each<[string, Partial<Proof>, (secret: string) => Record<string, string>, number]>([
    ['bearer', { by: 'bearer' }, (secret) => ({ authorization: `Bearer ${secret}` }), 401],
    ['basic', { by: 'basic', user: 'gate' }, (secret) => ({ authorization: basic(`gate:${secret}`) }), 401],
    ['header', { by: 'header', header: 'X-Gate-Key' }, (secret) => ({ 'x-gate-key': secret }), 403],
    [
      'a signature',
      { by: 'signature', header: 'X-Sig', prefix: 'sha256=', timeHeader: 'X-At', canonical: '{time}:{body}' },
      (secret) => {
        const time = String(Math.floor(Date.now() / 1000));
        const signature = createHmac('sha256', secret).update(`${time}:${body}`).digest('hex');
        return { 'x-at': time, 'x-sig': `sha256=${signature.toUpperCase().replace('SHA', 'sha')}` };
      },
      403,
    ],
    [
      'Standard Webhooks',
      { by: 'standard webhooks' },
      (secret) => {
        const at = new Date();
        return {
          'webhook-id': 'm1',
          'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
          'webhook-signature': new Webhook(secret).sign('m1', at, body),
        };
      },
      403,
    ],
  ])('is shown by %s', async (_, proof, headers, refusal) => {
    const { source, secret } = await proved(proof);
    expect((await post(source.postUrl, body, headers(secret))).status).toBe(202);
    const wrong = await post(source.postUrl, body, headers(secret.replace(/.{4}$/, 'AAA=')));
    expect(wrong.status).toBe(refusal);
    expect(wrong.headers.has('www-authenticate')).toBe(refusal === 401);
    expect((await post(source.postUrl, body)).status).toBe(refusal);
    expect(await outcomes(source)).toEqual(['not genuine', 'not genuine', 'taken']);
    // What did not show who sent it is not kept, and nothing that holds the secret is.
    const kept = JSON.stringify(await world.rows(`SELECT * FROM noted_arrivals WHERE source_id = '${source.id}'`));
    const raw = JSON.stringify(await world.rows(`SELECT raw FROM submissions WHERE source_id = '${source.id}'`));
    expect(kept).not.toContain('proved@hill.example');
    expect(kept + raw).not.toContain(secret);
    const [first] = await arrivals(source);
    expect((await operator.send('POST', `/sources/${source.id}/arrivals/${first?.id}/again`)).status).toBe(409);
  });

  it('is shown by the address, which is not told again', async () => {
    const { source, secret, address } = await proved({ by: 'path' });
    expect((await post(address, body)).status).toBe(202);
    expect((await post(source.postUrl, body)).status).toBe(403);
    expect((await post(`${source.postUrl}/another-secret`, body)).status).toBe(403);
    expect(JSON.stringify(await operator.get(`/sources/${source.id}`))).not.toContain(secret);
  });

  it('covers every byte: what comes in parts, and what is written in another encoding', async () => {
    const signature = { by: 'signature' as const, header: 'X-Sig', timeHeader: '', canonical: '{body}' };
    const { source, secret } = await proved(signature, 'a secret of bytes');
    const signed = (bytes: Uint8Array<ArrayBuffer>) => createHmac('sha256', secret).update(bytes).digest('hex');
    const send = (bytes: Uint8Array<ArrayBuffer>, type: string, sign = signed(bytes)) =>
      fetch(source.postUrl, { method: 'POST', headers: { 'content-type': type, 'x-sig': sign }, body: bytes });
    const parts = (address: string) =>
      new Uint8Array(Buffer.from(`--b\r\nContent-Disposition: form-data; name="email"\r\n\r\n${address}\r\n--b--\r\n`));
    const type = 'multipart/form-data; boundary=b';
    expect((await send(parts('parts@hill.example'), type)).status).not.toBe(403);
    // The signature of nothing, or of another body, lets nothing in.
    expect((await send(parts('forged@hill.example'), type, signed(new Uint8Array()))).status).toBe(403);
    expect((await send(parts('forged@hill.example'), type, signed(parts('other@hill.example')))).status).toBe(403);
    const json = JSON.stringify(customer('wide@hill.example'));
    const wide = new Uint8Array(Buffer.from(json, 'utf16le'));
    expect((await send(wide, 'application/json; charset=utf-16le')).status).toBe(202);
    const marked = new Uint8Array(Buffer.from(`\uFEFF${json.replace('wide', 'marked')}`));
    expect((await send(marked, 'application/json')).status).toBe(202);
  });

  it('is old, and refused, after five minutes, and with the secret of before', async () => {
    const signature = { by: 'signature' as const, header: 'X-Sig', timeHeader: 'X-At', canonical: '{time}{body}' };
    const { source, secret } = await proved(signature, 'the first secret');
    const signed = (key: string, msAgo: number) => {
      const time = String(Math.floor((Date.now() - msAgo) / 1000));
      return { 'x-at': time, 'x-sig': createHmac('sha256', key).update(`${time}${body}`).digest('hex') };
    };
    expect((await post(source.postUrl, body, signed(secret, 0))).status).toBe(202);
    expect((await post(source.postUrl, body, signed(secret, 301_000))).status).toBe(403);
    await operator.put(`/sources/${source.id}/secret`, { secret: 'the second secret' });
    await eventually(
      () => post(source.postUrl, body, signed('the second secret', 0)),
      ({ status }) => status === 202,
    );
    expect((await post(source.postUrl, body, signed(secret, 0))).status).toBe(403);
    const [sealed] = await world.rows<{ secret: string }>(
      `SELECT secret FROM source_secrets WHERE source_id = '${source.id}'`,
    );
    expect(sealed?.secret).not.toContain('second');
  });

  it('may be the secret of before while it is exchanged, until that is ended, or a day is over', async () => {
    const { source, secret } = await proved({ by: 'bearer' }, 'the-secret-of-now');
    const with_ = (key: string) => post(source.postUrl, body, { authorization: `Bearer ${key}` });
    const set = (next: string, keepsFormer: boolean) =>
      operator.put(`/sources/${source.id}/secret`, { secret: next, keepsFormer });
    await set('the-secret-of-then', true);
    await eventually(
      () => with_('the-secret-of-then'),
      ({ status }) => status === 202,
    );
    expect((await with_(secret)).status).toBe(202);
    const shape = await operator.get<ShapeView>(`/sources/${source.id}/shape`);
    expect(Date.parse(shape.formerUntil ?? '') - Date.parse(shape.secretSince ?? '')).toBe(86_400_000);

    await world.rows(`UPDATE source_secrets SET former_until = 1 WHERE source_id = '${source.id}'`);
    await eventually(
      () => with_(secret),
      ({ status }) => status === 401,
    );
    // The last but one is not let in by another exchange.
    await set('the-secret-after', true);
    expect((await operator.send('DELETE', `/sources/${source.id}/secret/former`)).status).toBe(204);
    await eventually(
      () => with_('the-secret-of-then'),
      ({ status }) => status === 401,
    );
    expect((await operator.send('DELETE', `/sources/${source.id}/secret/former`)).status).toBe(404);
    expect((await with_(secret)).status).toBe(401);
  });

  it('cannot be a bearer token with blanks, which nobody could send', async () => {
    const { source } = await proved({ by: 'bearer' }, 'a-good-token');
    const answer = await operator.send('PUT', `/sources/${source.id}/secret`, { secret: 'a token with blanks' });
    expect([answer.status, await answer.text()]).toEqual([422, expect.stringContaining('no blanks')]);
  });

  it('cannot be shown while no secret is set', async () => {
    const source = await webhook('Without', { proof: { ...PLAIN_WEBHOOK.proof, by: 'bearer' } });
    expect((await post(source.postUrl, body, { authorization: 'Bearer null' })).status).toBe(401);
    expect((await arrivals(source))[0]?.why).toBe('No secret is set here yet.');
  });
});
