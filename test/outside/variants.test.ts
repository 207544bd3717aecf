import jstat from 'jstat';
import { describe, expect, it } from 'vitest';
import { compareVariants, evidenceOf, LEVEL, type Stretch } from '../../src/core/insight/index.ts';

/** A small generator of random numbers with a seed (mulberry32, public domain, from memory). */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

const binomial = (count: number, share: number, random: () => number): number => {
  let sum = 0;
  for (let at = 0; at < count; at += 1) if (random() < share) sum += 1;
  return sum;
};

/** Days on which as many met each variant. */
const days = (count: number, met: number, shares: number[], random: () => number): Stretch[] =>
  Array.from({ length: count }, () => ({
    met: shares.map(() => met),
    reached: shares.map((share) => binomial(met, share, random)),
  }));

const once = (arms: [met: number, reached: number][]) =>
  compareVariants([{ met: arms.map(([met]) => met), reached: arms.map(([, reached]) => reached) }], arms.length);

describe('posteriors, against jstat', () => {
  it.each<[[met: number, reached: number], [met: number, reached: number]]>([
    [
      [20, 3],
      [20, 8],
    ],
    [
      [1000, 100],
      [1000, 120],
    ],
    [
      [40, 0],
      [500, 2],
    ],
    [
      [200_000, 20_000],
      [200_000, 20_300],
    ],
  ])('%j: how likely the second is the better one', (one, other) => {
    // P(B > A), the integral of B's density over A's distribution, by Simpson's rule over jstat's functions.
    const [a, b] = [one, other].map(([met, reached]) => [reached + 1, met - reached + 1] as const);
    if (!a || !b) throw new Error('two were expected');
    const mean = b[0] / (b[0] + b[1]);
    const spread = 9 * Math.sqrt((mean * (1 - mean)) / (b[0] + b[1] + 1));
    const [from, to] = [Math.max(1e-12, mean - spread), Math.min(1 - 1e-12, mean + spread)];
    const steps = 2000;
    let sum = 0;
    for (let at = 0; at <= steps; at += 1) {
      const x = from + ((to - from) * at) / steps;
      const weight = at === 0 || at === steps ? 1 : at % 2 === 1 ? 4 : 2;
      sum += weight * jstat.beta.pdf(x, b[0], b[1]) * jstat.beta.cdf(x, a[0], a[1]);
    }
    const expected = (sum * (to - from)) / steps / 3;
    const { arms } = once([one, other]);
    expect(arms[1]?.best).toBeCloseTo(expected, 3);
    expect((arms[0]?.best ?? 0) + (arms[1]?.best ?? 0)).toBeCloseTo(1, 6);
  });
  it('lose on average what the best is better, by drawing from jstat', () => {
    const { arms } = once([
      [200, 24],
      [180, 27],
      [210, 20],
    ]);
    const random = seeded(7);
    jstat.setRandom(random);
    const draws = 40_000;
    const losses = [0, 0, 0];
    for (let draw = 0; draw < draws; draw += 1) {
      const shares = arms.map(({ met, reached }) => jstat.beta.sample(reached + 1, met - reached + 1));
      const most = Math.max(...shares);
      shares.forEach((share, at) => (losses[at] = (losses[at] ?? 0) + (most - share) / draws));
    }
    arms.forEach(({ loss }, at) => expect(loss).toBeCloseTo(losses[at] ?? 0, 3));
  });
});

describe('looking as often as one likes', () => {
  const RUNS = 10_000;
  /** In so many of that many runs, a share of 5 % is exceeded by chance alone in one case of a thousand (normal approximation). */
  const MOST = RUNS * LEVEL + 3.09 * Math.sqrt(RUNS * LEVEL * (1 - LEVEL));
  it.each([
    ['two variants', [0.1, 0.1], 60],
    ['two that hardly anybody sends', [0.01, 0.01], 60],
    ['three variants', [0.3, 0.3, 0.3], 40],
  ])('tells a difference that is none in no more cases than it says: %s', (_, shares, met) => {
    const random = seeded(20_261_127);
    let told = 0;
    for (let run = 0; run < RUNS; run += 1)
      // The evidence is the highest that anybody saw who looked every day.
      if (evidenceOf(days(30, met, shares, random), shares.length) >= 1 / LEVEL) told += 1;
    expect(told).toBeLessThanOrEqual(MOST);
  });
  it('tells a difference that is there, in about as many as it asks for', () => {
    const random = seeded(11);
    const RUNS_WITH = 300;
    let told = 0;
    for (let run = 0; run < RUNS_WITH; run += 1) {
      const first = days(8, 100, [0.1, 0.14], random);
      const { needed } = compareVariants(first, 2);
      if (needed === null) continue;
      // By the true shares: what is asked for from shares that were seen by chance is anybody's guess.
      const all = [...first, ...days(28, 100, [0.1, 0.14], random)];
      if (compareVariants(all, 2).differ) told += 1;
    }
    expect(told / RUNS_WITH).toBeGreaterThan(0.8);
  });
});

describe('what is said of it', () => {
  it('asks for more where there is little, and for nothing where they are alike', () => {
    expect(
      once([
        [100, 10],
        [100, 12],
      ]).needed,
    ).toBeGreaterThan(3000);
    expect(
      once([
        [100, 10],
        [100, 10],
      ]).needed,
    ).toBeNull();
    expect(
      once([
        [0, 0],
        [0, 0],
      ]),
    ).toMatchObject({ differ: false, needed: null, evidence: 1 });
  });
  it('counts nobody twice who reached the goal a day later than they met it', () =>
    expect(
      compareVariants(
        [
          { met: [10, 10], reached: [2, 0] },
          { met: [0, 0], reached: [3, 1] },
        ],
        2,
      ).arms.map(({ reached }) => reached),
    ).toEqual([2, 0]));
});
