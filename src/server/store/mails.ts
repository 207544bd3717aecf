import { and, asc, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import { MAILING, type MailEvent } from '../../core/states/index.ts';
import { changedRows, insertRows, type Db } from './database.ts';
import type { ConfirmationRecord } from './confirmations.ts';
import { confirmations, mailboxDays, mails } from './schema/index.ts';

export type MailRecord = typeof mails.$inferSelect;

export type NewMail = Pick<
  MailRecord,
  | 'id'
  | 'kind'
  | 'confirmationId'
  | 'submissionId'
  | 'contactId'
  | 'routeId'
  | 'mailId'
  | 'to'
  | 'replyTo'
  | 'subject'
  | 'text'
  | 'state'
> &
  Partial<Pick<MailRecord, 'aboutKind'>>;

/** Puts mails into the outbox. */
export async function addMails(db: Db, mail: NewMail[], now: number): Promise<void> {
  await insertRows(
    db,
    mails,
    mail.map((one) => ({ aboutKind: 'submission' as const, ...one, createdAt: now, dueAt: now })),
  );
}

/** A mail that asks to confirm: its words and address are those of its confirmation. */
export const askingMail = (
  id: string,
  confirmation: Pick<ConfirmationRecord, 'id' | 'submissionId' | 'contactId' | 'routeId' | 'sentTo'>,
): NewMail => ({
  id,
  kind: 'ask',
  confirmationId: confirmation.id,
  submissionId: confirmation.submissionId,
  contactId: confirmation.contactId,
  routeId: confirmation.routeId,
  mailId: '',
  to: [confirmation.sentTo],
  replyTo: '',
  subject: '',
  text: '',
  state: 'queued',
});

/** A mail, and the confirmation that it asks for or waits for. */
export async function findMail(db: Db, id: string) {
  const [row] = await db
    .select({ mail: mails, confirmation: confirmations })
    .from(mails)
    .leftJoin(confirmations, eq(confirmations.id, mails.confirmationId))
    .where(eq(mails.id, id));
  return row ?? null;
}

/** No mail waits longer for its next try. */
export const LONGEST_MAIL_WAIT_MS = 10 * 60_000;

/** How sending ended. */
export type MailEnd = { sentAt: number } | { error: string; dueAt: number } | { error: string };

/** Ends a try. Without a time at which it is tried again, it is held. */
export async function endMail(db: Db, id: string, end: MailEnd): Promise<void> {
  const event = 'sentAt' in end ? 'sent' : 'dueAt' in end ? 'failed for now' : 'stopped';
  await move(db, eq(mails.id, id), event, { ...end, leaseUntil: 0, leaseOwner: null });
}

/** Lets mails go that waited for a confirmation. */
export async function releaseMails(db: Db, confirmationId: string, now: number): Promise<void> {
  await move(db, waitingFor(confirmationId), 'confirmed', { dueAt: now });
}

/** Gives up mails that waited for a confirmation that never came. */
export async function dropUnconfirmedMails(
  db: Db,
  confirmationId: string,
  why = 'Never confirmed in time.',
): Promise<void> {
  await move(db, waitingFor(confirmationId), 'dropped', { error: why });
}

/** Sends a held mail again. @returns false when it is not held */
export const sendAgain = (db: Db, id: string, now: number): Promise<boolean> =>
  move(db, eq(mails.id, id), 'tried again', { error: null, tries: 0, dueAt: now });

/** Gives up a held mail. @returns false when it went on meanwhile */
export const dropMail = (db: Db, id: string, reason: string): Promise<boolean> =>
  move(db, eq(mails.id, id), 'dropped', { error: reason });

const waitingFor = (confirmationId: string) =>
  and(eq(mails.confirmationId, confirmationId), inArray(mails.state, ['waiting']));

/** Moves mails on, where the event applies. @returns whether it did for any */
async function move(
  db: Db,
  which: ReturnType<typeof and>,
  event: MailEvent,
  change: Partial<typeof mails.$inferInsert>,
): Promise<boolean> {
  const applies = and(which, inArray(mails.state, MAILING.before(event)));
  const result = await db
    .update(mails)
    .set({ ...change, state: MAILING.to(event) })
    .where(applies);
  return changedRows(result) > 0;
}

export async function mailsOf(db: Db, submissionId: string, confirmationIds: string[]): Promise<MailRecord[]> {
  const own = and(eq(mails.submissionId, submissionId), eq(mails.aboutKind, 'submission'));
  const ofThese =
    confirmationIds.length === 0 ? own : sql`(${own} OR ${inArray(mails.confirmationId, confirmationIds)})`;
  return db.select().from(mails).where(ofThese).orderBy(asc(mails.createdAt), asc(mails.id));
}

/** What was mailed about a conversation belongs to the submission that it became. */
export async function adoptMails(db: Db, conversationId: string, submissionId: string): Promise<void> {
  await db
    .update(mails)
    .set({ aboutKind: 'submission', submissionId })
    .where(and(eq(mails.submissionId, conversationId), eq(mails.aboutKind, 'conversation')));
}

/** The answers that went out to several contacts lately. */
export async function answersSince(db: Db, contactIds: string[], since: number) {
  if (contactIds.length === 0) return [];
  const { contactId, routeId, mailId, createdAt } = mails;
  return db
    .select({ contactId, routeId, mailId, at: createdAt })
    .from(mails)
    .where(and(inArray(contactId, contactIds), gt(createdAt, since), eq(mails.kind, 'answer')));
}

/** Counts one more mail to a mailbox. @returns how many it got that day, with this one */
export async function countToMailbox(db: Db, mailbox: string, day: number): Promise<number> {
  // The number that this very statement made: others count at the same time.
  const [header] = (await db.execute(
    sql`INSERT INTO mailbox_days (mailbox, day, mails) VALUES (${mailbox}, ${day}, 1)
      ON DUPLICATE KEY UPDATE mails = LAST_INSERT_ID(mails + 1)`,
  )) as unknown as [{ affectedRows: number; insertId: number }];
  return header.affectedRows === 1 ? 1 : header.insertId;
}

/** Forgets what was counted before a day. */
export async function forgetMailboxDays(db: Db, before: number): Promise<void> {
  await db.delete(mailboxDays).where(lt(mailboxDays.day, before));
}
