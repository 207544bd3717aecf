import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterEach, expect, it } from 'vitest';
import { endProgram, eventually, freePort, ROOT } from '../world/processes.ts';

/** Answers with its process id; says that it has to be replaced, or ends at once, where it is asked to. */
const SERVER = `
import { createServer } from 'node:http';
import { existsSync } from 'node:fs';
if (existsSync(process.env.BROKEN)) process.exit(3);
const server = createServer((request, response) => {
  response.setHeader('connection', 'close');
  response.end(String(process.pid));
  if (request.url === '/replace') process.send({ replace: 'TypeError' });
});
process.on('SIGTERM', () => server.close(() => process.exit(0)));
server.listen(Number(process.env.PORT), '127.0.0.1', () => process.send({ ready: true }));
`;
const starter = (file: string) => `
import { startNode, stopAllOnExit } from ${JSON.stringify(pathToFileURL(path.join(ROOT, 'scripts/processes.mjs')).href)};
stopAllOnExit();
await startNode('the server', ${JSON.stringify(file)}, [], {}, { restart: true });
console.log('started');
`;

const until = (isSo: () => boolean | Promise<boolean>) => eventually(async () => isSo(), Boolean);

const ends: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

/** Starts the small server as the application's own are started. */
async function started() {
  const folder = await mkdtemp(path.join(tmpdir(), 'iwashi-replacing-'));
  ends.push(() => rm(folder, { recursive: true }));
  const [server, start, broken] = ['server.mjs', 'start.mjs', 'broken'].map((name) => path.join(folder, name)) as [
    string,
    string,
    string,
  ];
  await writeFile(server, SERVER);
  await writeFile(start, starter(server));
  const port = await freePort();
  const printed: string[] = [];
  const child = spawn(process.execPath, [start], { env: { ...process.env, PORT: String(port), BROKEN: broken } });
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => printed.push(String(part)));
  ends.push(() => endProgram(child));
  await until(() => printed.join('').includes('started'));
  const ask = async (page = '/') => (await fetch(`http://127.0.0.1:${port}${page}`)).text();
  return {
    ask,
    printed: () => printed.join(''),
    breakIt: () => writeFile(broken, ''),
    mendIt: () => rm(broken),
    child,
  };
}

it('replaces a server that asks for it by another one, and nobody finds its address closed meanwhile', async () => {
  const { ask, printed } = await started();
  const before = await ask('/replace');
  const answers: string[] = [];
  // Each of them is answered: one that is refused rejects, and fails this test.
  await until(async () => {
    answers.push(await ask());
    return answers.slice(-20).every((pid) => pid !== before) && answers.length > 20;
  });
  expect(new Set(answers.slice(-20)).size).toBe(1);
  expect(printed()).toContain('the server has to be replaced (TypeError)');
});

it('lets one go on that has to be replaced, as long as the other one does not become ready', async () => {
  const { ask, printed, breakIt, mendIt } = await started();
  await breakIt();
  const before = await ask('/replace');
  await until(() => printed().includes('ended before it was ready'));
  expect(await ask()).toBe(before);
  await mendIt();
  await until(() => printed().includes('starting it again'));
  await until(async () => (await ask()) !== before);
});

it('gives up a server that ends again and again, says why, and ends', async () => {
  const { ask, printed, breakIt, child } = await started();
  await breakIt();
  process.kill(Number(await ask()), 'SIGKILL');
  const [code] = (await once(child, 'exit')) as [number];
  expect(code).toBe(1);
  expect(printed()).toMatch(
    /does not stay up and is not started again: it ended \d times within a minute, last with: exit 3/,
  );
}, 60_000);
