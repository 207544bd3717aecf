import { and, asc, desc, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import type { ConsentUsed } from '../../core/plan/index.ts';
import type { EventMeaning } from '../../contract/profile/index.ts';
import { changedRows, type Db } from './database.ts';
import { samePerson } from './people/tree.ts';
import { connections, deliveries, noticeAddresses, notices } from './schema/index.ts';

/** Whether a submission is of a source in which people hand something over, and not what a service tells of them. */
export const isNoInboundEvent = (sourceId: SQL): SQL =>
  sql`${sourceId} NOT IN (SELECT id FROM sources WHERE JSON_VALUE(draft, '$.kind') = 'notices')`;

export type InboundEventAddress = typeof noticeAddresses.$inferSelect;

export async function addInboundEventAddress(
  db: Db,
  address: { connectionId: string; tokenHash: string; now: number },
) {
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

export async function findInboundEventAddress(db: Db, tokenHash: string): Promise<InboundEventAddress | null> {
  const [row] = await db.select().from(noticeAddresses).where(eq(noticeAddresses.tokenHash, tokenHash));
  return row ?? null;
}

export async function inboundEventAddressOf(db: Db, connectionId: string): Promise<InboundEventAddress | null> {
  const [row] = await db.select().from(noticeAddresses).where(eq(noticeAddresses.connectionId, connectionId));
  return row ?? null;
}

export async function removeInboundEventAddress(db: Db, connectionId: string): Promise<void> {
  await db.delete(noticeAddresses).where(eq(noticeAddresses.connectionId, connectionId));
}

export async function listInboundEventAddresses(db: Db): Promise<Map<string, InboundEventAddress>> {
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

export type NewInboundEvent = typeof notices.$inferInsert;

/** Stores a notice. @returns false when it was stored before */
export async function addInboundEvent(db: Db, notice: NewInboundEvent): Promise<boolean> {
  return changedRows(await db.insert(notices).ignore().values(notice)) === 1;
}

export interface InboundEventRecord {
  connectionId: string;
  connectionName: string;
  kind: string;
  meaning: EventMeaning | null;
  contactId: string | null;
  at: number;
}

/** The newest notices of a connection, or about a contact. */
export async function listInboundEvents(
  db: Db,
  of: { connectionId: string } | { contactId: string },
  limit: number,
): Promise<InboundEventRecord[]> {
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

/** What happens there so soon after we ended something there is told because of that, whatever else they get there. */
const ECHO_MS = 2 * 60_000;

/**
 * On what consent a person was sent to a connection, when they last were, and what of it was ended there from here since.
 * @param at when what is told of happened there: what we did in the very minutes before is what it tells
 */
export async function consentUsed(
  db: Db,
  { contactId, connectionId, at }: { contactId: string; connectionId: string; at: number },
): Promise<ConsentUsed[]> {
  const rows = await db
    .select({ intent: deliveries.intent, createdAt: deliveries.createdAt, endedAt: deliveries.endedAt })
    .from(deliveries)
    .where(
      and(
        sql`${deliveries.contactId} IN ${samePerson(contactId)}`,
        eq(deliveries.connectionId, connectionId),
        inArray(deliveries.state, ['delivered', 'held', 'queued', 'sending', 'retrying']),
      ),
    )
    .orderBy(asc(deliveries.id));
  const used = new Map<string, ConsentUsed>();
  for (const { intent, createdAt, endedAt } of rows) {
    const { purpose, channel, ends } = intent;
    if (purpose === '') continue;
    if (ends === null) used.set(`${channel} ${purpose}`, { purpose, channel, sentAt: createdAt, ended: false });
    else {
      const isEcho = at >= createdAt - ECHO_MS && at <= (endedAt ?? at) + ECHO_MS;
      for (const one of used.values())
        // Who is unsubscribed gets nothing by that channel any more; who is taken out of places, nothing for that purpose.
        if (isEcho || (one.channel === channel && (ends === 'subscription' || one.purpose === purpose)))
          one.ended = true;
    }
  }
  return [...used.values()];
}
