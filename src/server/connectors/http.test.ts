import { once } from 'node:events';
import { createServer, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createSend, type OutgoingRequest } from './http.ts';

const LONG = 'x'.repeat(100_000);
let server: Server;
const asked: string[] = [];

/** How a server may answer, by path. */
const MANNERS: Record<string, (response: ServerResponse) => void> = {
  '/hint': (response) => {
    response.writeEarlyHints({ link: '</style.css>; rel=preload' });
    response.writeHead(201, { 'content-type': 'application/json', 'x-several': ['a', 'b'] }).end('{"made":true}');
  },
  '/mark': (response) => response.end('\uFEFF{"é":"ü"}'),
  '/halves': (response) => {
    const bytes = Buffer.from('{"é":"ü"}');
    response.write(bytes.subarray(0, 3));
    setTimeout(() => response.end(bytes.subarray(3)), 20);
  },
  '/echo': (response) =>
    response
      .setHeader('location', '/?key=the-secret-key')
      .setHeader('content-type', 'application/json')
      .end(
        JSON.stringify({
          said: 'the-secret-key',
          deep: [
            {
              password: 'lantern-hill',
              'the-token-in-it': `Basic ${Buffer.from('mara:lantern-hill').toString('base64')}`,
            },
          ],
        }),
      ),
  '/nothing': (response) => response.writeHead(204).end(),
  '/page': (response) => response.setHeader('content-type', 'text/html').end('<h1>Hello</h1>'),
  '/plain': (response) => response.setHeader('content-type', 'text/plain').end('the front desk'),
  '/moved': (response) => response.writeHead(302, { location: '/plain' }).end(),
  '/endless': (response) => {
    const more = () => response.writable && response.write('x'.repeat(100_000), () => setImmediate(more));
    more();
  },
  '/trickle': (response) => {
    const timer = setInterval(() => response.write(' '), 30);
    response.on('close', () => clearInterval(timer));
  },
  '/silence': () => {},
  '/half': (response) => response.writeHead(200, { 'content-length': 100 }).write('{"half":', () => response.destroy()),
};

let url = '';
const send = createSend(true, () => 0);

beforeAll(async () => {
  server = createServer((request, response) => {
    asked.push(request.url ?? '');
    const manner = MANNERS[(request.url ?? '').split('?')[0] ?? ''];
    if (manner) return manner(response);
    response.setHeader('content-type', 'application/json');
    if (request.url === '/type') {
      const times = request.rawHeaders.filter((name) => name.toLowerCase() === 'content-type').length;
      return void response.end(JSON.stringify({ type: request.headers['content-type'], times }));
    }
    response.end(JSON.stringify({ long: LONG }));
  }).listen(0, '127.0.0.1');
  await once(server, 'listening');
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
});
afterAll(async () => {
  await send.close();
  server.close();
});

const outgoing = (more: Partial<OutgoingRequest> = {}): OutgoingRequest => ({
  method: 'POST',
  url,
  headers: {},
  secret: { headers: [], query: [], path: false },
  pool: 'p',
  atOnce: 1,
  ...more,
});

it('reads a long answer whole, and keeps only its beginning', async () => {
  const { answer, exchange } = await send(
    outgoing({ body: { text: JSON.stringify({ LONG }), type: 'application/json' } }),
  );
  expect(answer.kind === 'answered' && answer.body).toEqual({ long: LONG });
  for (const kept of [exchange.responseBody, exchange.requestBody]) {
    expect(kept).toMatch(/… and \d+ more$/);
    expect(String(kept).length).toBeLessThan(70_000);
  }
});

it('sends the media type that a profile says, however it writes its name', async () => {
  const { answer } = await send(
    outgoing({
      url: `${url}type`,
      headers: { 'Content-Type': 'application/vnd.api+json' },
      body: { text: '{}', type: 'application/json' },
    }),
  );
  expect(answer.kind === 'answered' && answer.body).toEqual({ type: 'application/vnd.api+json', times: 1 });
});

it('keeps no secret that a service says back, in its body or in a header', async () => {
  const { exchange } = await send({
    ...outgoing(),
    headers: {
      authorization: `Basic ${Buffer.from('mara:lantern-hill').toString('base64')}`,
      'x-key': 'the-secret-key',
    },
    secret: { headers: ['authorization', 'X-Key'], query: ['token'], path: false },
    url: `${url}echo?token=the-token-in-it`,
  });
  const kept = JSON.stringify(exchange);
  for (const secret of ['the-secret-key', 'lantern-hill', 'the-token-in-it', 'bWFyYT'])
    expect(kept).not.toContain(secret);
  expect(exchange.responseBody).toMatchObject({ said: '••••••-key' });
});

it('keeps nothing at all of bodies that hold secrets', async () => {
  const { exchange } = await send(
    outgoing({
      secret: { headers: [], query: [], path: false, bodies: true },
      body: { text: 'a', type: 'text/plain' },
    }),
  );
  expect([exchange.requestBody, exchange.responseBody]).toEqual(Array(2).fill('not kept: it holds secrets'));
});

describe('an answer', () => {
  const get = async (path: string) => (await send(outgoing({ method: 'GET', url: new URL(path, url).href }))).answer;
  it.each([
    ['/hint', { status: 201, body: { made: true }, headers: { 'x-several': 'a,b' } }],
    ['/mark', { status: 200, body: { é: 'ü' } }],
    ['/halves', { status: 200, body: { é: 'ü' } }],
    ['/nothing', { status: 204, readable: true }],
    ['/page', { status: 200, readable: false, body: '<h1>Hello</h1>' }],
    ['/plain', { status: 200, readable: true, body: 'the front desk' }],
    ['/moved', { status: 302, headers: { location: '/plain' } }],
  ])('like that of %s is read', async (path, expected) =>
    expect(await get(path)).toMatchObject({ kind: 'answered', ...expected }),
  );

  it('that leads elsewhere is not followed', () => expect(asked.filter((path) => path === '/plain')).toHaveLength(1));

  it.each([
    ['/endless', 'too large'],
    ['/half', 'dropped'],
  ])('like that of %s is none: %s', async (path, fault) =>
    expect(await get(path)).toMatchObject({ kind: 'unanswered', fault }),
  );

  it('nobody gives is none either', async () => {
    const { answer } = await send(outgoing({ url: 'http://127.0.0.1:9/' }));
    expect(answer).toEqual({ kind: 'unanswered', fault: 'unreachable', code: 'ECONNREFUSED' });
  });

  it('is not waited for when a header cannot be sent', async () => {
    const { answer } = await send(outgoing({ headers: { 'x-key': 'a\nb' } }));
    expect(answer).toMatchObject({ kind: 'unanswered', fault: 'dropped' });
  });
});

describe('time', () => {
  const hasty = createSend(true, () => 0, 150);
  afterAll(() => hasty.close());
  const from = (path: string, pool: string) =>
    hasty(outgoing({ method: 'GET', url: new URL(path, url).href, pool })).then(({ answer }) => answer);

  it.each(['/silence', '/trickle'])('ends what takes too long in all, as %s does', async (path) =>
    expect(await from(path, path)).toMatchObject({ kind: 'unanswered', fault: 'time-out' }),
  );

  it('ends what waits for its turn too, and then it is not sent any more', async () => {
    const before = asked.length;
    const [first, second] = await Promise.all([from('/silence', 'turns'), from('/plain', 'turns')]);
    expect([first, second]).toMatchObject(Array(2).fill({ kind: 'unanswered', fault: 'time-out' }));
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(asked.slice(before)).toEqual(['/silence']);
  });
});
