import { asc, eq, sql } from 'drizzle-orm';
import type { Purpose } from '../../core/consent/index.ts';
import type { Db } from './database.ts';
import { purposes } from './schema/index.ts';

export interface PurposeRecord extends Purpose {
  createdAt: number;
  /** By which revisions are told apart. */
  updatedAt: number;
}

const toRecord = ({ archivedAt, ...row }: typeof purposes.$inferSelect): PurposeRecord => ({
  ...row,
  archived: archivedAt !== null,
});

export async function listPurposes(db: Db): Promise<PurposeRecord[]> {
  return (await db.select().from(purposes).orderBy(asc(purposes.name))).map(toRecord);
}

/** What purposes are called. @returns the name by the id; the id itself where there is no such purpose */
export async function purposeNames(db: Db): Promise<(id: string) => string> {
  const names = new Map((await listPurposes(db)).map(({ id, name }) => [id, name]));
  return (id) => names.get(id) ?? id;
}

export async function findPurpose(db: Db, id: string): Promise<PurposeRecord | null> {
  const [row] = await db.select().from(purposes).where(eq(purposes.id, id));
  return row ? toRecord(row) : null;
}

export async function addPurpose(
  db: Db,
  { now, id, name, wordings, channels }: Omit<Purpose, 'archived'> & { now: number },
): Promise<void> {
  await db.insert(purposes).values({ id, name, wordings, channels, createdAt: now, updatedAt: now });
}

export async function changePurpose(
  db: Db,
  id: string,
  { archived, ...change }: Partial<Omit<Purpose, 'id'>>,
  now: number,
): Promise<void> {
  await db
    .update(purposes)
    .set({
      ...change,
      ...(archived === undefined ? {} : { archivedAt: archived ? now : null }),
      // Never the same time twice: it tells revisions apart.
      updatedAt: sql`GREATEST(${now}, updated_at + 1)`,
    })
    .where(eq(purposes.id, id));
}
