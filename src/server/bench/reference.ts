import { once } from 'node:events';
import type { Server } from 'node:http';
import { createAdaptorServer } from '@hono/node-server';
import { Hono } from 'hono';
import { uuidv7 } from 'uuidv7';
import { openStore } from '../store/database.ts';

/** The least that a handler can do and still be durable: one INSERT into the same database. */
const store = openStore(process.env.DATABASE_URL ?? '');
await store.pool.query(
  'CREATE TABLE IF NOT EXISTS bench_reference (id CHAR(36) PRIMARY KEY, body TEXT NOT NULL, at BIGINT NOT NULL)',
);
const app = new Hono();
app.post('/', async (c) => {
  await store.pool.execute('INSERT INTO bench_reference (id, body, at) VALUES (?, ?, ?)', [
    uuidv7(),
    await c.req.text(),
    Date.now(),
  ]);
  return c.body(null, 202);
});
const server = createAdaptorServer({ fetch: app.fetch }) as Server;
server.listen(Number(process.env.BENCH_REFERENCE_PORT), '127.0.0.1');
await once(server, 'listening');
process.send?.({ ready: true });
for (const word of ['SIGTERM', 'disconnect']) process.once(word, () => process.exit(0));
