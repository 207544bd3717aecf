import { eq } from 'drizzle-orm';
import type { EntryKind } from '../../contract/entries.ts';
import type { Db } from './database.ts';
import { connections, routes, sources } from './schema/index.ts';

const TABLES = { source: sources, route: routes, connection: connections } as const;

/** An entry of one of the lists. */
export interface Entry {
  name: string;
  /** '' for none. */
  folder: string;
}

export async function findEntry(db: Db, kind: EntryKind, id: string): Promise<Entry | null> {
  const table = TABLES[kind];
  const [row] = await db.select({ name: table.name, folder: table.folder }).from(table).where(eq(table.id, id));
  return row ?? null;
}

/** Names an entry, and puts it into a folder. */
export async function nameEntry(db: Db, kind: EntryKind, id: string, { name, folder }: Entry): Promise<void> {
  const table = TABLES[kind];
  await db.update(table).set({ name, folder }).where(eq(table.id, id));
}
