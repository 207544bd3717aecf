import { readFact, writeFact } from './accounts.ts';
import type { Db } from './database.ts';

const NAMES = 'organisation names';

/** By which names people know whoever asks them; none while nobody said. */
export async function readOrganisationNames(db: Db): Promise<string[]> {
  const kept = await readFact(db, NAMES);
  return kept === null ? [] : (JSON.parse(kept) as string[]);
}

export const writeOrganisationNames = (db: Db, names: string[]): Promise<void> =>
  writeFact(db, NAMES, JSON.stringify(names));
