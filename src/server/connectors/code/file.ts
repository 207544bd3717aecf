import { randomUUID } from 'node:crypto';
import { appendFile, mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { stringify } from 'csv-stringify/sync';
import Papa from 'papaparse';
import { recordingOf, type Added, type CodeParts } from './parts.ts';

/** The last column: by it a row is known again when a delivery is tried twice. */
const MARK = 'delivery';

/** Personal data are for whoever runs this installation, and for nobody else at the machine. */
const OWN_ONLY = 0o600;
const OWN_FOLDER = 0o700;

/** A value as text, also to programs for tables that would take it for a formula (OWASP, CSV injection). A number or a phone number stays. */
const asText = (value: string): string =>
  /^[=@\t\r]/.test(value) || (/^[+-]/.test(value) && !/^[+-][\d\s().,/-]*$/.test(value)) ? `'${value}` : value;

export const isFileName = (name: string): boolean => /^[\w][\w .-]{0,80}\.csv$/i.test(name);

/**
 * Adds a row to a CSV file (RFC 4180) in the folder for dropped files. The first row names the columns. What a person has no value for
 * stays empty in their row, and what somebody is the first to have becomes one more column: one connection is one file. A file that is
 * not of our making is left alone, and the next free name beside it is used.
 */
export async function dropRow(parts: CodeParts, data: Record<string, unknown>, idempotencyKey: string): Promise<Added> {
  const record = recordingOf(parts, 'APPEND', parts.access.baseUrl, data);
  try {
    await mkdir(parts.dropFolder, { recursive: true, mode: OWN_FOLDER });
    const values = Object.fromEntries(Object.entries(data).map(([name, value]) => [name, asText(String(value))]));
    const wanted = path.join(parts.dropFolder, parts.access.baseUrl);
    const file = await alone(wanted, () => addRow(wanted, values, idempotencyKey));
    return record(200, `a row in ${path.basename(file)}`, null);
  } catch (error) {
    const code = (error as { code?: string }).code ?? 'unknown';
    return record(null, code, error);
  }
}

/** @returns the file that has the row now */
async function addRow(wanted: string, values: Record<string, string>, key: string): Promise<string> {
  for (let number = 1; ; number += 1) {
    const file = number === 1 ? wanted : wanted.replace(/\.csv$/i, `-${number}.csv`);
    const text = await readFile(file, 'utf8').catch((error: unknown) => {
      if ((error as { code?: string }).code === 'ENOENT') return '';
      throw error;
    });
    const columns = text === '' ? [MARK] : (Papa.parse<string[]>(text, { preview: 1 }).data[0] ?? []);
    if (columns.at(-1) !== MARK) continue;
    if (text.includes(key)) return file;
    const missing = Object.keys(values).filter((name) => !columns.includes(name));
    const all = [...columns.slice(0, -1), ...missing, MARK];
    const row = stringify([all.map((name) => (name === MARK ? key : (values[name] ?? '')))]);
    if (missing.length === 0 && text !== '') await appendFile(file, row);
    else await replace(file, `${widened(text, all, missing.length)}${row}`);
    return file;
  }
}

/** What a file holds with more columns before its last one: empty in the rows that are there. */
function widened(text: string, columns: string[], more: number): string {
  const [, ...rows] = text === '' ? [] : Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
  const empty = Array.from({ length: more }, () => '');
  return stringify([columns, ...rows.map((row) => [...row.slice(0, -1), ...empty, row.at(-1) ?? ''])]);
}

/** Puts a whole file in the place of another: whoever reads it has the one or the other. */
async function replace(file: string, text: string): Promise<void> {
  const half = `${file}.${randomUUID()}`;
  await writeFile(half, text, { mode: OWN_ONLY });
  await rename(half, file);
}

const LOCK_REST_MS = 25;
const LOCK_TRIES = 200;
/** A lock of this age is one whose worker ended while it had it. */
const LOCK_GONE_MS = 30_000;

/** Does something with a file while no other worker does. */
async function alone<T>(file: string, work: () => Promise<T>): Promise<T> {
  const lock = `${file}.lock`;
  for (let tries = 1; ; tries += 1) {
    try {
      await (await open(lock, 'wx', OWN_ONLY)).close();
      break;
    } catch (error) {
      if ((error as { code?: string }).code !== 'EEXIST' || tries === LOCK_TRIES) throw error;
      const since = await stat(lock).catch(() => null);
      if (since && Date.now() - since.mtimeMs > LOCK_GONE_MS) await rm(lock, { force: true });
      await pause(LOCK_REST_MS);
    }
  }
  try {
    return await work();
  } finally {
    await rm(lock, { force: true });
  }
}
