import { parentPort } from 'node:worker_threads';
import { judgeAll, type Judging, type KnownSample } from '../../core/plan/index.ts';

/** The worker of the interface, as a thread: the samples once, then what they are judged with at every edit. */
let samples: KnownSample[] = [];
let present = 0;

parentPort?.on('message', (told: { samples: KnownSample[] } | { round: number; judging: Judging }) => {
  if ('samples' in told) {
    samples = told.samples;
    return;
  }
  const { round, judging } = told;
  present = round;
  void judgeAll(samples, judging, {
    post: (rows, isLast) => parentPort?.postMessage({ round, rows, isLast }),
    pause: () => new Promise((resolve) => setImmediate(resolve)),
    isOver: () => round !== present,
  });
});
