import { and, asc, eq, inArray, lte, sql } from 'drizzle-orm';
import type { VerifyResult } from '../../contract/connection.ts';
import type { CredentialName, Profile } from '../../contract/profile/index.ts';
import type { Catalogue, CatalogueDifference } from '../../core/plan/index.ts';
import { CONNECTING, type ConnectionEvent, type ConnectionState } from '../../core/states/index.ts';
import { changedRows, type Db } from './database.ts';
import { connectionHealth, connections, notices, profiles } from './schema/index.ts';

export type Hints = Partial<Record<CredentialName, string>>;

export interface ConnectionRecord {
  id: string;
  profile: string;
  /** The profile's document when an operator made it; null when it ships with Iwashi. */
  ownProfile: Profile | null;
  name: string;
  /** In which folder of the list it stands; '' for none. */
  folder: string;
  baseUrl: string;
  /** The encrypted credentials. */
  secret: string;
  hints: Hints;
  tokens: string | null;
  state: ConnectionState;
  verify: VerifyResult | null;
  catalogue: Catalogue | null;
  catalogueAt: number | null;
  changes: CatalogueDifference[];
  changesAt: number | null;
  /** When the answer to a write was found to be untrue; null while answers are true. */
  answerUntrueAt: number | null;
  checkAt: number;
  createdAt: number;
}

const joined = (db: Db) =>
  db
    .select({ row: connections, document: profiles.document })
    .from(connections)
    .leftJoin(profiles, eq(profiles.id, connections.profile));

const toRecord = ({ row, document }: Awaited<ReturnType<typeof joined>>[number]): ConnectionRecord => ({
  ...row,
  ownProfile: document,
  changes: row.changes ?? [],
});

export async function listConnections(db: Db): Promise<ConnectionRecord[]> {
  return (await joined(db).orderBy(asc(connections.name))).map(toRecord);
}

export async function findConnection(db: Db, id: string): Promise<ConnectionRecord | null> {
  const [row] = await joined(db).where(eq(connections.id, id));
  return row ? toRecord(row) : null;
}

/** Connections whose time has come to be verified without anybody asking. */
export async function connectionsToCheck(db: Db, now: number): Promise<ConnectionRecord[]> {
  const due = and(lte(connections.checkAt, now), sql`${connections.state} IN ('active', 'refused')`);
  return (await joined(db).where(due).orderBy(asc(connections.checkAt)).limit(10)).map(toRecord);
}

/** Has connections verified at the next occasion, or once what they offer was last fetched so long ago. */
export async function checkSoon(db: Db, ids: string[], restMs: number, now: number): Promise<void> {
  if (ids.length === 0) return;
  const soon = sql`GREATEST(${now}, COALESCE(${connections.catalogueAt}, 0) + ${restMs})`;
  await db
    .update(connections)
    .set({ checkAt: sql`LEAST(${connections.checkAt}, ${soon})` })
    .where(inArray(connections.id, ids));
}

/** Takes a check for one worker. @returns false when another took it */
export async function takeCheck(db: Db, { id, checkAt }: ConnectionRecord, next: number): Promise<boolean> {
  const [result] = await db
    .update(connections)
    .set({ checkAt: next })
    .where(and(eq(connections.id, id), eq(connections.checkAt, checkAt)));
  return result.affectedRows === 1;
}

export async function addConnection(db: Db, record: Omit<ConnectionRecord, 'ownProfile' | 'folder'>): Promise<void> {
  await db.insert(connections).values(record);
}

export async function changeConnection(
  db: Db,
  id: string,
  change: Partial<Omit<ConnectionRecord, 'id' | 'ownProfile' | 'state'>>,
): Promise<void> {
  await db.update(connections).set(change).where(eq(connections.id, id));
}

/** Moves a connection on, where the event applies. @returns false where it does not, and nothing changed */
export async function moveConnection(db: Db, id: string, event: ConnectionEvent): Promise<boolean> {
  const result = await db
    .update(connections)
    .set({ state: CONNECTING.to(event) })
    .where(and(eq(connections.id, id), inArray(connections.state, CONNECTING.before(event))));
  return changedRows(result) === 1;
}

export async function removeConnection(db: Db, id: string): Promise<void> {
  await db.delete(connections).where(eq(connections.id, id));
  await db.delete(connectionHealth).where(eq(connectionHealth.connectionId, id));
  await db.delete(notices).where(eq(notices.connectionId, id));
}

/** The encrypted tokens of a connection, locked until the transaction ends, so that they are renewed once only. */
export async function lockTokens(db: Db, id: string): Promise<string | null> {
  const [row] = await db
    .select({ tokens: connections.tokens })
    .from(connections)
    .where(eq(connections.id, id))
    .for('update');
  return row?.tokens ?? null;
}

/** What each connection offers, as last fetched. */
export async function readCatalogues(db: Db): Promise<Record<string, Catalogue>> {
  const rows = await db.select({ id: connections.id, catalogue: connections.catalogue }).from(connections);
  return cataloguesOf(rows);
}

/** What connections offer, by their ids; without those that were never verified. */
export const cataloguesOf = (records: Pick<ConnectionRecord, 'id' | 'catalogue'>[]): Record<string, Catalogue> =>
  Object.fromEntries(records.flatMap(({ id, catalogue }) => (catalogue ? [[id, catalogue]] : [])));

/** When each catalogue was fetched, of those that were, and how the connection stands. */
export async function readCatalogueDates(
  db: Db,
): Promise<{ id: string; name: string; at: number; state: ConnectionState }[]> {
  const rows = await db
    .select({ id: connections.id, name: connections.name, at: connections.catalogueAt, state: connections.state })
    .from(connections);
  return rows.flatMap(({ at, ...row }) => (at === null ? [] : [{ ...row, at }]));
}

export async function readCatalogue(db: Db, id: string): Promise<Catalogue | null> {
  const [row] = await db.select({ catalogue: connections.catalogue }).from(connections).where(eq(connections.id, id));
  return row?.catalogue ?? null;
}
