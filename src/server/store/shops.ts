import { and, asc, eq, lte, lt, sql } from 'drizzle-orm';
import { changedRows, type Db } from './database.ts';
import { shops, sources } from './schema/index.ts';

export type ShopRecord = typeof shops.$inferSelect;

export async function addShop(db: Db, sourceId: string, connectionId: string): Promise<void> {
  await db.insert(shops).values({ sourceId, connectionId });
}

export async function findShop(db: Db, sourceId: string): Promise<ShopRecord | null> {
  const [row] = await db.select().from(shops).where(eq(shops.sourceId, sourceId));
  return row ?? null;
}

/** The source that a connection is as a shop; null where it is none. */
export async function shopOfConnection(db: Db, connectionId: string): Promise<string | null> {
  const [row] = await db.select({ sourceId: shops.sourceId }).from(shops).where(eq(shops.connectionId, connectionId));
  return row?.sourceId ?? null;
}

/** The shops that are live sources, with their connections. */
export const liveShops = (db: Db): Promise<{ sourceId: string; connectionId: string; version: number | null }[]> =>
  db
    .select({ sourceId: shops.sourceId, connectionId: shops.connectionId, version: sources.liveVersion })
    .from(shops)
    .innerJoin(sources, eq(sources.id, shops.sourceId))
    .where(eq(sources.state, 'live'));

/** Takes a live shop that is due to be asked, for so long; null when there is none. */
export async function takeShop(db: Db, now: number, leaseMs: number): Promise<ShopRecord | null> {
  const due = await db
    .select({ shop: shops })
    .from(shops)
    .innerJoin(sources, eq(sources.id, shops.sourceId))
    .where(and(eq(sources.state, 'live'), lte(shops.dueAt, now), lt(shops.leaseUntil, now)))
    .orderBy(asc(shops.dueAt))
    .limit(5);
  for (const { shop } of due) {
    const result = await db
      .update(shops)
      .set({ leaseUntil: now + leaseMs })
      .where(and(eq(shops.sourceId, shop.sourceId), eq(shops.leaseUntil, shop.leaseUntil)));
    if (changedRows(result) === 1) return shop;
  }
  return null;
}

/** Notes how asking a shop ended, and when it is asked again. @param part.missed how many it had not told by itself */
export async function endAsking(
  db: Db,
  sourceId: string,
  { missed, now, ...part }: { position: string; problem: string; missed: number; now: number; dueAt: number },
): Promise<void> {
  await db
    .update(shops)
    .set({
      ...part,
      leaseUntil: 0,
      ...(part.problem === '' ? { askedAt: now } : {}),
      ...(missed > 0 ? { missed: sql`missed + ${missed}`, missedAt: now } : {}),
    })
    .where(eq(shops.sourceId, sourceId));
}

/** Has a shop asked at once, by the next worker that looks. */
export async function askSoon(db: Db, sourceId: string): Promise<void> {
  await db.update(shops).set({ dueAt: 0 }).where(eq(shops.sourceId, sourceId));
}

/** Notes that a shop told something by itself. */
export async function noteHeard(db: Db, sourceId: string, now: number): Promise<void> {
  await db.update(shops).set({ heardAt: now }).where(eq(shops.sourceId, sourceId));
}

export async function removeShop(db: Db, sourceId: string): Promise<void> {
  await db.delete(shops).where(eq(shops.sourceId, sourceId));
}
