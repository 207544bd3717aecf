import { and, eq, gt, sql } from 'drizzle-orm';
import type { Entries } from '../../core/intake/index.ts';
import type { Db } from './database.ts';
import { keptForms } from './schema/index.ts';

export async function addPartialForm(db: Db, kept: typeof keptForms.$inferInsert): Promise<void> {
  await db
    .insert(keptForms)
    .values(kept)
    .onDuplicateKeyUpdate({ set: { tokenHash: kept.tokenHash } });
}

/** What was entered into a form of a source; null when it is gone. @param since what was kept before is too old */
export async function findPartialForm(
  db: Db,
  sourceId: string,
  tokenHash: string,
  since: number,
): Promise<Entries | null> {
  const [row] = await db
    .select({ entries: keptForms.entries })
    .from(keptForms)
    .where(and(eq(keptForms.tokenHash, tokenHash), eq(keptForms.sourceId, sourceId), gt(keptForms.keptAt, since)));
  return row?.entries ?? null;
}

/** Forgets what was entered, once it was sent. */
export async function deletePartialForm(db: Db, tokenHash: string): Promise<void> {
  await db.delete(keptForms).where(eq(keptForms.tokenHash, tokenHash));
}

/** Forgets what nobody went on with. */
export async function deleteOldPartialForms(db: Db, before: number, most: number): Promise<void> {
  await db.execute(sql`DELETE FROM kept_forms WHERE kept_at < ${before} LIMIT ${sql.raw(String(most))}`);
}
