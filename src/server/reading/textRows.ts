import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import Papa from 'papaparse';
import type { FileReading } from '../../contract/imports.ts';
import { parseJson } from '../../core/json/index.ts';
import { columnNames } from '../../core/tables/index.ts';

/** One row: a text for each column, or a nested object; by its number in the file, as people count. */
export interface Row {
  number: number;
  cells: Record<string, unknown>;
}

export class UnreadableFile extends Error {}

/** A row may have so many columns, and so many characters: one that has more is no row, but a quote that is never closed. */
export const MOST_COLUMNS = 1_000;
const LONGEST_ROW = 1024 * 1024;
/** What stands in a line of JSON may be nested so deep. */
const DEEPEST = 50;

/** Reads a file of text, or of lines of JSON, row by row as it streams. */
export const streamedRows = (place: string, reading: FileReading): AsyncGenerator<Row> =>
  reading.format === 'lines' ? lineRows(place, reading) : textRows(place, reading);

async function* textRows(place: string, { encoding, delimiter, header }: FileReading): AsyncGenerator<Row> {
  let names: string[] | null = null;
  let number = 0;
  for await (const rows of partsOfText(Readable.from(decoded(place, encoding)), delimiter))
    for (const row of rows) {
      number += 1;
      if (row.length > MOST_COLUMNS) throw new UnreadableFile(`Row ${number} has more than ${MOST_COLUMNS} columns.`);
      if (names === null) {
        names = columnNames(row, header);
        if (header) continue;
      }
      if (row.some((value) => value.trim() !== '')) yield { number, cells: named(names, row) };
    }
}

/** So many parts of a file may be read ahead. */
const PARTS_AHEAD = 2;

/** The rows of a text, many at a time, and no more than are asked for: the reader's own stream of single rows is a hundred times as slow. */
function partsOfText(text: Readable, delimiter: string): AsyncIterable<string[][]> {
  let paused: Papa.Parser | null = null;
  let rowsRead = 0;
  const parts = new Readable({
    objectMode: true,
    highWaterMark: PARTS_AHEAD,
    read() {
      const parser = paused;
      paused = null;
      parser?.resume();
    },
    destroy(error, done) {
      text.destroy();
      done(error);
    },
  });
  Papa.parse<string[]>(
    withinRows(text, () => rowsRead),
    {
      delimiter,
      skipEmptyLines: false,
      chunk({ data }, parser) {
        rowsRead += data.length;
        if (parts.push(data)) return;
        parser.pause();
        paused = parser;
      },
      complete: () => parts.push(null),
      error: (error) => parts.destroy(error),
    },
  );
  return parts;
}

/** A text, as long as rows come of it: a reader that finds no end of a row would begin it anew with each part. */
function withinRows(text: Readable, rowsRead: () => number): Readable {
  return Readable.from(
    (async function* () {
      let since = 0;
      let before = 0;
      for await (const part of text as AsyncIterable<string>) {
        yield part;
        since = rowsRead() > before ? part.length : since + part.length;
        before = rowsRead();
        if (since > LONGEST_ROW)
          throw new UnreadableFile(
            `Row ${before + 1} is longer than a million characters. Look for a quotation mark there that is not closed.`,
          );
      }
    })(),
  );
}

async function* lineRows(place: string, { encoding }: FileReading): AsyncGenerator<Row> {
  let rest = '';
  let number = 0;
  const read = (line: string): Row | null => {
    number += 1;
    return line.trim() === '' ? null : { number, cells: asCells(parseJson(line, DEEPEST)) };
  };
  for await (const text of decoded(place, encoding)) {
    const lines = (rest + text).split(/\r?\n/);
    rest = lines.pop() ?? '';
    if (rest.length > LONGEST_ROW)
      throw new UnreadableFile(`Line ${number + lines.length + 1} is longer than a million characters.`);
    for (const line of lines) {
      const row = read(line);
      if (row) yield row;
    }
  }
  const last = read(rest);
  if (last) yield last;
}

/** What a row has that is no object: shown as it is, under no name. */
const NAMELESS = 'Column 1';
export const asCells = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : { [NAMELESS]: value === undefined ? '(not JSON)' : value };

/** More values than columns are kept under names of their own: they are shown where the row is refused. */
export function named(names: string[], row: string[]): Record<string, string> {
  const cells: Record<string, string> = {};
  for (const [at, value] of row.entries())
    if (at < names.length || value !== '') cells[names[at] ?? `Column ${at + 1}`] = value;
  return cells;
}

async function* decoded(place: string, encoding: string): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding);
  for await (const chunk of createReadStream(place, { highWaterMark: 256 * 1024 }) as AsyncIterable<Buffer>)
    yield decoder.decode(chunk, { stream: true });
  yield decoder.decode();
}
