import { fork, type ChildProcess } from 'node:child_process';
import path from 'node:path';
import { bad, type Result } from '../../core/result.ts';
import type { ReadingAnswer } from './main.ts';
import type { ReadingPool } from './pool.ts';
import { BUDGETS, type ReaderName, type Readers } from './readers.ts';

/** What comes of a reading whose process ended beneath it. */
const ENDED = Symbol('the process ended');
type Settle = (result: ReadingAnswer['result'] | typeof ENDED) => void;

/**
 * Reads in a process apart (`main.ts`), which begins with the first reading, and anew after it ended. Whoever was read when it
 * ended is read once more, one after the other, so that only who ended it is told so.
 * @param root where the built programs are
 * @param onEnd told why it ended, where nobody asked it to
 */
export function createReaderApart(root: string, onEnd: (why: string) => void): ReadingPool {
  let child: ChildProcess | null = null;
  let lastId = 0;
  let isClosed = false;
  let again: Promise<unknown> = Promise.resolve();
  const waiting = new Map<number, Settle>();

  function begin(): ChildProcess {
    // It has no use for our secrets, and what V8 prints as it gives up tells nobody anything.
    const begun = fork(path.join(root, 'dist/server/reading.js'), [], {
      env: {},
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    begun.on('message', ({ id, result }: ReadingAnswer) => settle(id, result));
    const ended = (why: string) => {
      if (child !== begun) return;
      child = null;
      if (!isClosed) onEnd(why);
      for (const id of [...waiting.keys()]) settle(id, ENDED);
    };
    begun.once('exit', (code, signal) => ended(signal ?? `exit code ${code}`));
    begun.once('error', ({ message }) => ended(message));
    begun.unref();
    begun.channel?.unref();
    return begun;
  }

  function settle(id: number, result: Parameters<Settle>[0]): void {
    waiting.get(id)?.(result);
    waiting.delete(id);
    if (waiting.size === 0) child?.channel?.unref();
  }

  function ask(name: ReaderName, given: unknown): Promise<Parameters<Settle>[0]> {
    return new Promise((resolve) => {
      child ??= begin();
      const id = (lastId += 1);
      waiting.set(id, resolve);
      child.channel?.ref();
      // What cannot be sent any more is answered when its exit is told.
      child.send({ id, name, given }, () => {});
    });
  }

  async function read<Name extends ReaderName>(
    name: Name,
    given: Readers[Name]['given'],
  ): Promise<Result<Readers[Name]['made']>> {
    const first = await ask(name, given);
    if (first !== ENDED) return first;
    const { what, next } = BUDGETS[name];
    const second = again.then(() => (isClosed ? ENDED : ask(name, given)));
    again = second;
    const result = await second;
    return result === ENDED ? bad(`Something in ${what} is such that it cannot be read. ${next}`) : result;
  }

  return {
    read,
    close: () => {
      isClosed = true;
      child?.disconnect();
      return Promise.resolve();
    },
  };
}
