import { asc, eq } from 'drizzle-orm';
import type { Db } from './database.ts';
import { themes } from './schema/index.ts';

export type ThemeRecord = typeof themes.$inferSelect;

export const listThemes = (db: Db): Promise<ThemeRecord[]> => db.select().from(themes).orderBy(asc(themes.name));

export async function findTheme(db: Db, id: string): Promise<ThemeRecord | null> {
  const [row] = await db.select().from(themes).where(eq(themes.id, id));
  return row ?? null;
}

/** Adds a theme, or changes the one of that id. */
export async function saveTheme(db: Db, { id, ...theme }: ThemeRecord): Promise<void> {
  await db
    .insert(themes)
    .values({ id, ...theme })
    .onDuplicateKeyUpdate({ set: theme });
}

export async function dropTheme(db: Db, id: string): Promise<void> {
  await db.delete(themes).where(eq(themes.id, id));
}
