import { good } from '../../src/core/result.ts';
import type { ReadingPool } from '../../src/server/reading/pool.ts';
import type { Readers } from '../../src/server/reading/readers.ts';
import read, { type Asked } from '../../src/server/reading/thread.ts';

/** Reads as the threads of the pool do, in the thread of a test. */
export const readHere: ReadingPool = {
  read: async (name, given) => good((await read({ name, given } as Asked)) as Readers[typeof name]['made']),
  close: () => Promise.resolve(),
};
