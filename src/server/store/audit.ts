import { and, desc, eq, lt } from 'drizzle-orm';
import type { SubjectKind } from '../../contract/changes.ts';
import type { Db } from './database.ts';
import { auditEvents } from './schema/index.ts';

export type AuditRecord = typeof auditEvents.$inferSelect;

/** Edits in a row by one person within this time are one. */
const ONE_EDIT_MS = 60 * 60_000;

/** Notes what somebody did. Edits save themselves every half second: those in a row are one event, of the last one's time. */
export async function noteAct(db: Db, event: AuditRecord): Promise<void> {
  if (event.act === 'edited') {
    const [newest] = await db
      .select()
      .from(auditEvents)
      .where(and(eq(auditEvents.subjectKind, event.subjectKind), eq(auditEvents.subjectId, event.subjectId)))
      .orderBy(desc(auditEvents.id))
      .limit(1);
    const goesOn = newest?.act === 'edited' && newest.actorId === event.actorId && newest.at > event.at - ONE_EDIT_MS;
    if (goesOn) {
      await db.update(auditEvents).set({ at: event.at }).where(eq(auditEvents.id, newest.id));
      return;
    }
  }
  await db.insert(auditEvents).values(event);
}

/** What was done, newest first. @param before the last one of the page before */
export async function listActs(
  db: Db,
  { kind, id }: { kind?: SubjectKind; id?: string },
  before: string | null,
  limit: number,
): Promise<AuditRecord[]> {
  return db
    .select()
    .from(auditEvents)
    .where(
      and(
        kind === undefined ? undefined : eq(auditEvents.subjectKind, kind),
        id === undefined ? undefined : eq(auditEvents.subjectId, id),
        before === null ? undefined : lt(auditEvents.id, before),
      ),
    )
    .orderBy(desc(auditEvents.id))
    .limit(limit);
}
