import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { Agent, request } from 'undici';
import { compare, perSecond, type Comparison } from './compare.ts';
import { benchSetting, visitorEntries } from './setting.ts';

const COUNT = 1_500;
const AT_ONCE = 24;
const ROUNDS = 5;

/** Form posts accepted, each server in a process of its own, against the same database. No worker runs meanwhile. */
export async function benchAccept(): Promise<Comparison> {
  const { context } = await benchSetting();
  const { root, port } = context.config;
  const referencePort = Number(process.env.BENCH_REFERENCE_PORT);
  const start = async (file: string, args: string[]) => {
    const child = fork(path.join(root, 'dist/server', file), args, {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, IWASHI_SUBMISSIONS_PER_MINUTE: '100000000' },
    });
    await once(child, 'message');
    return child;
  };
  const children = [await start('main.js', ['serve']), await start('bench-reference.js', [])];
  const dispatcher = new Agent({ connections: AT_ONCE });
  const post = (url: string, status: number) => async () => {
    const body = new URLSearchParams(visitorEntries()).toString();
    const response = await request(url, {
      method: 'POST',
      dispatcher,
      body,
      headers: { 'content-type': 'application/x-www-form-urlencoded', accept: 'text/html' },
    });
    await response.body.dump();
    if (response.statusCode !== status) throw new Error(`${url} answered ${response.statusCode}`);
  };
  const measure = (url: string, status: number) => () => perSecond(COUNT, AT_ONCE, post(url, status));
  const iwashi = measure(`http://127.0.0.1:${port}/in/bench`, 303);
  const reference = measure(`http://127.0.0.1:${referencePort}/`, 202);
  await Promise.all([iwashi(), reference()]);
  const comparison = await compare('a second', ROUNDS, { iwashi, reference });
  await dispatcher.close();
  children.forEach((child) => child.kill('SIGTERM'));
  await context.store.pool.query("DELETE FROM submissions WHERE state = 'received'");
  return comparison;
}
