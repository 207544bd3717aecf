import path from 'node:path';
import { createReadingPool } from './pool.ts';
import type { ReaderName, Readers } from './readers.ts';

/** What the process apart is asked to read, and what it answers. */
export type ReadingRequest = {
  [Name in ReaderName]: { id: number; name: Name; given: Readers[Name]['given'] };
}[ReaderName];
export interface ReadingAnswer {
  id: number;
  result: Awaited<ReturnType<ReturnType<typeof createReadingPool>['read']>>;
}

/**
 * The process in which everything is read that somebody else made. What ends a thread can end its whole process (V8 gives up
 * where a pattern is compiled on a full stack), and then this one ends, and none that answers anybody.
 */
const pool = createReadingPool(path.resolve(import.meta.dirname, '../..'));
process.on('message', ({ id, name, given }: ReadingRequest) => {
  void pool.read(name, given).then((result) => process.send?.({ id, result } satisfies ReadingAnswer));
});
// Whoever asks is gone: nobody waits for what is read here any more.
process.on('disconnect', () => process.exit(0));
// Ctrl-C is for whoever asks, who may have something to finish.
process.on('SIGINT', () => {});
