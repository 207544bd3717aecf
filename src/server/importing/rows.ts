import type { FileReading } from '../../contract/imports.ts';
import type { Result } from '../../core/result.ts';
import { pickSheet, rowsOfSheet } from '../reading/files.ts';
import type { ReadingPool } from '../reading/pool.ts';
import { streamedRows, UnreadableFile, type Row } from '../reading/textRows.ts';

export { UnreadableFile, type Row };

/** @throws UnreadableFile with why it was not read */
function mustRead<T>(read: Result<Result<T>>): T {
  if (!read.ok) throw new UnreadableFile(read.issue);
  if (!read.value.ok) throw new UnreadableFile(read.value.issue);
  return read.value.value;
}

/** Judges what a file is and how it is laid out; the encoding over all of it. */
export const judgeFile = async (pool: ReadingPool, place: string): Promise<FileReading> =>
  mustRead(await pool.read('layout', { place }));

/** Reads a file row by row: text and lines as they stream, other files as a whole, in a thread of the pool. */
export async function* rowsOf(pool: ReadingPool, place: string, reading: FileReading): AsyncGenerator<Row> {
  const { format, header, sheet } = reading;
  if (format === 'text' || format === 'lines') yield* streamedRows(place, reading);
  else if (format === 'json' || format === 'cards') yield* mustRead(await pool.read('wholeRows', { place, reading }));
  else yield* rowsOfSheet(pickSheet(mustRead(await pool.read('sheets', { place, format })), sheet), header);
}

/** The first rows of a file, read in a thread of the pool. */
export const firstRowsOf = async (
  pool: ReadingPool,
  place: string,
  reading: FileReading,
  most: number,
): Promise<Row[]> => mustRead(await pool.read('firstRows', { place, reading, most }));
