import Papa from 'papaparse';

/** What can stand between two columns, the likeliest first. */
const DELIMITERS = ['\t', ';', ','] as const;

/**
 * Reads a table as text: CSV (RFC 4180), or as it is copied out of a sheet. What stands between columns is found out: it
 * parts every row into as many columns, and more than one.
 * @returns its rows, without empty ones; null where it is no table
 */
export function readDelimited(text: string): string[][] | null {
  for (const delimiter of DELIMITERS) {
    const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter, skipEmptyLines: true });
    const columns = data[0]?.length ?? 0;
    if (errors.length === 0 && columns > 1 && data.every((row) => row.length === columns)) return data;
  }
  return null;
}
