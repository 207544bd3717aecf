import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { appendFile, link, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { stringify } from 'csv-stringify/sync';
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
 * Appends a row to a CSV file (RFC 4180) in the folder for dropped files. The first row names the columns; a file whose
 * columns differ from what is to be written is left alone, and the next free name beside it is used.
 */
export async function dropRow(parts: CodeParts, data: Record<string, unknown>, idempotencyKey: string): Promise<Added> {
  const record = recordingOf(parts, 'APPEND', parts.access.baseUrl, data);
  try {
    await mkdir(parts.dropFolder, { recursive: true, mode: OWN_FOLDER });
    const columns = [...Object.keys(data), MARK];
    const heading = stringify([columns]);
    const file = await fileFor(path.join(parts.dropFolder, parts.access.baseUrl), heading);
    const row = stringify([[...Object.values(data).map((value) => asText(String(value))), idempotencyKey]]);
    const held = await readFile(file, 'utf8');
    if (!held.includes(idempotencyKey)) await appendFile(file, row);
    return record(200, `a row in ${path.basename(file)}`, null);
  } catch (error) {
    const code = (error as { code?: string }).code ?? 'unknown';
    return record(null, code, error);
  }
}

/** The first of name.csv, name-2.csv … that is new or has these columns. */
async function fileFor(wanted: string, heading: string): Promise<string> {
  for (let number = 1; ; number += 1) {
    const file = number === 1 ? wanted : wanted.replace(/\.csv$/i, `-${number}.csv`);
    await beginFile(file, heading);
    if ((await readFile(file, 'utf8')).startsWith(heading)) return file;
  }
}

/** Makes a file with its heading if there is none: whole or not at all, however many workers do so at once. */
async function beginFile(file: string, heading: string): Promise<void> {
  if (existsSync(file)) return;
  const half = `${file}.${randomUUID()}`;
  await writeFile(half, heading, { mode: OWN_ONLY });
  await link(half, file).catch((error: unknown) => {
    if ((error as { code?: string }).code !== 'EEXIST') throw error;
  });
  await rm(half);
}
