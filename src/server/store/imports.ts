import { and, asc, desc, eq, gt, inArray, isNotNull, lt, lte, sql } from 'drizzle-orm';
import type { Written } from '../../core/tables/index.ts';
import { IMPORTING, type ImportEvent } from '../../core/states/index.ts';
import { changedRows, type Db } from './database.ts';
import { importRejects, imports } from './schema/index.ts';

export type ImportRecord = typeof imports.$inferSelect;
export type NewImport = typeof imports.$inferInsert;

export async function addImport(db: Db, record: NewImport): Promise<void> {
  await db.insert(imports).values(record);
}

/** The imports of a source, the newest first. */
export const listImports = (db: Db, sourceId: string): Promise<ImportRecord[]> =>
  db.select().from(imports).where(eq(imports.sourceId, sourceId)).orderBy(desc(imports.id)).limit(100);

export async function findImport(db: Db, id: string): Promise<ImportRecord | null> {
  const [row] = await db.select().from(imports).where(eq(imports.id, id));
  return row ?? null;
}

/** The one of before, of those that came to a source by themselves and were taken whole; null for the first. */
export async function importBefore(db: Db, { id, sourceId, fedBy }: ImportRecord): Promise<string | null> {
  if (fedBy === null) return null;
  const [before] = await db
    .select({ id: imports.id })
    .from(imports)
    .where(and(eq(imports.sourceId, sourceId), eq(imports.state, 'done'), isNotNull(imports.fedBy), lt(imports.id, id)))
    .orderBy(desc(imports.id))
    .limit(1);
  return before?.id ?? null;
}

/** Imports that came to a source by themselves and are over, beyond the newest so many. */
export const oldFedImports = (db: Db, sourceId: string, kept: number): Promise<Pick<ImportRecord, 'id' | 'fileId'>[]> =>
  db
    .select({ id: imports.id, fileId: imports.fileId })
    .from(imports)
    .where(
      and(
        eq(imports.sourceId, sourceId),
        isNotNull(imports.fedBy),
        inArray(imports.state, ['done', 'cancelled', 'unreadable', 'undone']),
      ),
    )
    .orderBy(desc(imports.id))
    .limit(100)
    .offset(kept);

/** How the columns of the newest file of a source are written, where somebody decided or it showed. */
export async function writtenBefore(db: Db, sourceId: string): Promise<Record<string, Written>> {
  const [newest] = await listImports(db, sourceId);
  return Object.fromEntries(Object.entries(newest?.written ?? {}).filter(([, written]) => written !== 'as it is'));
}

/** The numbers of the rows of an import that could not be taken. */
export async function rejectedRows(db: Db, importId: string): Promise<Set<number>> {
  const rows = await db
    .select({ row: importRejects.row })
    .from(importRejects)
    .where(eq(importRejects.importId, importId));
  return new Set(rows.map(({ row }) => row));
}

export const findImports = (db: Db, ids: string[]): Promise<ImportRecord[]> =>
  ids.length === 0 ? Promise.resolve([]) : db.select().from(imports).where(inArray(imports.id, ids));

/** Moves an import on, where the event applies, and changes what belongs to that. @returns false where it does not, and nothing changed */
export async function moveImport(
  db: Db,
  id: string,
  event: ImportEvent,
  now: number,
  part: Partial<NewImport> = {},
): Promise<boolean> {
  const to = IMPORTING.to(event);
  const isOver = to === 'done' || to === 'cancelled' || to === 'undone';
  const result = await db
    .update(imports)
    .set({ ...part, state: to, endedAt: isOver ? now : null, dueAt: now, leaseUntil: 0, tries: 0 })
    .where(and(eq(imports.id, id), inArray(imports.state, IMPORTING.before(event))));
  return changedRows(result) === 1;
}

const WORKED_ON = ['fetching', 'judging', 'rehearsing', 'running', 'undoing'] as const;

/** Takes an import whose turn it is, for so long; null when there is none. What its worker left unfinished is taken over. */
export async function takeImport(db: Db, owner: string, now: number, leaseMs: number): Promise<ImportRecord | null> {
  const due = await db
    .select({ id: imports.id, leaseUntil: imports.leaseUntil })
    .from(imports)
    .where(and(inArray(imports.state, [...WORKED_ON]), lte(imports.dueAt, now), lt(imports.leaseUntil, now)))
    .orderBy(asc(imports.dueAt))
    .limit(5);
  for (const { id, leaseUntil } of due) {
    const result = await db
      .update(imports)
      // A lease that nobody gave back is one whose work failed, or took its worker with it.
      .set({ leaseUntil: now + leaseMs, leaseOwner: owner, tries: leaseUntil > 0 ? sql`tries + 1` : 0 })
      .where(and(eq(imports.id, id), eq(imports.leaseUntil, leaseUntil)));
    if (changedRows(result) === 1) return findImport(db, id);
  }
  return null;
}

/**
 * Writes down how far an import has come.
 * @returns false where it is another worker's by now, or somebody stopped it: nothing was written
 */
export async function advanceImport(
  db: Db,
  { id, state, leaseOwner }: Pick<ImportRecord, 'id' | 'state' | 'leaseOwner'>,
  part: Partial<NewImport>,
): Promise<boolean> {
  const result = await db
    .update(imports)
    // Only a part that came to its end is one that needs no further try: judging begins anew, however far it was.
    .set(part.leaseUntil === 0 ? { ...part, tries: 0 } : part)
    .where(and(eq(imports.id, id), eq(imports.state, state), eq(imports.leaseOwner, leaseOwner ?? '')));
  return changedRows(result) === 1;
}

type Reject = typeof importRejects.$inferSelect;

/** Keeps rows that could not be taken; once, however often they are tried. */
export async function addRejects(db: Db, rejects: Reject[]): Promise<void> {
  if (rejects.length > 0) await db.insert(importRejects).ignore().values(rejects);
}

/** Rows that could not be taken, in their order. @param after the number of the row before; 0 for the first */
export const listRejects = (db: Db, importId: string, after: number, most: number): Promise<Reject[]> =>
  db
    .select()
    .from(importRejects)
    .where(and(eq(importRejects.importId, importId), gt(importRejects.row, after)))
    .orderBy(asc(importRejects.row))
    .limit(most);

export async function forgetRejects(db: Db, importId: string): Promise<void> {
  await db.delete(importRejects).where(eq(importRejects.importId, importId));
}

/** Deletes an import: its rows stay what they became. */
export async function removeImport(db: Db, id: string): Promise<void> {
  await forgetRejects(db, id);
  await db.delete(imports).where(eq(imports.id, id));
}
