import { createHash } from 'node:crypto';
import { readFact, writeFact } from './accounts.ts';
import type { Db } from './database.ts';

/** Sites are told apart by a hash of their origin: it has a length that fits. */
const nameOf = (origin: string): string => `heard ${createHash('sha256').update(origin).digest('hex').slice(0, 40)}`;

/** When the script on a site last asked for something, in milliseconds since 1970; null while it never did. */
export async function readLastScriptRequest(db: Db, origin: string): Promise<number | null> {
  const at = await readFact(db, nameOf(origin));
  return at === null ? null : Number(at);
}

export const writeLastScriptRequest = (db: Db, origin: string, at: number): Promise<void> =>
  writeFact(db, nameOf(origin), String(at));
