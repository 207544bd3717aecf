import { judgeSample, type Judging, type KnownSample, type SampleRow } from '../../../../core/plan/index.ts';

/** What the worker is told: the samples, once; and what they are judged with, at every edit. */
export type Told = { samples: KnownSample[] } | { round: number; judging: Judging };

/** What it answers: some rows of a round, and whether they are the last. */
export interface Judged {
  round: number;
  rows: SampleRow[];
  isLast: boolean;
}

/** So many at once, that the first are there soon, and that a new edit is heard of between. */
const AT_ONCE = 20;

let samples: KnownSample[] = [];
let present = 0;

self.onmessage = ({ data }: MessageEvent<Told>) => {
  if ('samples' in data) samples = data.samples;
  else {
    present = data.round;
    void judgeAll(data.round, data.judging);
  }
};

async function judgeAll(round: number, judging: Judging): Promise<void> {
  for (let at = 0; at === 0 || at < samples.length; at += AT_ONCE) {
    // A later edit has begun a round of its own.
    if (round !== present) return;
    const rows = samples.slice(at, at + AT_ONCE).map((sample) => judgeSample(sample, judging));
    self.postMessage({ round, rows, isLast: at + AT_ONCE >= samples.length } satisfies Judged);
    await new Promise((resolve) => setTimeout(resolve));
  }
}
