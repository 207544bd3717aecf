import { intervalOf, shareOf } from './share.ts';

/** What became of each variant in one stretch of time: how many met it, and how many of those reached the goal. */
export interface Stretch {
  met: number[];
  reached: number[];
}

/** How one variant does. */
export interface Arm {
  met: number;
  reached: number;
  /** null before anybody met it. */
  share: number | null;
  /** Of 95 %. */
  interval: [from: number, to: number] | null;
  /** How likely it is the best of all, from 0 to 1. */
  best: number;
  /** By how much the share is lower than that of the best one, on average, if this one is kept. */
  loss: number;
}

export interface Comparison {
  arms: Arm[];
  /**
   * How much more likely what was seen is where the variants differ than where they do not. At 20 or more they differ: whoever
   * looks as often as they like is wrong in 5 of 100 cases at most.
   */
  evidence: number;
  differ: boolean;
  /** How many more have to meet each variant, about, for the present difference to be told; null where there is none. */
  needed: number | null;
}

/** At most in so many cases a difference is told that is none. */
export const LEVEL = 0.05;
const STEPS = 4_000;
/** So many standard deviations around its mean hold all of a posterior that matters. */
const REACH = 9;

/**
 * Compares variants by how many reached a goal.
 * @param stretches in the order of time; each variant at the same place in all of them
 */
export function compareVariants(stretches: Stretch[], variants: number): Comparison {
  const capped = stretches.map(({ met, reached }) => ({
    met,
    // Who met it yesterday may reach the goal today.
    reached: reached.map((count, at) => Math.min(count, met[at] ?? 0)),
  }));
  const sums = Array.from({ length: variants }, (_, at) => ({
    met: capped.reduce((sum, { met }) => sum + (met[at] ?? 0), 0),
    reached: capped.reduce((sum, { reached }) => sum + (reached[at] ?? 0), 0),
  }));
  const posteriors = bestOf(sums);
  const evidence = evidenceOf(capped, variants);
  return {
    arms: sums.map(({ met, reached }, at) => ({
      met,
      reached,
      share: shareOf(reached, met),
      interval: intervalOf(reached, met),
      best: posteriors[at]?.best ?? 0,
      loss: posteriors[at]?.loss ?? 0,
    })),
    evidence,
    differ: evidence >= 1 / LEVEL,
    needed: neededFor(sums),
  };
}

/**
 * The evidence against all shares being the same, at its highest so far: an e-process for k samples (Turner, Ly, Grünwald: Generic
 * E-variables for exact sequential k-sample tests that allow for optional stopping, 2021; from memory). In each stretch the shares
 * that were seen before it are held against one share for all. By Ville's inequality it exceeds 1/α in a share α of cases at most,
 * if nothing differs.
 */
export function evidenceOf(stretches: Stretch[], variants: number): number {
  const met = new Array<number>(variants).fill(0);
  const reached = new Array<number>(variants).fill(0);
  let log = 0;
  let most = 0;
  for (const stretch of stretches) {
    const shares = met.map((count, at) => ((reached[at] ?? 0) + 0.5) / (count + 1));
    const all = stretch.met.reduce((sum, count) => sum + count, 0);
    if (all === 0) continue;
    const common = shares.reduce((sum, share, at) => sum + share * (stretch.met[at] ?? 0), 0) / all;
    shares.forEach((share, at) => {
      const [n, y] = [stretch.met[at] ?? 0, stretch.reached[at] ?? 0];
      log += y * Math.log(share / common) + (n - y) * Math.log((1 - share) / (1 - common));
      met[at] = (met[at] ?? 0) + n;
      reached[at] = (reached[at] ?? 0) + y;
    });
    most = Math.max(most, log);
  }
  return Math.exp(Math.min(most, 700));
}

/** How likely each is the best, and what is lost by keeping it: beta posteriors of a flat prior, by numerical integration. */
function bestOf(sums: { met: number; reached: number }[]): { best: number; loss: number }[] {
  const betas = sums.map(({ met, reached }) => ({ a: reached + 1, b: met - reached + 1 }));
  const spans = betas.map(({ a, b }) => {
    const mean = a / (a + b);
    return { mean, spread: REACH * Math.sqrt((mean * (1 - mean)) / (a + b + 1)) };
  });
  const low = Math.max(0, Math.min(...spans.map(({ mean, spread }) => mean - spread)));
  const high = Math.min(1, Math.max(...spans.map(({ mean, spread }) => mean + spread)));
  const step = (high - low) / STEPS;
  const at = Array.from({ length: STEPS }, (_, index) => low + (index + 0.5) * step);
  const masses = betas.map((beta) => normalised(at.map((x) => logBeta(x, beta))));
  // Up to the middle of each step.
  const sumsUpTo = masses.map((mass) => {
    let sum = 0;
    return mass.map((one) => {
      sum += one;
      return sum - one / 2;
    });
  });
  const below = (index: number, but: number) =>
    sumsUpTo.reduce((product, sum, other) => (other === but ? product : product * (sum[index] ?? 0)), 1);
  const highest = high - at.reduce((sum, _, index) => sum + below(index, -1) * step, 0);
  return betas.map(({ a, b }, own) => ({
    best: (masses[own] ?? []).reduce((sum, mass, index) => sum + mass * below(index, own), 0),
    loss: Math.max(0, highest - a / (a + b)),
  }));
}

const logBeta = (x: number, { a, b }: { a: number; b: number }): number =>
  (a - 1) * Math.log(x) + (b - 1) * Math.log(1 - x);

/** From logarithms of any scale to shares that add up to 1. */
function normalised(logs: number[]): number[] {
  const most = logs.reduce((one, other) => Math.max(one, other), -Infinity);
  const weights = logs.map((log) => Math.exp(log - most));
  const sum = weights.reduce((one, other) => one + other, 0);
  return weights.map((weight) => weight / sum);
}

/** Of 95 % and 80 % (a normal distribution): how sure a difference is told, and how often it is when it is there. */
const [SURE, OFTEN] = [1.959963984540054, 0.8416212335729143];
/** What it costs to be allowed to look at any time: about half as many again, by the simulation of the tests. */
const FOR_LOOKING = 1.6;

/** How many more have to meet each, for the present difference of the two best to be told (two proportions, normal approximation). */
function neededFor(sums: { met: number; reached: number }[]): number | null {
  if (sums.some(({ met }) => met === 0)) return null;
  const shares = sums.map(({ met, reached }) => reached / met).sort((one, other) => other - one);
  const [one = 0, other = 0] = shares;
  if (one === other) return null;
  const spread = one * (1 - one) + other * (1 - other);
  const each = (FOR_LOOKING * (SURE + OFTEN) ** 2 * spread) / (one - other) ** 2;
  return Math.max(0, Math.ceil(each) - Math.min(...sums.map(({ met }) => met)));
}
