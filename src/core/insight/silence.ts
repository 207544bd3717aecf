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

/** How many usually come in each hour of the day (UTC). */
export type Rhythm = number[];

const HOUR_MS = 3_600_000;

/**
 * How many usually come in each hour of the day. What stands in an hour says something of the ones beside it, too: half counts for itself, a
 * quarter for each neighbour.
 * @param counts how many came in each hour of the day, in all
 * @param days of how many days
 */
export function rhythmOf(counts: Map<number, number>, days: number): Rhythm {
  const at = (hour: number) => (counts.get((hour + 24) % 24) ?? 0) / Math.max(1, days);
  return Array.from({ length: 24 }, (_, hour) => at(hour) / 2 + (at(hour - 1) + at(hour + 1)) / 4);
}

/** How many are to be expected in a stretch of time, by the hours of the day that it takes. */
export function expectedIn(rhythm: Rhythm, from: number, to: number): number {
  const days = Math.floor((to - from) / DAY_MS);
  let expected = days * rhythm.reduce((sum, one) => sum + one, 0);
  for (let at = from + days * DAY_MS; at < to;) {
    const end = Math.min(to, (Math.floor(at / HOUR_MS) + 1) * HOUR_MS);
    expected += ((rhythm[Math.floor(at / HOUR_MS) % 24] ?? 0) * (end - at)) / HOUR_MS;
    at = end;
  }
  return expected;
}

/**
 * Whether a source is silent for longer than its own rhythm: arrivals that have nothing to do with one another stay out with the chance
 * e^(-expected) (Poisson process, whose rate goes with the hours of the day).
 * @param count how many came in the stretch before the last one
 * @param stretchMs how long that stretch is
 * @param lastAt when the last one came; null when none ever did
 * @param rhythm by the hours of the day; without it every hour counts alike
 * @returns null where nothing is odd
 */
export function silenceOf(
  count: number,
  stretchMs: number,
  lastAt: number | null,
  now: number,
  rhythm: Rhythm | null = null,
): Silence | null {
  const silence = lengthOf(count, stretchMs, lastAt, now, rhythm);
  return silence && silence.chance < TOLD_CHANCE ? silence : null;
}

/** Whether more is to be known of a source's rhythm before it can be said that it is not silent: half of all sources would be so long by chance. */
export const mayBeSilent = (count: number, stretchMs: number, lastAt: number | null, now: number): boolean =>
  (lengthOf(count, stretchMs, lastAt, now, null)?.chance ?? 1) < 0.5;

function lengthOf(
  count: number,
  stretchMs: number,
  lastAt: number | null,
  now: number,
  rhythm: Rhythm | null,
): Silence | null {
  if (lastAt === null || count < LEAST || stretchMs <= 0) return null;
  const usualADay = (count / stretchMs) * DAY_MS;
  const expected = rhythm ? expectedIn(rhythm, lastAt, now) : (usualADay * (now - lastAt)) / DAY_MS;
  return { since: lastAt, usualADay, chance: Math.exp(-expected) };
}
