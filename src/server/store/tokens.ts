import { and, asc, eq, gt, isNull, or } from 'drizzle-orm';
import type { Db } from './database.ts';
import { apiTokens } from './schema/index.ts';

export type TokenRecord = typeof apiTokens.$inferSelect;

export async function addToken(db: Db, token: typeof apiTokens.$inferInsert): Promise<void> {
  await db.insert(apiTokens).values(token);
}

export async function listTokens(db: Db): Promise<TokenRecord[]> {
  return db.select().from(apiTokens).orderBy(asc(apiTokens.createdAt));
}

/** A token that is still good; null when there is none such. */
export async function findToken(db: Db, tokenHash: string, now: number): Promise<TokenRecord | null> {
  const good = and(eq(apiTokens.tokenHash, tokenHash), or(isNull(apiTokens.expiresAt), gt(apiTokens.expiresAt, now)));
  const [row] = await db.select().from(apiTokens).where(good);
  return row ?? null;
}

export async function noteTokenUse(db: Db, id: string, now: number): Promise<void> {
  await db.update(apiTokens).set({ lastUsedAt: now }).where(eq(apiTokens.id, id));
}

export async function removeToken(db: Db, id: string): Promise<boolean> {
  const [result] = await db.delete(apiTokens).where(eq(apiTokens.id, id));
  return result.affectedRows === 1;
}
