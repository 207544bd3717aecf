import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createSend, type OutgoingRequest } from './http.ts';

const LONG = 'x'.repeat(100_000);
let server: Server;
let url = '';
const send = createSend(true, () => 0);

beforeAll(async () => {
  server = createServer((_, response) => {
    response.setHeader('content-type', 'application/json');
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

it('keeps nothing at all of bodies that hold secrets', async () => {
  const { exchange } = await send(
    outgoing({
      secret: { headers: [], query: [], path: false, bodies: true },
      body: { text: 'a', type: 'text/plain' },
    }),
  );
  expect([exchange.requestBody, exchange.responseBody]).toEqual(Array(2).fill('not kept: it holds secrets'));
});
