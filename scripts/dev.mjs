// The edit loop: the demo, whose server and worker are built and started again at every change, and whose interface follows by itself.
import { once } from 'node:events';
import { existsSync, mkdirSync } from 'node:fs';
import { createServer as createHttpServer } from 'node:http';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { watch } from 'rolldown';
import { createServer } from 'vite';
import { embeds, programs } from './build.mjs';
import { startDemo } from './demo.mjs';
import { dataDir, ExpectedError, root } from './paths.mjs';
import { freePort } from './ports.mjs';
import { onStop } from './processes.mjs';

/** What the server answers; everything else is the interface's. */
const OF_THE_SERVER = ['/api', '/in', '/place', '/confirm', '/notices', '/files', '/healthz', '/readyz', '/metrics'];

export async function run(args) {
  const port = readPort(args);
  const folder = path.join(dataDir, 'demo');
  mkdirSync(folder, { recursive: true });
  if (existsSync(path.join(folder, 'database.json'))) console.log('(another command may be using the demo data)');
  const demo = await startDemo(folder, port, { isOne: true });
  const { app, signIn } = demo.endpoints;

  // Vite gets a server of ours: with one of its own it ends this process by itself, before the database has ended.
  const http = createHttpServer();
  const web = await createServer({
    root,
    logLevel: 'warn',
    server: {
      middlewareMode: true,
      hmr: { server: http },
      proxy: Object.fromEntries(OF_THE_SERVER.map((start) => [start, { target: app, changeOrigin: false }])),
    },
  });
  const webPort = await freePort(port + 20, new Set());
  http.on('request', web.middlewares).listen(webPort, '127.0.0.1');
  await once(http, 'listening');
  onStop(async () => {
    await web.close();
    http.closeAllConnections();
    http.close();
  });

  let changedAt = 0;
  const watcher = watch([programs, ...embeds].map((one) => ({ ...one, watch: { buildDelay: 50, skipWrite: false } })));
  onStop(() => watcher.close());
  watcher.on('change', () => (changedAt = Date.now()));
  watcher.on('event', async (event) => {
    if (event.code === 'ERROR') console.error(`iwashi dev: ${event.error?.message ?? 'it cannot be built'}`);
    if (event.code === 'BUNDLE_END') await event.result.close();
    if (event.code !== 'END' || changedAt === 0) return;
    const builtAt = Date.now();
    await demo.server.again();
    const seconds = (ms) => (ms / 1000).toFixed(1);
    console.log(
      `iwashi dev: built in ${seconds(builtAt - changedAt)} s, started again in ${seconds(Date.now() - builtAt)} s`,
    );
  });

  console.log(`
  The interface, as you change it:  http://127.0.0.1:${webPort}/
  As it was built last:             ${app}
  Sign in:                          ${signIn.email} / ${signIn.password}

  A change below src/ is built and started within two seconds. Ctrl-C ends all of it.
`);
}

function readPort(args) {
  try {
    const { values } = parseArgs({ args, options: { port: { type: 'string', default: '4680' } } });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65_000) throw new Error(`"${values.port}" is no port`);
    return port;
  } catch (error) {
    throw new ExpectedError(`${error.message}\nUsage: ./iwashi dev [--port N]`);
  }
}
