import type { Pair } from '../../../../core/mapping/index.ts';

/** Reads two columns as they are copied out of a sheet: a tab between them, one row a line. @returns none where it is no such thing */
export function pastedPairs(text: string): Pair[] {
  const rows = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  if (!rows.every((line) => line.includes('\t'))) return [];
  return rows.map((line): Pair => {
    const [from = '', to = ''] = line.split('\t');
    return [from.trim(), to.trim()];
  });
}
