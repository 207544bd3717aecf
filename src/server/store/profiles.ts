import { asc, eq } from 'drizzle-orm';
import type { Profile } from '../../contract/profile/index.ts';
import type { Db } from './database.ts';
import { profiles } from './schema/index.ts';

/** The profiles that operators made. */
export async function listOwnProfiles(db: Db): Promise<Profile[]> {
  return (await db.select().from(profiles).orderBy(asc(profiles.id))).map(({ document }) => document);
}

export async function findOwnProfile(db: Db, id: string): Promise<Profile | null> {
  const [row] = await db.select().from(profiles).where(eq(profiles.id, id));
  return row?.document ?? null;
}

export async function saveOwnProfile(db: Db, document: Profile, now: number): Promise<void> {
  await db
    .insert(profiles)
    .values({ id: document.id, document, createdAt: now, updatedAt: now })
    .onDuplicateKeyUpdate({ set: { document, updatedAt: now } });
}

export async function removeOwnProfile(db: Db, id: string): Promise<void> {
  await db.delete(profiles).where(eq(profiles.id, id));
}
