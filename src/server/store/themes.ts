import { asc, eq } from 'drizzle-orm';
import { PLAIN_LOOK } from '../../core/forms/index.ts';
import type { Db } from './database.ts';
import { themes } from './schema/index.ts';

export type ThemeRecord = typeof themes.$inferSelect;

/** A theme that was kept before looks had all that they have today. */
const whole = (theme: ThemeRecord): ThemeRecord => ({ ...theme, look: { ...PLAIN_LOOK, ...theme.look } });

export const listThemes = async (db: Db): Promise<ThemeRecord[]> =>
  (await db.select().from(themes).orderBy(asc(themes.name))).map(whole);

export async function findTheme(db: Db, id: string): Promise<ThemeRecord | null> {
  const [row] = await db.select().from(themes).where(eq(themes.id, id));
  return row ? whole(row) : null;
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
