import 'reflect-metadata';
import { createAdaptorServer } from '@hono/node-server';
import cluster from 'node:cluster';
import { once } from 'node:events';
import type { IncomingMessage, Server } from 'node:http';
import { adoptPurposes } from './commands/purposes/adoptPurposes.ts';
import { sealAddresses } from './connecting/addresses.ts';
import { readConfig } from './config.ts';
import { createContext, type Context } from './context.ts';
import { guardProcess } from './guard.ts';
import { createApp } from './http/app.ts';
import { checkKey } from './keyCheck.ts';
import { newToken, sha256 } from './security/tokens.ts';
import { countAccounts, replaceSetupLink } from './store/accounts.ts';
import { retryWhileUnavailable } from './store/database.ts';
import { migrateStore } from './store/migrating.ts';
import { publishDue } from './commands/sources/publishSource.ts';
import { startWorker } from './work/worker.ts';

const SETUP_LINK_MS = 24 * 3_600_000;
/** Submissions a minute from one network address: far above what people behind one office address send. */
const SUBMISSIONS_PER_MINUTE = 300;

/** How long work under way may take to end. */
const STOP_LIMIT_MS = 30_000;

/** Whoever has to be replaced ends by itself after this time, replaced or not. */
const REPLACED_LIMIT_MS = 20_000;

/** For so long a database that is away is waited for at the start. */
const DATABASE_LIMIT_MS = 60_000;

type Role = 'serve' | 'work';

/** Starts the roles asked for, and ends them in order when told to. */
async function main(roles: Role[]): Promise<void> {
  const config = readConfig(process.env);
  const context = createContext(config);
  // Else a cluster ends whoever lost it at once, with whatever is under way.
  if (cluster.worker) cluster.worker.exitedAfterDisconnect = true;
  await retryWhileUnavailable(() => migrateStore(context.store, config.root), DATABASE_LIMIT_MS);
  await checkKey(context);
  await sealAddresses(context);
  await adoptPurposes(context);
  const worker = roles.includes('work') ? startWorker(context, [publishDue]) : null;
  const server = roles.includes('serve') ? await listen(context) : null;
  const firstLink = server ? await linkForFirstAccount(context) : null;

  let stopping = false;
  const stop = async (code: number) => {
    if (stopping) return;
    stopping = true;
    // Whatever does not end by itself is taken over by another worker when its lease runs out.
    setTimeout(() => process.exit(code || 1), STOP_LIMIT_MS).unref();
    if (server) await closeServer(server);
    await worker?.stop();
    await context.close();
    process.exit(code);
  };
  guardProcess(context.log, (cause) => {
    // Whoever started us starts another first, and then tells us to end; alone, we end and say so by our code.
    if (!process.send) return void stop(1);
    process.send({ replace: cause });
    setTimeout(() => void stop(1), REPLACED_LIMIT_MS).unref();
  });
  process.on('SIGTERM', () => void stop(0));
  process.on('SIGINT', () => void stop(0));
  // The command that started us is gone: nobody else would end us.
  process.on('disconnect', () => void stop(0));
  process.on('message', (message) => {
    if (isGivenUp(message)) context.givenUp.set(message.givenUp.role, message.givenUp.cause);
  });
  process.send?.({ ready: true, firstLink });
}

/** What the command that started us says of another part that did not stay up. */
const isGivenUp = (message: unknown): message is { givenUp: { role: string; cause: string } } =>
  typeof message === 'object' && message !== null && 'givenUp' in message;

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
/** So often it is looked how far a body is. */
const LOOK_MS = 2_000;

/** Ends requests whose body comes so slowly that it only keeps a connection open. */
function hurry(request: IncomingMessage): void {
  if (Number(request.headers['content-length'] ?? 0) === 0 && !request.headers['transfer-encoding']) return;
  const { socket } = request;
  const [began, from] = [Date.now(), socket.bytesRead];
  // By what came, not by what is claimed: whoever claims much could keep a connection for as long.
  const timer = setInterval(() => {
    const wanted = (Date.now() - began - BODY_MS) * LEAST_BYTES_PER_MS;
    // What nobody reads on our side is no fault of whoever sends it.
    if (socket.bytesRead - from < wanted && !request.isPaused() && socket.readableFlowing !== false) request.destroy();
  }, LOOK_MS);
  const stop = () => clearInterval(timer);
  request.once('close', stop).once('end', stop);
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
