import { eq, sql } from 'drizzle-orm';
import { rowsOf, type Db } from '../database.ts';
import {
  claims,
  consentEvents,
  contactKeys,
  contacts,
  contactValues,
  searchWords,
  submissions,
} from '../schema/index.ts';
import { refreshRecord } from './changes.ts';

/**
 * Takes back what a submission said of a person: values and consent stand as if it had not come, and who is known by nothing else is
 * nobody any more. What it said stays where it was said, marked as taken back.
 * @returns whether the person is gone
 */
export async function undoSubmission(
  db: Db,
  { id, contactId }: { id: string; contactId: string | null },
  now: number,
): Promise<boolean> {
  await db.update(submissions).set({ undoneAt: now }).where(eq(submissions.id, id));
  if (contactId === null) return false;
  await db.update(claims).set({ undoneAt: now }).where(eq(claims.submissionId, id));
  await db.update(consentEvents).set({ undoneAt: now }).where(eq(consentEvents.submissionId, id));
  const [left] = await rowsOf<{ known: number }>(
    db,
    sql`SELECT EXISTS (SELECT 1 FROM submissions WHERE contact_id = ${contactId} AND undone_at IS NULL)
        OR EXISTS (SELECT 1 FROM deliveries WHERE contact_id = ${contactId} AND state <> 'dropped')
        OR EXISTS (SELECT 1 FROM consent_events WHERE contact_id = ${contactId} AND undone_at IS NULL)
        OR EXISTS (SELECT 1 FROM contacts WHERE (person_id = ${contactId} AND id <> ${contactId}) OR (id = ${contactId} AND person_id <> id))
        OR EXISTS (SELECT 1 FROM merges WHERE contact_id = ${contactId} OR into_id = ${contactId}) AS known`,
  );
  if (Number(left?.known) === 1) {
    await refreshRecord(db, contactId, now);
    return false;
  }
  for (const table of [contactKeys, contactValues, searchWords])
    await db.delete(table).where(eq(table.contactId, contactId));
  await db.update(submissions).set({ contactId: null }).where(eq(submissions.contactId, contactId));
  await db.delete(contacts).where(eq(contacts.id, contactId));
  return true;
}
