import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { Agent, request } from 'undici';
import type { Context } from '../context.ts';
import { compare, perSecond, type Comparison } from './compare.ts';

const AT_ONCE = 24;
const ROUNDS = 5;

/** What is posted to a server, and how it answers when it took it. */
export interface Posted {
  path: string;
  status: number;
  /** A body of its own each time. */
  body: () => string;
  headers: Record<string, string> | ((body: string) => Record<string, string>);
}

export interface Servers {
  iwashi: string;
  reference: string;
  /** Of the process of our server. */
  pid: number;
  /** Ends both, and waits until they are gone. */
  stop: () => Promise<void>;
}

/** Starts our server, and a bare handler that stores each body by one INSERT: each in a process of its own, against the same database. */
export async function startServers({ config: { root, port } }: Context): Promise<Servers> {
  const start = async (file: string, args: string[]) => {
    const child = fork(path.join(root, 'dist/server', file), args, {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, IWASHI_SUBMISSIONS_PER_MINUTE: '100000000', IWASHI_TRUSTED_PROXIES: '1' },
    });
    await once(child, 'message');
    return child;
  };
  const children = [await start('main.js', ['serve']), await start('bench-reference.js', [])];
  return {
    iwashi: `http://127.0.0.1:${port}`,
    reference: `http://127.0.0.1:${process.env.BENCH_REFERENCE_PORT ?? ''}/`,
    pid: children[0]?.pid ?? 0,
    stop: async () => {
      await Promise.all(
        children.map((child) => {
          child.kill('SIGTERM');
          return once(child, 'exit');
        }),
      );
    },
  };
}

/** How many requests our server takes, against the bare handler. */
export async function besideBare(context: Context, count: number, posted: Posted): Promise<Comparison> {
  const servers = await startServers(context);
  const dispatcher = new Agent({ connections: AT_ONCE });
  const measure = (url: string, status: number) => () =>
    perSecond(count, AT_ONCE, async () => {
      const body = posted.body();
      const headers = typeof posted.headers === 'function' ? posted.headers(body) : posted.headers;
      const response = await request(url, { method: 'POST', dispatcher, body, headers });
      await response.body.dump();
      if (response.statusCode !== status) throw new Error(`${url} answered ${response.statusCode}`);
    });
  const iwashi = measure(`${servers.iwashi}${posted.path}`, posted.status);
  const reference = measure(servers.reference, 202);
  await Promise.all([iwashi(), reference()]);
  const comparison = await compare('a second', ROUNDS, { iwashi, reference });
  await dispatcher.close();
  await servers.stop();
  return comparison;
}
