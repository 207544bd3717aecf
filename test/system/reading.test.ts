import { fork } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { createReaderApart } from '../../src/server/reading/apart.ts';
import { createReadingPool, type ReadingPool } from '../../src/server/reading/pool.ts';
import { BUDGETS } from '../../src/server/reading/readers.ts';
import { describeTernPost } from '../../src/standins/tern-post/openapi.ts';
import { hostileHtml } from '../world/hostile.ts';
import { eventually, processesOf, ROOT } from '../world/processes.ts';

const text = JSON.stringify(describeTernPost('http://127.0.0.1'));
const description = { text, choice: null };

it('reading a description ends when it takes too long, and holds up nobody meanwhile', async () => {
  const hurried = { ...BUDGETS, description: { ...BUDGETS.description, milliseconds: 1 } };
  const pools = [createReadingPool(ROOT, hurried), createReadingPool(ROOT)] as const;
  const reads = pools.map((pool) => pool.read('description', description));
  expect(await reads[0]).toMatchObject({ ok: false, issue: expect.stringContaining('longer than 0.001 s') as string });
  expect(await reads[1]).toMatchObject({ ok: true, value: { ok: true } });
  await Promise.all(pools.map((pool) => pool.close()));
});

let reader: ReadingPool;
let ends: string[];
beforeEach(() => {
  ends = [];
  reader = createReaderApart(ROOT, (why) => ends.push(why));
});
afterEach(() => reader.close());

const readingProcesses = () =>
  processesOf(process.pid).filter((pid) => {
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('dist/server/reading.js');
    } catch {
      return false;
    }
  });
const endAll = () => readingProcesses().forEach((pid) => process.kill(pid, 'SIGKILL'));

it('whoever was read as the process ended is read once more', async () => {
  const reads = [reader.read('description', description), reader.read('curl', { line: 'curl https://hill.example/a' })];
  await eventually(
    () => Promise.resolve(readingProcesses()),
    (found) => found.length === 1,
  );
  endAll();
  expect(await reads[0]).toMatchObject({ ok: true, value: { ok: true } });
  expect(await reads[1]).toMatchObject({ ok: true });
  expect(ends).toEqual(['SIGKILL']);
});

it('what ends it each time is said to be unreadable, and whatever comes then is read', async () => {
  const killing = setInterval(endAll, 10);
  const result = await reader.read('description', description);
  clearInterval(killing);
  expect(result).toEqual({
    ok: false,
    issue: 'Something in this document is such that it cannot be read. Give one with fewer operations.',
  });
  expect(ends).toEqual(['SIGKILL', 'SIGKILL']);
  expect(await reader.read('description', description)).toMatchObject({ ok: true, value: { ok: true } });
});

it('it ends with whoever asked it, whatever it is reading', async () => {
  const child = fork(path.join(ROOT, 'dist/server/reading.js'), [], { serialization: 'advanced' });
  for (const { body } of hostileHtml()) child.send({ id: 1, name: 'forms', given: { html: String(body) } });
  await once(child, 'message');
  const gone = once(child, 'exit');
  child.disconnect();
  expect((await gone)[0]).toBe(0);
});
