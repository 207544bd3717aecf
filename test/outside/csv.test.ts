import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { readDelimited } from '../../src/core/formats/index.ts';
import { createCodeConnector } from '../../src/server/connectors/code/index.ts';
import { profileOf } from '../../src/server/connectors/registry.ts';
import { openedBySheets } from '../world/sheets.ts';

// csv-spectrum 2.0.0: CSV files in which something is the matter, each with what is in it as JSON.
const folder = path.dirname(createRequire(import.meta.url).resolve('csv-spectrum'));
const NAMES = readdirSync(path.join(folder, 'csvs')).map((file) => path.basename(file, '.csv'));
/** One of them has its only record without a list around it. */
const recordsOf = (name: string) =>
  [JSON.parse(readFileSync(path.join(folder, 'json', `${name}.json`), 'utf8'))].flat() as Record<string, string>[];

const dropped = mkdtempSync(path.join(tmpdir(), 'iwashi-csv-'));
afterAll(() => rmSync(dropped, { recursive: true }));

/** What Python's own csv module reads: RFC 4180, with a heading. */
const byPython = (file: string) =>
  JSON.parse(
    execFileSync(
      'python3',
      ['-c', 'import csv,json,sys; print(json.dumps(list(csv.DictReader(open(sys.argv[1], newline="")))))', file],
      { encoding: 'utf8' },
    ),
  ) as Record<string, string>[];

/** Has records dropped into a file, as a delivery does. */
async function dropAll(file: string, records: Record<string, string>[]): Promise<void> {
  const connector = createCodeConnector({
    send: Object.assign(() => Promise.reject(new Error('a file asks nobody')), { close: () => Promise.resolve() }),
    access: { profile: profileOf('csv-file'), baseUrl: file, credentials: {}, pool: '' },
    now: () => 0,
    record: [],
    dropFolder: dropped,
    allowPrivate: false,
  });
  for (const [index, fields] of records.entries()) {
    const change = { email: '', fields } as unknown as Parameters<typeof connector.write>[0];
    expect(await connector.write(change, null, `key-${index}`)).toMatchObject({ ok: true });
  }
}

describe('tables as text against csv-spectrum', () => {
  it('has its twelve files', () => expect(NAMES).toHaveLength(12));

  // In one the file and the JSON beside it disagree about a number.
  it.each(NAMES.filter((name) => name !== 'location_coordinates'))('%s is read as what is in it', (name) => {
    const [heading = [], ...rows] = readDelimited(readFileSync(path.join(folder, 'csvs', `${name}.csv`), 'utf8')) ?? [];
    const read = rows.map((row) => Object.fromEntries(row.map((cell, index) => [heading[index] ?? '', cell])));
    expect(read).toEqual(recordsOf(name));
  });

  it.each(NAMES)('%s is what a file has in it after its rows were dropped there', async (name) => {
    const file = `${name}.csv`;
    await dropAll(file, recordsOf(name));
    const expected = recordsOf(name).map((record, index) => ({ ...record, delivery: `key-${index}` }));
    expect(byPython(path.join(dropped, file))).toEqual(expected);
  });
});

// OWASP, "CSV Injection": what begins so is a formula to programs for tables.
const FORMULAS = [
  '=1+1',
  '+1+cmd',
  '-2+3+cmd',
  '@SUM(1;2)',
  '\t=1+1',
  '\r=1+1',
  '=HYPERLINK("https://evil.example";"here")',
];

describe('texts like formulas, opened in LibreOffice', () => {
  it('are texts where we wrote them, and would have been formulas', async () => {
    await dropAll(
      'formulas.csv',
      FORMULAS.map((said) => ({ said })),
    );
    const [, ...rows] = openedBySheets(path.join(dropped, 'formulas.csv'));
    expect(rows.flat().filter(({ isFormula }) => isFormula)).toEqual([]);
    expect(rows.map(([cell]) => cell?.type)).toEqual(FORMULAS.map(() => 'string'));
    // Without that, it is one.
    const bare = path.join(dropped, 'bare.csv');
    writeFileSync(bare, 'said\r\n=1+1\r\n');
    expect(openedBySheets(bare)[1]?.[0]).toMatchObject({ isFormula: true, text: '2' });
  }, 120_000);
});
