import munkres from 'munkres';

/**
 * Who belongs to whom, so that the sum of what fits is the largest that there can be: the assignment problem (Kuhn and Munkres).
 * @param scores one row each of one side, one column each of the other; 0 and less is no fit at all
 * @returns pairs of a row and a column; each row and each column at most once
 */
export function assign(scores: number[][]): [row: number, column: number][] {
  const columns = scores[0]?.length ?? 0;
  if (columns === 0) return [];
  const costs = scores.map((row) => row.map((score) => -Math.max(0, score)));
  return munkres(costs).filter(([row, column]) => (scores[row]?.[column] ?? 0) > 0);
}
