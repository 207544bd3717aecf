import { and, desc, eq, inArray, lte, sql } from 'drizzle-orm';
import { insertRows, type Db } from './database.ts';
import { samePerson } from './people/tree.ts';
import { confirmations, confirmationTokens, mails } from './schema.ts';

export type ConfirmationRecord = typeof confirmations.$inferSelect;

export type NewConfirmation = Omit<ConfirmationRecord, 'sends' | 'confirmedAt'>;

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
  const open = and(
    sql`${confirmations.contactId} IN ${samePerson(contactId)}`,
    eq(confirmations.purpose, purpose),
    eq(confirmations.state, 'pending'),
  );
  const [row] = await db.select({ id: confirmations.id }).from(confirmations).where(open).limit(1);
  return row !== undefined;
}

export async function addToken(db: Db, tokenHash: string, confirmationId: string): Promise<void> {
  await db.insert(confirmationTokens).values({ tokenHash, confirmationId });
}

/** The submission that a confirmation was first asked for; '' when there is no such one. */
export async function submissionOfConfirmation(db: Db, id: string): Promise<string> {
  const [row] = await db
    .select({ submissionId: confirmations.submissionId })
    .from(confirmations)
    .where(eq(confirmations.id, id));
  return row?.submissionId ?? '';
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

/** Mails that are to ask for a confirmation. */
export async function addMails(db: Db, mail: { id: string; confirmationId: string }[], now: number): Promise<void> {
  await insertRows(
    db,
    mails,
    mail.map((one) => ({ ...one, state: 'queued', createdAt: now, dueAt: now })),
  );
}

export async function findMail(db: Db, id: string) {
  const [row] = await db
    .select({ mail: mails, confirmation: confirmations })
    .from(mails)
    .innerJoin(confirmations, eq(confirmations.id, mails.confirmationId))
    .where(eq(mails.id, id));
  return row ? { ...row.mail, confirmation: row.confirmation } : null;
}

export async function endMail(
  db: Db,
  id: string,
  end: { state: 'sent' | 'queued' | 'held'; sentAt?: number; error?: string; dueAt?: number },
): Promise<void> {
  await db
    .update(mails)
    .set({ ...end, leaseUntil: 0, leaseOwner: null })
    .where(eq(mails.id, id));
}

export async function mailsOf(db: Db, confirmationIds: string[]) {
  if (confirmationIds.length === 0) return [];
  return db.select().from(mails).where(inArray(mails.confirmationId, confirmationIds)).orderBy(desc(mails.createdAt));
}
