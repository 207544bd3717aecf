import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { ConsentNeed } from '../../core/consent/index.ts';
import type { EventMeaning } from '../../contract/profile/index.ts';
import { changedRows, type Db } from './database.ts';
import { samePerson } from './people/tree.ts';
import { connections, deliveries, noticeAddresses, notices } from './schema/index.ts';

export type NoticeAddress = typeof noticeAddresses.$inferSelect;

export async function addNoticeAddress(db: Db, address: { connectionId: string; tokenHash: string; now: number }) {
  const { now, ...rest } = address;
  await db.insert(noticeAddresses).values({ ...rest, createdAt: now });
}

/** Completes an address once the other system knows it. */
export async function setRegistered(
  db: Db,
  connectionId: string,
  registered: { remoteId: string; secret: string },
): Promise<void> {
  await db.update(noticeAddresses).set(registered).where(eq(noticeAddresses.connectionId, connectionId));
}

export async function findNoticeAddress(db: Db, tokenHash: string): Promise<NoticeAddress | null> {
  const [row] = await db.select().from(noticeAddresses).where(eq(noticeAddresses.tokenHash, tokenHash));
  return row ?? null;
}

export async function noticeAddressOf(db: Db, connectionId: string): Promise<NoticeAddress | null> {
  const [row] = await db.select().from(noticeAddresses).where(eq(noticeAddresses.connectionId, connectionId));
  return row ?? null;
}

export async function removeNoticeAddress(db: Db, connectionId: string): Promise<void> {
  await db.delete(noticeAddresses).where(eq(noticeAddresses.connectionId, connectionId));
}

export async function listNoticeAddresses(db: Db): Promise<Map<string, NoticeAddress>> {
  const rows = await db.select().from(noticeAddresses);
  return new Map(rows.map((row) => [row.connectionId, row]));
}

/** Notes that a notice came that was signed rightly; only the first time counts. */
export async function markProven(db: Db, connectionId: string, now: number): Promise<void> {
  await db
    .update(noticeAddresses)
    .set({ provenAt: now })
    .where(and(eq(noticeAddresses.connectionId, connectionId), isNull(noticeAddresses.provenAt)));
}

export type NewNotice = typeof notices.$inferInsert;

/** Stores a notice. @returns false when it was stored before */
export async function addNotice(db: Db, notice: NewNotice): Promise<boolean> {
  return changedRows(await db.insert(notices).ignore().values(notice)) === 1;
}

export interface NoticeRecord {
  connectionId: string;
  connectionName: string;
  kind: string;
  meaning: EventMeaning | null;
  contactId: string | null;
  at: number;
}

/** The newest notices of a connection, or about a contact. */
export async function listNotices(
  db: Db,
  of: { connectionId: string } | { contactId: string },
  limit: number,
): Promise<NoticeRecord[]> {
  return db
    .select({
      connectionId: notices.connectionId,
      connectionName: connections.name,
      kind: notices.kind,
      meaning: notices.meaning,
      contactId: notices.contactId,
      at: notices.at,
    })
    .from(notices)
    .innerJoin(connections, eq(connections.id, notices.connectionId))
    .where(
      'contactId' in of
        ? sql`${notices.contactId} IN ${samePerson(of.contactId)}`
        : eq(notices.connectionId, of.connectionId),
    )
    .orderBy(desc(notices.id))
    .limit(limit);
}

/** On what consent a person was sent to a connection. */
export async function consentUsed(db: Db, contactId: string, connectionId: string): Promise<ConsentNeed[]> {
  const rows = await db
    .select({ intent: deliveries.intent })
    .from(deliveries)
    .where(
      and(
        sql`${deliveries.contactId} IN ${samePerson(contactId)}`,
        eq(deliveries.connectionId, connectionId),
        inArray(deliveries.state, ['delivered', 'held', 'queued', 'sending', 'retrying']),
      ),
    );
  const needs = rows.flatMap(({ intent: { purpose, channel } }) => (purpose === '' ? [] : [{ purpose, channel }]));
  return [...new Map(needs.map((need) => [`${need.channel} ${need.purpose}`, need])).values()];
}
