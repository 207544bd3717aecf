import { asc, eq } from 'drizzle-orm';
import type { VerifyResult } from '../../contract/connection.ts';
import type { Catalogue } from '../../core/plan/index.ts';
import type { Db } from './database.ts';
import { connections } from './schema.ts';

export interface ConnectionRecord {
  id: string;
  profile: string;
  name: string;
  baseUrl: string;
  /** The encrypted key. */
  secret: string;
  keyHint: string;
  verify: VerifyResult | null;
  catalogue: Catalogue | null;
  catalogueAt: number | null;
  createdAt: number;
}

const toRecord = (row: typeof connections.$inferSelect): ConnectionRecord => ({
  ...row,
  verify: row.verify as VerifyResult | null,
  catalogue: row.catalogue as Catalogue | null,
});

export async function listConnections(db: Db): Promise<ConnectionRecord[]> {
  return (await db.select().from(connections).orderBy(asc(connections.name))).map(toRecord);
}

export async function findConnection(db: Db, id: string): Promise<ConnectionRecord | null> {
  const [row] = await db.select().from(connections).where(eq(connections.id, id));
  return row ? toRecord(row) : null;
}

export async function addConnection(db: Db, record: ConnectionRecord): Promise<void> {
  await db.insert(connections).values(record);
}

export async function changeConnection(
  db: Db,
  id: string,
  change: Partial<Omit<ConnectionRecord, 'id'>>,
): Promise<void> {
  await db.update(connections).set(change).where(eq(connections.id, id));
}

export async function removeConnection(db: Db, id: string): Promise<void> {
  await db.delete(connections).where(eq(connections.id, id));
}

/** What each connection offers, as last fetched. */
export async function readCatalogues(db: Db): Promise<Record<string, Catalogue>> {
  const rows = await db.select({ id: connections.id, catalogue: connections.catalogue }).from(connections);
  return Object.fromEntries(rows.flatMap(({ id, catalogue }) => (catalogue ? [[id, catalogue as Catalogue]] : [])));
}

/** When each catalogue was fetched, of those that were. */
export async function readCatalogueDates(db: Db): Promise<{ id: string; at: number }[]> {
  const rows = await db.select({ id: connections.id, at: connections.catalogueAt }).from(connections);
  return rows.flatMap(({ id, at }) => (at === null ? [] : [{ id, at }]));
}

export async function readCatalogue(db: Db, id: string): Promise<Catalogue | null> {
  const [row] = await db.select({ catalogue: connections.catalogue }).from(connections).where(eq(connections.id, id));
  return (row?.catalogue ?? null) as Catalogue | null;
}
