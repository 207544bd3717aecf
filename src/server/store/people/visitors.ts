import { sql } from 'drizzle-orm';
import type { KnownPerson } from '../../../core/plan/index.ts';
import { rowsOf, type Db } from '../database.ts';
import { readContacts } from './known.ts';
import { samePerson } from './tree.ts';

/** The contact whom a submission is of, once it is planned, and whether that was confirmed by it; null for no such submission. */
export async function personBehind(db: Db, submissionId: string) {
  const [row] = await rowsOf<{ contactId: string | null; sourceId: string; confirmed: number | string }>(
    db,
    sql`SELECT contact_id AS contactId, source_id AS sourceId,
      EXISTS (SELECT 1 FROM consent_events e WHERE e.submission_id = s.id AND e.kind = 'confirmed' AND e.undone_at IS NULL) AS confirmed
      FROM submissions s WHERE s.id = ${submissionId} AND s.suspicion IS NULL`,
  );
  return row ? { ...row, confirmed: Number(row.confirmed) === 1 } : null;
}

/** What is known of the person whom a contact belongs to. */
export async function readKnownContact(db: Db, contactId: string): Promise<Pick<KnownPerson, 'consent' | 'sent'>> {
  const { consent, sent } = (await readContacts(db, [contactId], null))(contactId);
  return { consent, sent };
}

/** The sources by which a person sent something. */
export async function sourcesAnsweredBy(db: Db, contactId: string): Promise<string[]> {
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT DISTINCT s.source_id AS id FROM deliveries d JOIN submissions s ON s.id = d.submission_id
      WHERE d.contact_id IN ${samePerson(contactId)}
      UNION SELECT DISTINCT s.source_id FROM consent_events e JOIN submissions s ON s.id = e.submission_id
      WHERE e.contact_id IN ${samePerson(contactId)}
      UNION SELECT DISTINCT s.source_id FROM claims c JOIN submissions s ON s.id = c.submission_id
      WHERE c.contact_id IN ${samePerson(contactId)}`,
  );
  return rows.map(({ id }) => id);
}

/** What was agreed to by one submission. */
export const consentGivenBy = (db: Db, submissionId: string): Promise<KnownPerson['consent']> =>
  rowsOf(
    db,
    sql`SELECT purpose, channel, kind, at FROM consent_events WHERE submission_id = ${submissionId} ORDER BY at`,
  );
