import { createReadStream } from 'node:fs';
import { open, readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { unzipSync, strFromU8 } from 'fflate';
import Papa from 'papaparse';
import readWorkbook from 'read-excel-file/node';
import type { FileReading } from '../../contract/imports.ts';
import { parseJson } from '../../core/json/index.ts';
import {
  columnNames,
  headerIn,
  layoutOf,
  readCards,
  readOdsContent,
  usualSheet,
  workbookText,
  type Sheet,
} from '../../core/tables/index.ts';

/** One row: a text for each column, or a nested object; by its number in the file, as people count. */
export interface Row {
  number: number;
  cells: Record<string, unknown>;
}

const HEAD_BYTES = 256 * 1024;
/** Files that can only be read as a whole may be so large. */
const WHOLE_BYTES = 64 * 1024 * 1024;

export class UnreadableFile extends Error {}

/** Judges what a file is and how it is laid out; the encoding over all of it. */
export async function judgeFile(place: string): Promise<FileReading> {
  const head = await headOf(place);
  const binary = head.subarray(0, 4).toString('latin1');
  const plain = { encoding: 'utf-8', delimiter: ',' as const, header: true };
  if (binary === 'PK\u0003\u0004') {
    const isSpreadsheet = head.toString('latin1').includes('opendocument.spreadsheet');
    const format = isSpreadsheet ? ('spreadsheet' as const) : ('workbook' as const);
    const all = await sheetsOf(place, format);
    const sheet = usualSheet(all);
    if (!sheet) throw new UnreadableFile('It has no sheet.');
    const { header, why } = headerIn(sheet.rows.slice(0, 100));
    const what = isSpreadsheet ? 'It is an OpenDocument spreadsheet' : 'It is an Office Open XML workbook';
    const sheets = all.map(({ name }) => name);
    const which =
      sheets.length === 1
        ? ''
        : `, with ${sheets.length} sheets. ${sheet === all[0] ? 'The first is read' : `The first that is not empty is read: ${sheet.name}`}`;
    return { ...plain, format, header, sheet: sheet.name, sheets, because: `${what}${which}. ${why}` };
  }
  const { encoding, because } = await encodingOf(place, head);
  const text = new TextDecoder(encoding).decode(head).replace(/^\uFEFF/, '');
  const first = text.trimStart();
  if (/^BEGIN:VCARD/i.test(first))
    return { ...plain, format: 'cards', encoding, because: `It is a file of cards. ${because}` };
  if (first.startsWith('[')) return { ...plain, format: 'json', encoding, because: `It is a list in JSON. ${because}` };
  if (first.startsWith('{') && parseJson(first.split('\n')[0] ?? '') !== undefined)
    return { ...plain, format: 'lines', encoding, because: `It is JSON, a value in each line. ${because}` };
  const layout = layoutOf(text);
  return { format: 'text', encoding, ...layout, because: `${layout.because} ${because}` };
}

/** Reads a file row by row: text and lines as they stream, other files as a whole. */
export async function* rowsOf(place: string, reading: FileReading): AsyncGenerator<Row> {
  const { format, header } = reading;
  if (format === 'text') yield* textRows(place, reading);
  else if (format === 'lines') yield* lineRows(place, reading);
  else if (format === 'json') {
    const list = parseJson((await whole(place, reading)).replace(/^\uFEFF/, ''));
    if (!Array.isArray(list)) throw new UnreadableFile('It begins like a list in JSON, and is none.');
    for (const [at, cells] of (list as unknown[]).entries()) yield { number: at + 1, cells: asCells(cells) };
  } else if (format === 'cards') {
    const cards = await whole(place, reading).then((text) => {
      try {
        return readCards(text);
      } catch {
        throw new UnreadableFile('It begins like a file of cards, and cannot be read as one.');
      }
    });
    for (const [at, cells] of cards.entries()) yield { number: at + 1, cells };
  } else {
    const rows = await rowsOfSheet(place, format, reading.sheet);
    const names = columnNames(rows[0] ?? [], header);
    for (const [at, row] of rows.entries()) {
      if (at === 0 && header) continue;
      if (row.some((value) => value !== '')) yield { number: at + 1, cells: named(names, row) };
    }
  }
}

async function* textRows(place: string, { encoding, delimiter, header }: FileReading): AsyncGenerator<Row> {
  let names: string[] | null = null;
  let number = 0;
  for await (const rows of partsOfText(Readable.from(decoded(place, encoding)), delimiter))
    for (const row of rows) {
      number += 1;
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
  Papa.parse<string[]>(text, {
    delimiter,
    skipEmptyLines: false,
    chunk({ data }, parser) {
      if (parts.push(data)) return;
      parser.pause();
      paused = parser;
    },
    complete: () => parts.push(null),
    error: (error) => parts.destroy(error),
  });
  return parts;
}

async function* lineRows(place: string, { encoding }: FileReading): AsyncGenerator<Row> {
  let rest = '';
  let number = 0;
  const read = (line: string): Row | null => {
    number += 1;
    return line.trim() === '' ? null : { number, cells: asCells(parseJson(line)) };
  };
  for await (const text of decoded(place, encoding)) {
    const lines = (rest + text).split(/\r?\n/);
    rest = lines.pop() ?? '';
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
const asCells = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : { [NAMELESS]: value === undefined ? '(not JSON)' : value };

/** More values than columns are kept under names of their own: they are shown where the row is refused. */
function named(names: string[], row: string[]): Record<string, string> {
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

async function headOf(place: string): Promise<Buffer> {
  const file = await open(place);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** By its mark of order of bytes (Unicode 15, 2.13), else by whether all of it is UTF-8, else as browsers take it (WHATWG). */
async function encodingOf(place: string, head: Buffer): Promise<{ encoding: string; because: string }> {
  if (head[0] === 0xff && head[1] === 0xfe)
    return { encoding: 'utf-16le', because: 'It says itself that it is UTF-16.' };
  if (head[0] === 0xfe && head[1] === 0xff)
    return { encoding: 'utf-16be', because: 'It says itself that it is UTF-16.' };
  const decoder = new TextDecoder('utf-8', { fatal: true });
  try {
    for await (const chunk of createReadStream(place) as AsyncIterable<Buffer>) decoder.decode(chunk, { stream: true });
    decoder.decode();
    return { encoding: 'utf-8', because: 'All of it is UTF-8.' };
  } catch {
    return { encoding: 'windows-1252', because: 'It is not UTF-8; it is taken for Windows-1252, as browsers do.' };
  }
}

async function whole(place: string, { encoding }: Pick<FileReading, 'encoding'>): Promise<string> {
  return new TextDecoder(encoding).decode(await wholeBytes(place));
}

async function wholeBytes(place: string): Promise<Buffer> {
  const bytes = await readFile(place);
  if (bytes.byteLength > WHOLE_BYTES)
    throw new UnreadableFile('A file of this kind may have 64 MB at most. Export it as CSV, which may have any size.');
  return bytes;
}

/** @param name of the sheet; undefined for files that were judged before there was a choice */
async function rowsOfSheet(place: string, format: SheetFormat, name: string | undefined): Promise<string[][]> {
  const sheets = await sheetsOf(place, format);
  const sheet = name === undefined ? sheets[0] : sheets.find((one) => one.name === name);
  if (!sheet) throw new UnreadableFile(`It has no sheet of the name “${name ?? ''}”.`);
  return sheet.rows;
}

type SheetFormat = 'workbook' | 'spreadsheet';

async function sheetsOf(place: string, format: SheetFormat): Promise<Sheet[]> {
  const bytes = await wholeBytes(place);
  try {
    if (format === 'workbook')
      return (await readWorkbook(bytes)).map(({ sheet, data }) => ({
        name: sheet,
        rows: data.map((row) => row.map(workbookText)),
      }));
    const { 'content.xml': content } = unzipSync(bytes, { filter: ({ name }) => name === 'content.xml' });
    if (!content) throw new UnreadableFile('It has no content.');
    return readOdsContent(strFromU8(content));
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    throw new UnreadableFile('It is damaged, or protected by a password.');
  }
}
