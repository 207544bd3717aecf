import { and, asc, eq, lte } from 'drizzle-orm';
import type { Db } from './database.ts';
import { memberships, sources } from './schema/index.ts';

export type MembershipRecord = typeof memberships.$inferSelect;

/** Notes when a membership ends by itself; one that does not any more is forgotten. */
export async function noteMembership(
  db: Db,
  { lapsesAt, ...of }: Omit<MembershipRecord, 'lapsesAt'> & { lapsesAt: number | null },
): Promise<void> {
  if (lapsesAt === null) {
    await db
      .delete(memberships)
      .where(and(eq(memberships.sourceId, of.sourceId), eq(memberships.contactId, of.contactId)));
    return;
  }
  await db
    .insert(memberships)
    .values({ ...of, lapsesAt })
    .onDuplicateKeyUpdate({ set: { submissionId: of.submissionId, lapsesAt } });
}

/** Memberships that have ended since, of sources that are live. */
export const lapsed = (db: Db, now: number, most: number): Promise<MembershipRecord[]> =>
  db
    .select({
      sourceId: memberships.sourceId,
      contactId: memberships.contactId,
      submissionId: memberships.submissionId,
      lapsesAt: memberships.lapsesAt,
    })
    .from(memberships)
    .innerJoin(sources, eq(sources.id, memberships.sourceId))
    .where(and(lte(memberships.lapsesAt, now), eq(sources.state, 'live')))
    .orderBy(asc(memberships.lapsesAt))
    .limit(most);

const isSame = ({ sourceId, contactId, submissionId }: MembershipRecord) =>
  and(
    eq(memberships.sourceId, sourceId),
    eq(memberships.contactId, contactId),
    eq(memberships.submissionId, submissionId),
  );

/** Puts off the end of a membership that could not be told of. */
export async function restMembership(db: Db, record: MembershipRecord, until: number): Promise<void> {
  await db.update(memberships).set({ lapsesAt: until }).where(isSame(record));
}

/** Forgets that a membership ends, unless another submission says when by now. */
export async function endMembership(db: Db, record: MembershipRecord): Promise<void> {
  await db.delete(memberships).where(isSame(record));
}

export async function forgetMemberships(db: Db, sourceId: string): Promise<void> {
  await db.delete(memberships).where(eq(memberships.sourceId, sourceId));
}
