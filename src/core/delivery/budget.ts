/** What a service allows: so many a second, and so many at once after a pause. */
export interface Pace {
  perSecond: number;
  burst: number;
}

/**
 * Takes requests out of the budget that all workers share, by the generic cell rate algorithm (ITU-T I.371): one figure,
 * the time at which the budget would be full again, says it all.
 * A time further ahead than an empty budget takes to fill was written by a clock that was wrong: it counts as that.
 * @param fullAt that time, in milliseconds since 1970; 0 when nothing was ever taken
 * @param wanted how many requests are wanted
 * @returns how many are granted, and the new time
 */
export function takeFromBudget(
  fullAt: number,
  { perSecond, burst }: Pace,
  wanted: number,
  now: number,
): { granted: number; fullAt: number } {
  const each = 1000 / perSecond;
  const latest = Math.min(fullAt, Math.ceil(now + burst * each));
  const start = Math.max(latest, now);
  const room = Math.floor((burst * each - (start - now)) / each + 1e-9);
  const granted = Math.max(0, Math.min(wanted, room));
  return { granted, fullAt: granted === 0 ? latest : start + granted * each };
}
