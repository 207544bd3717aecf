import { readDelimited } from '../../../../core/formats/index.ts';
import type { Pair } from '../../../../core/mapping/index.ts';

/**
 * Reads two columns as they are copied out of a sheet, or as CSV; further columns are left out.
 * @returns none where it is no such thing: a text with a comma in it is a text
 */
export function pastedPairs(text: string): Pair[] {
  const rows = readDelimited(text) ?? [];
  if (rows.length < 2 && !text.includes('\t')) return [];
  return rows.map(([from = '', to = '']): Pair => [from.trim(), to.trim()]);
}
