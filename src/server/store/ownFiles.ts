import { desc, eq } from 'drizzle-orm';
import type { Db } from './database.ts';
import { ownFiles } from './schema/index.ts';

export type OwnFileRecord = typeof ownFiles.$inferSelect;

/** The newest first. */
export const listOwnFiles = (db: Db): Promise<OwnFileRecord[]> =>
  db.select().from(ownFiles).orderBy(desc(ownFiles.addedAt));

export async function findOwnFile(db: Db, id: string): Promise<OwnFileRecord | null> {
  const [row] = await db.select().from(ownFiles).where(eq(ownFiles.id, id));
  return row ?? null;
}

export async function addOwnFile(db: Db, file: OwnFileRecord): Promise<void> {
  await db.insert(ownFiles).values(file);
}

export async function dropOwnFile(db: Db, id: string): Promise<void> {
  await db.delete(ownFiles).where(eq(ownFiles.id, id));
}
