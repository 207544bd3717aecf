import { index, mysqlTable, primaryKey } from 'drizzle-orm/mysql-core';
import { id, time } from './columns.ts';

/** Memberships that end by themselves, as the newest submission of each person tells. */
export const memberships = mysqlTable(
  'memberships',
  {
    sourceId: id('source_id').notNull(),
    contactId: id('contact_id').notNull(),
    submissionId: id('submission_id').notNull(),
    /** When the day after the last one begins. */
    lapsesAt: time('lapses_at').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.sourceId, table.contactId] }),
    index('memberships_lapse').on(table.lapsesAt),
  ],
);
