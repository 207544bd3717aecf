import { afterEach, expect, it } from 'vitest';
import { guardProcess } from './guard.ts';

const ends: (() => void)[] = [];
afterEach(() => ends.splice(0).forEach((end) => end()));

function guarded() {
  const logged: unknown[] = [];
  const causes: string[] = [];
  const others = ['uncaughtException', 'unhandledRejection'].map((name) => [name, process.listeners(name as never)]);
  for (const [name] of others) process.removeAllListeners(name as string);
  let now = 0;
  const log = (what: object) => {
    if ('err' in what) logged.push(what);
  };
  const stop = guardProcess(
    { error: log, fatal: log },
    (cause) => causes.push(cause),
    () => now,
  );
  ends.push(() => {
    stop();
    for (const [name, listeners] of others)
      for (const listener of listeners as never[]) process.on(name as string, listener);
  });
  return { logged, causes, wait: (milliseconds: number) => (now += milliseconds) };
}

it('has the process replaced, once, after an exception that nobody caught, and names no more than its kind', () => {
  const { logged, causes } = guarded();
  process.emit('uncaughtException', Object.assign(new TypeError('mara@hill.example'), { code: 'E_X' }));
  process.emit('uncaughtException', new Error('again'));
  expect(logged).toHaveLength(2);
  expect(causes).toEqual(['TypeError E_X']);
});

it('goes on after a failure that nobody waited for, but not after many within a minute', () => {
  const { logged, causes, wait } = guarded();
  const fail = () => process.emit('unhandledRejection', new RangeError('x'), Promise.resolve());
  for (let at = 0; at < 40; at += 1) {
    fail();
    wait(4_000);
  }
  expect([logged.length, causes]).toEqual([40, []]);
  for (let at = 0; at < 21; at += 1) fail();
  expect(causes).toEqual(['RangeError']);
});
