import { and, eq, lte, sql } from 'drizzle-orm';
import { insertRows, type Db } from './database.ts';
import { samePerson } from './people/tree.ts';
import { confirmations, confirmationTokens } from './schema/index.ts';

export type ConfirmationRecord = typeof confirmations.$inferSelect;

export type NewConfirmation = Omit<ConfirmationRecord, 'sends' | 'confirmedAt'>;

/** A confirmation as it is asked for now. */
export const pendingConfirmation = (
  asked: Pick<ConfirmationRecord, 'id' | 'contactId' | 'submissionId' | 'routeId' | 'purposes' | 'sentTo' | 'mail'>,
  expiresHours: number,
  now: number,
): NewConfirmation => ({
  ...asked,
  state: 'pending',
  createdAt: now,
  lastSentAt: now,
  expiresAt: now + expiresHours * 3_600_000,
});

export async function addConfirmations(db: Db, records: NewConfirmation[]): Promise<void> {
  await insertRows(db, confirmations, records);
}

export async function findConfirmationByToken(db: Db, tokenHash: string): Promise<ConfirmationRecord | null> {
  const [row] = await db
    .select({ confirmation: confirmations })
    .from(confirmationTokens)
    .innerJoin(confirmations, eq(confirmations.id, confirmationTokens.confirmationId))
    .where(eq(confirmationTokens.tokenHash, tokenHash));
  return row?.confirmation ?? null;
}

export async function hasOpenConfirmation(db: Db, contactId: string, purpose: string): Promise<boolean> {
  const open = and(sql`${confirmations.contactId} IN ${samePerson(contactId)}`, eq(confirmations.state, 'pending'));
  const rows = await db.select({ purposes: confirmations.purposes }).from(confirmations).where(open);
  return rows.some(({ purposes }) => purposes.includes(purpose));
}

export async function addToken(db: Db, tokenHash: string, confirmationId: string): Promise<void> {
  await db.insert(confirmationTokens).values({ tokenHash, confirmationId });
}

export async function findConfirmation(db: Db, id: string): Promise<ConfirmationRecord | null> {
  const [row] = await db.select().from(confirmations).where(eq(confirmations.id, id));
  return row ?? null;
}

/**
 * Ends what was asked for and not confirmed yet, as far as it is for what the person took back since: its link confirms nothing of that
 * any more.
 * @param taken the purposes, each with when it was taken back, in milliseconds since 1970
 * @returns the confirmations of which nothing is left
 */
export async function endOpenConfirmations(
  db: Db,
  contactId: string,
  taken: { purpose: string; at: number }[],
): Promise<string[]> {
  const open = and(sql`${confirmations.contactId} IN ${samePerson(contactId)}`, eq(confirmations.state, 'pending'));
  const rows = await db
    .select({ id: confirmations.id, purposes: confirmations.purposes, createdAt: confirmations.createdAt })
    .from(confirmations)
    .where(open);
  const ended: string[] = [];
  for (const row of rows) {
    const left = row.purposes.filter(
      (purpose) => !taken.some((one) => one.purpose === purpose && one.at >= row.createdAt),
    );
    if (left.length === row.purposes.length) continue;
    if (left.length === 0) ended.push(row.id);
    await db
      .update(confirmations)
      .set(left.length === 0 ? { state: 'withdrawn' } : { purposes: left })
      .where(and(eq(confirmations.id, row.id), eq(confirmations.state, 'pending')));
  }
  return ended;
}

/** Marks it confirmed. @returns false when somebody else did, or it is too late */
export async function markConfirmed(db: Db, id: string, now: number): Promise<boolean> {
  const [result] = await db
    .update(confirmations)
    .set({ state: 'confirmed', confirmedAt: now })
    .where(and(eq(confirmations.id, id), eq(confirmations.state, 'pending')));
  return result.affectedRows === 1;
}

/** Notes that one more mail goes out. @returns false when it is too soon, too many were sent, or it is not open */
export async function noteSend(
  db: Db,
  id: string,
  limits: { restMs: number; most: number },
  now: number,
): Promise<boolean> {
  const [result] = await db
    .update(confirmations)
    .set({ lastSentAt: now, sends: sql`sends + 1` })
    .where(
      and(
        eq(confirmations.id, id),
        eq(confirmations.state, 'pending'),
        lte(confirmations.lastSentAt, now - limits.restMs),
        sql`sends < ${limits.most}`,
      ),
    );
  return result.affectedRows === 1;
}

/** Open confirmations whose time is over. */
export async function overdueConfirmations(db: Db, now: number): Promise<ConfirmationRecord[]> {
  return db
    .select()
    .from(confirmations)
    .where(and(eq(confirmations.state, 'pending'), lte(confirmations.expiresAt, now)))
    .limit(200);
}

export async function markExpired(db: Db, id: string): Promise<boolean> {
  const [result] = await db
    .update(confirmations)
    .set({ state: 'expired' })
    .where(and(eq(confirmations.id, id), eq(confirmations.state, 'pending')));
  return result.affectedRows === 1;
}
