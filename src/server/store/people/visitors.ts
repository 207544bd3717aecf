import { sql } from 'drizzle-orm';
import type { KnownPerson } from '../../../core/plan/index.ts';
import { oneOf, rowsOf, type Db } from '../database.ts';
import { readContacts } from './known.ts';
import { samePerson } from './tree.ts';

/** The sources of submissions, and the contacts whom they are of, once they are planned; nothing of what looks like a robot's. */
export const peopleBehind = (
  db: Db,
  submissionIds: string[],
): Promise<{ contactId: string | null; sourceId: string }[]> =>
  rowsOf(
    db,
    sql`SELECT contact_id AS contactId, source_id AS sourceId FROM submissions
      WHERE id IN ${oneOf(['', ...submissionIds])} AND suspicion IS NULL`,
  );

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

/** What was agreed to by submissions, and whether their people took that back since; nothing else that those agreed to. */
export const consentGivenBy = (db: Db, submissionIds: string[]): Promise<KnownPerson['consent']> =>
  rowsOf(
    db,
    sql`SELECT e.purpose, e.channel, e.kind, e.at FROM consent_events e
      JOIN (SELECT DISTINCT own.person_id AS person, g.purpose, g.channel FROM consent_events g
        JOIN contacts own ON own.id = g.contact_id
        WHERE g.submission_id IN ${oneOf(['', ...submissionIds])}) given
        ON given.purpose = e.purpose AND given.channel = e.channel
      JOIN contacts c ON c.id = e.contact_id AND c.person_id = given.person
      WHERE e.undone_at IS NULL AND (e.kind = 'withdrawn' OR e.submission_id IN ${oneOf(['', ...submissionIds])})
      ORDER BY e.at`,
  );
