/** By how long stretches of time counts are kept, in hours: each holds a whole number of the one before. */
export const STRETCHES = [1, 24, 7 * 24, 28 * 24] as const;
export type StretchHours = (typeof STRETCHES)[number];

/** Stretches that follow one another, by their numbers since 1970 (the last one not with them), and whether they are added or taken away. */
export interface Cover {
  hours: StretchHours;
  from: number;
  to: number;
  sign: 1 | -1;
}

/**
 * By which stretches a time is read: long ones in the middle; what is missing at an end, or too much there, by shorter ones. So few
 * counts are read, however long it is.
 * @param from hours since 1970
 * @param to the hour after the last one
 */
export function coverOf(from: number, to: number): Cover[] {
  return cover(from, to, STRETCHES.length - 1, 1);
}

function cover(from: number, to: number, level: number, sign: 1 | -1): Cover[] {
  const hours = STRETCHES[level];
  if (from >= to || hours === undefined) return [];
  const [begin, end] = [Math.round(from / hours), Math.round(to / hours)];
  if (begin >= end) return cover(from, to, level - 1, sign);
  const other = sign === 1 ? -1 : 1;
  return [
    { hours, from: begin, to: end, sign },
    ...cover(from, begin * hours, level - 1, sign),
    ...cover(begin * hours, from, level - 1, other),
    ...cover(end * hours, to, level - 1, sign),
    ...cover(to, end * hours, level - 1, other),
  ];
}
