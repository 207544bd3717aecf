import { open, readFile } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import { strFromU8 } from 'fflate';
import readWorkbook from 'read-excel-file/node';
import type { FileReading } from '../../contract/imports.ts';
import { depthOf, parseJson } from '../../core/json/index.ts';
import { bad, good, type Result } from '../../core/result.ts';
import {
  columnNames,
  headerIn,
  layoutOf,
  readCards,
  readOdsContent,
  TooManyCells,
  usualSheet,
  workbookText,
  type Sheet,
} from '../../core/tables/index.ts';
import type { Readers } from './readers.ts';
import { asCells, MOST_COLUMNS, named, streamedRows, UnreadableFile, type Row } from './textRows.ts';
import { furthestCell, UnpacksToTooMuch, unpacked } from './zips.ts';

const HEAD_BYTES = 256 * 1024;
/** Files that can only be read as a whole may be so large; and so many cells may be in them, so deep what is in a cell. */
const WHOLE_BYTES = 64 * 1024 * 1024;
const UNPACKED_BYTES = 256 * 1024 * 1024;
export const MOST_CELLS = 2_000_000;
const DEEPEST = 50;

/** What is wrong with a file is an answer; anything else is a fault of ours. */
async function orWhy<T>(read: () => Promise<T>): Promise<Result<T>> {
  try {
    return good(await read());
  } catch (error) {
    if (error instanceof UnreadableFile) return bad(error.message);
    throw error;
  }
}

/** Judges what a file is and how it is laid out; the encoding over all of it. */
export const layoutOfFile = (place: string): Promise<Result<FileReading>> => orWhy(() => judge(place));

/** The first rows of a file. */
export const firstRows = ({ place, reading, most }: Readers['firstRows']['given']): Promise<Result<Row[]>> =>
  orWhy(async () => {
    const rows: Row[] = [];
    for await (const row of await anyRows(place, reading)) {
      rows.push(row);
      if (rows.length === most) break;
    }
    return rows;
  });

async function anyRows(place: string, reading: FileReading): Promise<AsyncIterable<Row> | Iterable<Row>> {
  const { format, header } = reading;
  if (format === 'text' || format === 'lines') return streamedRows(place, reading);
  if (format === 'json' || format === 'cards') return wholeRows(place, reading);
  return rowsOfSheet(pickSheet(await sheetsOf(place, format), reading.sheet), header);
}

/** The sheet of a name. @param name undefined for files that were judged before there was a choice */
export function pickSheet(sheets: Sheet[], name: string | undefined): Sheet {
  const sheet = name === undefined ? sheets[0] : sheets.find((one) => one.name === name);
  if (!sheet) throw new UnreadableFile(`It has no sheet of the name “${name ?? ''}”.`);
  return sheet;
}

/** The rows of a sheet by its columns; those in which nothing stands are left out. */
export function* rowsOfSheet({ rows }: Sheet, header: boolean): Generator<Row> {
  const names = columnNames(rows[0] ?? [], header);
  for (const [at, row] of rows.entries()) {
    if (at === 0 && header) continue;
    if (row.some((value) => value !== '')) yield { number: at + 1, cells: named(names, row) };
  }
}

export const readSheets = ({ place, format }: Readers['sheets']['given']): Promise<Result<Sheet[]>> =>
  orWhy(() => sheetsOf(place, format));

export const readWholeRows = ({ place, reading }: Readers['wholeRows']['given']): Promise<Result<Row[]>> =>
  orWhy(() => wholeRows(place, reading));

async function wholeRows(place: string, { format, encoding }: FileReading): Promise<Row[]> {
  const text = new TextDecoder(encoding).decode(await wholeBytes(place));
  if (format === 'cards') {
    try {
      return readCards(text).map((cells, at) => ({ number: at + 1, cells }));
    } catch {
      throw new UnreadableFile('It begins like a file of cards, and cannot be read as one.');
    }
  }
  const json = text.replace(/^\uFEFF/, '');
  if (depthOf(json) > DEEPEST) throw new UnreadableFile(`What stands in it is nested more than ${DEEPEST} deep.`);
  const list = parseJson(json);
  if (!Array.isArray(list)) throw new UnreadableFile('It begins like a list in JSON, and is none.');
  return (list as unknown[]).map((cells, at) => ({ number: at + 1, cells: asCells(cells) }));
}

async function judge(place: string): Promise<FileReading> {
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

async function wholeBytes(place: string): Promise<Buffer> {
  const bytes = await readFile(place);
  if (bytes.byteLength > WHOLE_BYTES)
    throw new UnreadableFile('A file of this kind may have 64 MB at most. Export it as CSV, which may have any size.');
  return bytes;
}

async function sheetsOf(place: string, format: 'workbook' | 'spreadsheet'): Promise<Sheet[]> {
  const bytes = await wholeBytes(place);
  try {
    const sheets = format === 'workbook' ? await sheetsOfWorkbook(bytes) : sheetsOfOds(bytes);
    const wide = sheets.find(({ rows }) => rows.some((row) => row.length > MOST_COLUMNS));
    if (wide) throw new UnreadableFile(`The sheet “${wide.name}” has more than ${MOST_COLUMNS} columns.`);
    return sheets;
  } catch (error) {
    if (error instanceof UnreadableFile || error instanceof RangeError) throw error;
    if (error instanceof UnpacksToTooMuch)
      throw new UnreadableFile('It unpacks to more than 256 MB. Export the sheet as CSV, which may have any size.');
    if (error instanceof TooManyCells) throw new UnreadableFile(TOO_MANY_CELLS);
    throw new UnreadableFile('It is damaged, or protected by a password.');
  }
}

const TOO_MANY_CELLS = `It has more than ${MOST_CELLS.toLocaleString('en')} cells. Export the sheet as CSV, which may have any size.`;

async function sheetsOfWorkbook(bytes: Buffer): Promise<Sheet[]> {
  // Its reader makes room for every cell up to the last one, wherever that is.
  const inside = unpacked(bytes, (name) => /^xl\/worksheets\/[^/]+\.xml$/.test(name), UNPACKED_BYTES);
  for (const content of Object.values(inside)) {
    const { row, column, name } = furthestCell(strFromU8(content));
    if (row * column > MOST_CELLS)
      throw new UnreadableFile(
        `A sheet in it reaches to row ${row} and column ${column} (${name}), which is more than ${MOST_CELLS.toLocaleString('en')} cells. Delete what stands far out, or export the sheet as CSV.`,
      );
  }
  return (await readWorkbook(bytes)).map(({ sheet, data }) => ({
    name: sheet,
    rows: data.map((row) => row.map(workbookText)),
  }));
}

function sheetsOfOds(bytes: Buffer): Sheet[] {
  const { 'content.xml': content } = unpacked(bytes, (name) => name === 'content.xml', UNPACKED_BYTES);
  if (!content) throw new UnreadableFile('It has no content.');
  return readOdsContent(strFromU8(content), MOST_CELLS);
}
