/** A speed of ours against that of a reference in the same run, since the machine's own speed says nothing. */
export interface Comparison {
  ratio: number;
  iwashi: number;
  reference: number;
  unit: string;
}

const median = (figures: number[]): number => [...figures].sort((a, b) => a - b)[Math.floor(figures.length / 2)] ?? 0;

/**
 * Measures both in turns, so that a noisy moment hits both, and compares the medians.
 * @param measure gives a speed: how many a second
 */
export async function compare(
  unit: string,
  rounds: number,
  measure: { iwashi: () => Promise<number>; reference: () => Promise<number> },
): Promise<Comparison> {
  const speeds = { iwashi: [] as number[], reference: [] as number[] };
  for (let round = 0; round < rounds; round += 1) {
    speeds.reference.push(await measure.reference());
    speeds.iwashi.push(await measure.iwashi());
  }
  const iwashi = median(speeds.iwashi);
  const reference = median(speeds.reference);
  return { ratio: iwashi / reference, iwashi, reference, unit };
}

/** Runs `count` jobs, `atOnce` at a time. @returns how many a second */
export async function perSecond(count: number, atOnce: number, job: (index: number) => Promise<void>): Promise<number> {
  let next = 0;
  const started = performance.now();
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      for (let index = next++; index < count; index = next++) await job(index);
    }),
  );
  return (count * 1000) / (performance.now() - started);
}
