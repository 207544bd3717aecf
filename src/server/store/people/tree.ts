import { sql, type SQL } from 'drizzle-orm';

/**
 * The contacts that are one person with a contact: those merged into the one that stands for it. What was said of each stays
 * its own; a person is read as all of them together. Joins over contacts say their order: statistics are behind while many arrive,
 * and by them the database reads the whole ledger to find the few.
 */
export const samePerson = (contactId: string): SQL =>
  sql`(SELECT part.id FROM contacts own STRAIGHT_JOIN contacts part ON part.person_id = own.person_id WHERE own.id = ${contactId})`;
