import { once } from 'node:events';
import type { Server } from 'node:http';
import { createAdaptorServer } from '@hono/node-server';
import type { Hono } from 'hono';

/** Serves on loopback only. @param port 0 takes any free one */
export async function listen(app: Hono, port: number): Promise<{ port: number; close(): void }> {
  const server = createAdaptorServer({ fetch: app.fetch }) as Server;
  server.listen(port, '127.0.0.1');
  await once(server, 'listening');
  const address = server.address();
  return {
    port: typeof address === 'object' && address !== null ? address.port : port,
    close: () => {
      server.close();
      server.closeAllConnections();
    },
  };
}
