import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';

export const ROOT = process.env.IWASHI_ROOT ?? process.cwd();

/** A port that is free now. */
export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const address = probe.address();
  probe.close();
  return typeof address === 'object' && address ? address.port : 0;
}

/** What a program says when it is ready. */
export interface Ready {
  port?: number;
  smtpPort?: number;
  firstLink?: string | null;
}

/** Starts one of the built programs and waits until it says that it is ready. */
export async function startProgram(
  program: string,
  args: string[],
  env: Record<string, string>,
): Promise<{ child: ChildProcess; ready: Ready }> {
  const child = fork(path.join(ROOT, 'dist', program), args, {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const [ready] = (await Promise.race([
    once(child, 'message'),
    once(child, 'exit').then(([code]) => {
      throw new Error(`${program} ended with ${String(code)}`);
    }),
  ])) as [Ready];
  // Whoever is ended by a test is not told of; what ends by itself is, or a test waits for it without knowing why.
  child.once('exit', (code, signal) => {
    if (!ended.has(child)) console.error(`${program} ended by itself: ${String(code ?? signal)}`);
  });
  return { child, ready };
}

const ended = new WeakSet<ChildProcess>();

export async function endProgram(child: ChildProcess, signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = once(child, 'exit');
  ended.add(child);
  child.kill(signal);
  await gone;
}

/** What can say how things stand where something did not come: each gives a text. A limit that was met says nothing of why. */
export const standing = new Set<() => Promise<string>>();

const allStanding = async (): Promise<string> =>
  (await Promise.all([...standing].map((say) => say().catch((error: unknown) => `not known: ${String(error)}`)))).join(
    '\n',
  );

/** Asks again and again until the answer is there. @throws with how things stand, and the last answer, when it does not come */
export async function eventually<T>(
  ask: () => Promise<T>,
  isThere: (answer: T) => boolean,
  timeoutMs = 30_000,
): Promise<T> {
  const end = Date.now() + timeoutMs;
  for (;;) {
    const answer = await ask();
    if (isThere(answer)) return answer;
    if (Date.now() > end)
      throw new Error(`it did not come. ${await allStanding()}\nlast: ${JSON.stringify(answer).slice(0, 1500)}`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** The processes that a process has begun, and those that they have. */
export function processesOf(pid: number): number[] {
  const own = readdirSync('/proc')
    .map(Number)
    .filter((id) => Number.isInteger(id) && parentOf(id) === pid);
  return [...own, ...own.flatMap(processesOf)];
}

function parentOf(pid: number): number | null {
  try {
    // Behind the name, which may hold anything, stand its state and its parent (proc(5)).
    const [, parent] = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1)?.split(' ') ?? [];
    return Number(parent);
  } catch {
    return null;
  }
}
