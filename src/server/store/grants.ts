import { and, eq, gt, lt } from 'drizzle-orm';
import type { Db } from './database.ts';
import { grantRequests } from './schema/index.ts';

export async function addGrantRequest(db: Db, request: typeof grantRequests.$inferInsert): Promise<void> {
  await db.delete(grantRequests).where(lt(grantRequests.expiresAt, request.expiresAt - 24 * 3_600_000));
  await db.insert(grantRequests).values(request);
}

/** Uses up a request for access: what comes back is taken once. */
export async function takeGrantRequest(db: Db, stateHash: string, now: number) {
  const [row] = await db
    .select()
    .from(grantRequests)
    .where(and(eq(grantRequests.stateHash, stateHash), gt(grantRequests.expiresAt, now)));
  if (!row) return null;
  const [result] = await db.delete(grantRequests).where(eq(grantRequests.stateHash, stateHash));
  return result.affectedRows === 1 ? row : null;
}
