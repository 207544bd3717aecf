// Speeds as ratios from one run: nothing here depends on how quick the machine is.
import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { startDatabase } from './database.mjs';
import { dataDir, dist, root } from './paths.mjs';
import { runToEnd, startNode, stopAll } from './processes.mjs';
import { ownSecretKey } from './start.mjs';
import { freePort } from './ports.mjs';

export async function run(args) {
  // Many people are made once, and kept.
  const keeps = args.includes('pages');
  const folder = path.join(dataDir, keeps ? 'bench-pages' : 'bench');
  if (!keeps) rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const { url } = await startDatabase(folder);
  const { ready } = await startNode('tern-post', path.join(dist, 'standins/tern-post.js'), [], {
    TERN_POST_KEY: 'bench-key',
  });
  const taken = new Set();
  const env = {
    ...process.env,
    DATABASE_URL: url,
    IWASHI_SECRET_KEY: ownSecretKey(folder),
    IWASHI_ROOT: root,
    IWASHI_LOG: 'silent',
    IWASHI_ALLOW_PRIVATE_ADDRESSES: '1',
    PORT: String(await freePort(4700, taken)),
    SMTP_URL: 'smtp://127.0.0.1:9',
    MAIL_FROM: 'bench@pellam-ridge.example',
    BENCH_TERN_POST: `http://127.0.0.1:${ready.port}`,
    BENCH_TERN_POST_KEY: 'bench-key',
    BENCH_REFERENCE_PORT: String(await freePort(4720, taken)),
  };
  await runToEnd(process.execPath, [path.join(dist, 'server/bench.js'), ...args], { env });
  await stopAll();
}
