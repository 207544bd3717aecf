/** How many of those before went on: null where there were none before, since then it says nothing. */
export const shareOf = (count: number, of: number): number | null => (of === 0 ? null : count / of);

/** 1.96: 95 % of a normal distribution lies within so many standard deviations. */
const Z = 1.959963984540054;

/**
 * Between which shares the true one lies, with 95 % confidence (Wilson 1927, score interval, without continuity correction).
 * @returns from and to, between 0 and 1; null where nothing was tried
 */
export function intervalOf(count: number, of: number): [from: number, to: number] | null {
  if (of === 0) return null;
  const share = Math.min(1, count / of);
  const spread = Z * Math.sqrt((share * (1 - share)) / of + (Z * Z) / (4 * of * of));
  const middle = share + (Z * Z) / (2 * of);
  const scale = 1 + (Z * Z) / of;
  return [Math.max(0, (middle - spread) / scale), Math.min(1, (middle + spread) / scale)];
}
