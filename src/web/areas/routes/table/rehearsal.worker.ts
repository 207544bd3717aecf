import { judgeAll, type Judging, type KnownSample, type SampleRow } from '../../../../core/plan/index.ts';

/** What the worker is told: the samples, once; and what they are judged with, at every edit. */
export type RehearsalRequest = { samples: KnownSample[] } | { round: number; judging: Judging };

/** What it answers: some rows of a round, and whether they are the last. */
export interface RehearsedRows {
  round: number;
  rows: SampleRow[];
  isLast: boolean;
}

let samples: KnownSample[] = [];
let present = 0;

self.onmessage = ({ data }: MessageEvent<RehearsalRequest>) => {
  if ('samples' in data) {
    samples = data.samples;
    return;
  }
  const { round, judging } = data;
  present = round;
  void judgeAll(samples, judging, {
    post: (rows, isLast) => self.postMessage({ round, rows, isLast } satisfies RehearsedRows),
    pause: () => new Promise((resolve) => setTimeout(resolve)),
    isOver: () => round !== present,
  });
};
