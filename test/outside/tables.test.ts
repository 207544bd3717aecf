import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { parse } from 'csv-parse/sync';
import { afterAll, describe, expect, it } from 'vitest';
import { judgeFile, rowsOf } from '../../src/server/importing/rows.ts';
import { readHere } from '../world/readHere.ts';
import { convertedBySheets } from '../world/sheets.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'iwashi-tables-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function readAll(file: string) {
  const reading = await judgeFile(readHere, file);
  const rows: Record<string, unknown>[] = [];
  for await (const { cells } of rowsOf(readHere, file, reading)) rows.push(cells);
  return { reading, rows };
}
const written = (name: string, content: string | Uint8Array): string => {
  const file = path.join(folder, name);
  writeFileSync(file, content);
  return file;
};

// csv-spectrum 2.0.0: CSV files in which something is the matter, each with what is in it as JSON.
const spectrum = path.dirname(createRequire(import.meta.url).resolve('csv-spectrum'));
const NAMES = readdirSync(path.join(spectrum, 'csvs')).map((file) => path.basename(file, '.csv'));

describe('files against csv-spectrum and csv-parse', () => {
  // In location_coordinates the file and the JSON beside it disagree about a number.
  it.each(NAMES.filter((name) => name !== 'location_coordinates'))('%s', async (name) => {
    const file = path.join(spectrum, 'csvs', `${name}.csv`);
    const { rows } = await readAll(file);
    const record = [JSON.parse(readFileSync(path.join(spectrum, 'json', `${name}.json`), 'utf8'))].flat() as unknown[];
    expect(rows).toEqual(record);
    // A second reader (csv-parse 7.0.3) says the same.
    expect(parse(readFileSync(file), { columns: true, bom: true, relax_column_count: true })).toEqual(record);
  });
});

const PEOPLE = [
  ['Name', 'Joined', 'Paid', 'Note'],
  ['Zoë Starling', '2024-02-13', '12.5', 'plain'],
  ['Mara "the moon" Quill', '2023-12-31', '1250', 'two\nlines'],
  ['Tobin', '', '0.25', '<b> & co'],
];
const csvOf = (rows: string[][]) =>
  rows.map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',')).join('\r\n');
const records = PEOPLE.slice(1).map(([Name, Joined, Paid, Note]) => ({ Name, Joined, Paid, Note }));

/** Commas, double quotes, UTF-8, from the first row on. */
const UTF8 = ['--infilter=CSV:44,34,76,1'];

describe('sheets that LibreOffice wrote (Debian, headless)', () => {
  const csv = written('people.csv', csvOf(PEOPLE));

  it.each([
    ['ods', 'spreadsheet'],
    ['xlsx', 'workbook'],
  ])(
    'as %s have what was in them',
    async (format, kind) => {
      const { reading, rows } = await readAll(convertedBySheets(csv, format, folder, UTF8));
      expect(reading).toMatchObject({ format: kind, header: true });
      const plain = rows.map((row): unknown => ({ Joined: '', ...row }));
      expect(plain).toEqual(records);
    },
    180_000,
  );
});

/** A flat spreadsheet (OpenDocument 1.3, part 2, 3.1.2) with three sheets, of which the first is empty. */
const FLAT = `<?xml version="1.0" encoding="UTF-8"?>
<office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
 xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.3" office:mimetype="application/vnd.oasis.opendocument.spreadsheet">
<office:body><office:spreadsheet>${[
  ['Cover', []],
  ['Members', ['Name', 'Mara']],
  ['Left & gone', ['Name', 'Tobin']],
]
  .map(
    ([name, cells]) =>
      `<table:table table:name="${(name as string).replace('&', '&amp;')}">${(cells as string[])
        .map(
          (cell) =>
            `<table:table-row><table:table-cell office:value-type="string"><text:p>${cell}</text:p></table:table-cell></table:table-row>`,
        )
        .join('')}</table:table>`,
  )
  .join('')}</office:spreadsheet></office:body></office:document>`;

describe('files of several sheets that LibreOffice wrote', () => {
  const flat = written('several.fods', FLAT);

  it.each(['ods', 'xlsx'])(
    'as %s give the first that is not empty, or the one that is named',
    async (format) => {
      const file = convertedBySheets(flat, format, folder);
      const { reading, rows } = await readAll(file);
      expect(reading).toMatchObject({ sheet: 'Members', sheets: ['Cover', 'Members', 'Left & gone'], header: true });
      expect(rows).toEqual([{ Name: 'Mara' }]);
      const other: unknown[] = [];
      for await (const { cells } of rowsOf(readHere, file, { ...reading, sheet: 'Left & gone' })) other.push(cells);
      expect(other).toEqual([{ Name: 'Tobin' }]);
      await expect(rowsOf(readHere, file, { ...reading, sheet: 'Nowhere' }).next()).rejects.toThrow(
        'no sheet of the name',
      );
    },
    180_000,
  );
});

describe('encodings, written by iconv (glibc, Debian)', () => {
  const text = 'Name,City\nŻółć Święty,Łódź\n';
  // Labels of the WHATWG Encoding standard, 4.2, and what iconv calls the same.
  it.each([
    ['windows-1250', 'CP1250'],
    ['iso-8859-2', 'ISO-8859-2'],
    ['utf-16le', 'UTF-16LE'],
    ['utf-8', 'UTF-8'],
  ])('%s is read as what it is', async (label, name) => {
    const file = written(`${label}.csv`, execFileSync('iconv', ['-f', 'UTF-8', '-t', name], { input: text }));
    const rows: unknown[] = [];
    const reading = { format: 'text' as const, encoding: label, delimiter: ',' as const, header: true, because: '' };
    for await (const { cells } of rowsOf(readHere, file, reading)) rows.push(cells);
    expect(rows).toEqual([{ Name: 'Żółć Święty', City: 'Łódź' }]);
  });

  it('is found out where the file says so, or all of it is UTF-8', async () => {
    const marked = written(
      'marked.csv',
      execFileSync('iconv', ['-f', 'UTF-8', '-t', 'UTF-16LE'], { input: `\uFEFF${text}` }),
    );
    expect((await readAll(marked)).reading.encoding).toBe('utf-16le');
    expect((await readAll(marked)).rows).toEqual([{ Name: 'Żółć Święty', City: 'Łódź' }]);
    // The first bytes are ASCII; what is no UTF-8 comes far behind.
    const late = written(
      'late.csv',
      Buffer.concat([Buffer.from(`Name,City\n${'a,b\n'.repeat(200_000)}`), Buffer.from([0xe9, 0x2c, 0x62, 0x0a])]),
    );
    expect((await judgeFile(readHere, late)).encoding).toBe('windows-1252');
  });
});
