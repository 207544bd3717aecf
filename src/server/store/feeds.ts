import { and, asc, eq, lt, lte, sql } from 'drizzle-orm';
import { changedRows, type Db } from './database.ts';
import { feeds, sources } from './schema/index.ts';

export type FeedRecord = typeof feeds.$inferSelect;
type NewFeed = typeof feeds.$inferInsert;

export async function findFeed(db: Db, sourceId: string): Promise<FeedRecord | null> {
  const [row] = await db.select().from(feeds).where(eq(feeds.sourceId, sourceId));
  return row ?? null;
}

/** Sets how files come to a source by themselves; what was known of the way before is forgotten. */
export async function setFeed(db: Db, feed: NewFeed): Promise<void> {
  const fresh = { lastHash: '', askedAt: null, broughtAt: null, problem: '', leaseUntil: 0, ...feed };
  await db.insert(feeds).values(fresh).onDuplicateKeyUpdate({ set: fresh });
}

export async function removeFeed(db: Db, sourceId: string): Promise<void> {
  await db.delete(feeds).where(eq(feeds.sourceId, sourceId));
}

/** Has a feed looked at now. @returns false where there is none */
export async function hurryFeed(db: Db, sourceId: string, now: number): Promise<boolean> {
  return changedRows(await db.update(feeds).set({ dueAt: now }).where(eq(feeds.sourceId, sourceId))) === 1;
}

/** Takes a feed of a live source that is due, for so long; null when there is none. */
export async function takeFeed(db: Db, now: number, leaseMs: number): Promise<FeedRecord | null> {
  const due = await db
    .select({ feed: feeds })
    .from(feeds)
    .innerJoin(sources, eq(sources.id, feeds.sourceId))
    .where(and(eq(sources.state, 'live'), lte(feeds.dueAt, now), lt(feeds.leaseUntil, now)))
    .orderBy(asc(feeds.dueAt))
    .limit(5);
  for (const { feed } of due) {
    const result = await db
      .update(feeds)
      .set({ leaseUntil: now + leaseMs })
      .where(and(eq(feeds.sourceId, feed.sourceId), eq(feeds.leaseUntil, feed.leaseUntil)));
    if (changedRows(result) === 1) return feed;
  }
  return null;
}

/** Notes that a feed brought a file. @param hash by which it is known should it come again */
export async function noteBrought(db: Db, sourceId: string, hash: string, now: number): Promise<void> {
  await db.update(feeds).set({ lastHash: hash, broughtAt: now }).where(eq(feeds.sourceId, sourceId));
}

/** Notes how looking at a feed ended, and when it is looked at again. */
export async function endFeeding(
  db: Db,
  { sourceId, dueAt: wasDue }: Pick<FeedRecord, 'sourceId' | 'dueAt'>,
  { problem, now, dueAt }: { problem: string; now: number; dueAt: number },
): Promise<void> {
  await db
    .update(feeds)
    .set({
      askedAt: now,
      problem: problem.slice(0, 300),
      leaseUntil: 0,
      // Somebody may have asked for it to be looked at once more meanwhile.
      dueAt: sql`IF(due_at > ${wasDue}, due_at, ${dueAt})`,
    })
    .where(eq(feeds.sourceId, sourceId));
}
