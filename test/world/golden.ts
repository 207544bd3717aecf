import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

const FOLDER = path.join(import.meta.dirname, '../golden');

/** One document in every format that was ever written, oldest first: the number in a file's name is its format. */
export function golden(what: string): [format: number, document: unknown][] {
  const files = readdirSync(FOLDER).filter((name) => name.startsWith(`${what}-`));
  if (files.length === 0) throw new Error(`there is no ${what} in test/golden`);
  const read = files.map((name): [number, unknown] => [
    Number(/-(\d+)/.exec(name)?.[1]),
    JSON.parse(readFileSync(path.join(FOLDER, name), 'utf8')) as unknown,
  ]);
  return read.sort(([a], [b]) => a - b);
}
