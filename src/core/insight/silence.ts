/** How long a source was silent, and how sure it is that this is odd. */
export interface Silence {
  /** Milliseconds since 1970. */
  since: number;
  /** How many came a day before. */
  usualADay: number;
  /** How likely such a silence is if nothing is wrong, from 0 to 1. */
  chance: number;
}

const DAY_MS = 24 * 3_600_000;
/** Below this, a silence is told: one false alarm in two hundred. */
const TOLD_CHANCE = 0.005;
/** Fewer than so many say nothing of a rhythm. */
const LEAST = 5;

/**
 * Whether a source is silent for longer than its own rhythm: arrivals that have nothing to do with one another come so far
 * apart with the chance e^(-rate × time) (Poisson process).
 * @param count how many came in the stretch before the last one
 * @param stretchMs how long that stretch is
 * @param lastAt when the last one came; null when none ever did
 * @returns null where nothing is odd
 */
export function silenceOf(count: number, stretchMs: number, lastAt: number | null, now: number): Silence | null {
  if (lastAt === null || count < LEAST || stretchMs <= 0) return null;
  const usualADay = (count / stretchMs) * DAY_MS;
  const chance = Math.exp((-usualADay * (now - lastAt)) / DAY_MS);
  return chance < TOLD_CHANCE ? { since: lastAt, usualADay, chance } : null;
}
