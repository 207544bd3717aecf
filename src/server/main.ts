import 'reflect-metadata';
import { createAdaptorServer } from '@hono/node-server';
import { once } from 'node:events';
import type { IncomingMessage, Server } from 'node:http';
import { adoptPurposes } from './commands/purposes/adoptPurposes.ts';
import { sealAddresses } from './connecting/addresses.ts';
import { readConfig } from './config.ts';
import { createContext, type Context } from './context.ts';
import { createApp } from './http/app.ts';
import { checkKey } from './keyCheck.ts';
import { newToken, sha256 } from './security/tokens.ts';
import { countAccounts, replaceSetupLink } from './store/accounts.ts';
import { migrateStore } from './store/migrating.ts';
import { publishDue } from './commands/sources/publishSource.ts';
import { startWorker } from './work/worker.ts';

const SETUP_LINK_MS = 24 * 3_600_000;
/** Submissions a minute from one network address: far above what people behind one office address send. */
const SUBMISSIONS_PER_MINUTE = 300;

/** How long work under way may take to end. */
const STOP_LIMIT_MS = 30_000;

type Role = 'serve' | 'work';

/** Starts the roles asked for, and ends them in order when told to. */
async function main(roles: Role[]): Promise<void> {
  const config = readConfig(process.env);
  const context = createContext(config);
  await migrateStore(context.store, config.root);
  await checkKey(context);
  await sealAddresses(context);
  await adoptPurposes(context);
  const worker = roles.includes('work') ? startWorker(context, [publishDue]) : null;
  const server = roles.includes('serve') ? await listen(context) : null;
  const firstLink = server ? await linkForFirstAccount(context) : null;

  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    // Whatever does not end by itself is taken over by another worker when its lease runs out.
    setTimeout(() => process.exit(1), STOP_LIMIT_MS).unref();
    if (server) await closeServer(server);
    await worker?.stop();
    await context.close();
    process.exit(0);
  };
  process.on('SIGTERM', () => void stop());
  process.on('SIGINT', () => void stop());
  // The command that started us is gone: nobody else would end us.
  process.on('disconnect', () => void stop());
  process.send?.({ ready: true, firstLink });
}

async function listen(context: Context): Promise<Server> {
  const { host, port } = context.config;
  const perMinute = Number(process.env.IWASHI_SUBMISSIONS_PER_MINUTE ?? SUBMISSIONS_PER_MINUTE);
  const server = createAdaptorServer({ fetch: createApp(context, perMinute).fetch }) as Server;
  server.headersTimeout = HEADERS_MS;
  server.requestTimeout = 0;
  // Who has sent a whole request and closed their half may still read the answer (RFC 9112, 9.6). Node has no other name for it.
  Object.assign(server, { httpAllowHalfOpen: true });
  server.on('request', hurry);
  server.listen(port, host);
  await once(server, 'listening');
  return server;
}

/** Whoever sends has so long for the head of a request; for its body, so long and what this pace takes besides. */
const HEADERS_MS = 15_000;
const BODY_MS = 10_000;
const LEAST_BYTES_PER_MS = 32;
/** The length of a body that does not say how long it is. */
const UNTOLD_BYTES = 4 * 1024 * 1024;

/** Ends requests whose body comes so slowly that it only keeps a connection open. */
function hurry(request: IncomingMessage): void {
  const length = Number(request.headers['content-length'] ?? (request.headers['transfer-encoding'] ? UNTOLD_BYTES : 0));
  if (length === 0) return;
  const timer = setTimeout(() => request.destroy(), BODY_MS + length / LEAST_BYTES_PER_MS);
  request.once('close', () => clearTimeout(timer)).once('end', () => clearTimeout(timer));
}

async function closeServer(server: Server): Promise<void> {
  const closed = once(server, 'close');
  server.close();
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 5_000).unref();
  await closed;
}

/** A one-time link that makes the first account; null when there is one already, or a demo brings its own. */
async function linkForFirstAccount({ store, config, now }: Context): Promise<string | null> {
  if ((await countAccounts(store.db)) > 0 || config.demoSignIn) return null;
  const token = newToken();
  await replaceSetupLink(store.db, sha256(token), now() + SETUP_LINK_MS);
  // After the #, so that it reaches no log of a server on the way.
  return `${config.publicUrl}/first-account#${token}`;
}

const asked = process.argv.slice(2).filter((role): role is Role => role === 'serve' || role === 'work');
main(asked.length > 0 ? asked : ['serve', 'work']).catch((error: unknown) => {
  console.error(`iwashi: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
});
