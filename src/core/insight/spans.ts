const MINUTE = 60;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** Up to how many seconds something took, as it is counted: the ends of stretches, each about half as long again as the one before. */
const BOUNDS = [
  ...[5, 10, 15, 20, 30, 45],
  ...[1, 1.5, 2, 3, 5, 10, 15, 20, 30, 45].map((minutes) => minutes * MINUTE),
  ...[1, 1.5, 2, 3, 4, 6, 8, 12, 18].map((hours) => hours * HOUR),
  ...[1, 1.5, 2, 3, 4, 5, 7, 10, 14, 21, 30].map((days) => days * DAY),
];

const LONGER = 'longer';

/** Under what a stretch of time is counted. @param seconds 0 or more */
export const spanOf = (seconds: number): string => String(BOUNDS.find((bound) => seconds <= bound) ?? LONGER);

/** How long something took, of many. */
export interface Spans {
  count: number;
  /** Half of them took no longer than so many seconds; null where most took longer than is told apart. */
  half: number | null;
}

/** Half of how many took no longer than what. @param counts by `spanOf`; null where nothing was counted */
export function spansOf(counts: { span: string; count: number }[]): Spans | null {
  const total = counts.reduce((sum, { count }) => sum + count, 0);
  if (total === 0) return null;
  let left = total / 2;
  for (const bound of BOUNDS) {
    left -= counts.filter(({ span }) => span === String(bound)).reduce((sum, { count }) => sum + count, 0);
    if (left <= 0) return { count: total, half: bound };
  }
  return { count: total, half: null };
}
