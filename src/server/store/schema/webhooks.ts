import { index, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import type { ArrivalOutcome } from '../../../contract/webhook.ts';
import type { GoneOfKind, KindLearnt } from '../../../core/intake/index.ts';
import { id, json, longText, time } from './columns.ts';

/** The secret that whoever sends to an address for programs has to know, encrypted. */
export const sourceSecrets = mysqlTable('source_secrets', {
  sourceId: id('source_id').primaryKey(),
  secret: longText('secret').notNull(),
  setAt: time('set_at').notNull(),
  /** The one of before, which is let in until then; null for none. */
  former: longText('former'),
  formerUntil: time('former_until').notNull().default(0),
});

/** What came to an address for programs and became no submission of its own: the newest of each. */
export const notedArrivals = mysqlTable(
  'noted_arrivals',
  {
    id: id('id').primaryKey(),
    sourceId: id('source_id').notNull(),
    receivedAt: time('received_at').notNull(),
    outcome: varchar('outcome', { length: 20 }).$type<ArrivalOutcome>().notNull(),
    /** Why it was not taken, or what it repeats. */
    why: varchar('why', { length: 300 }).notNull(),
    contentType: varchar('content_type', { length: 120 }).notNull(),
    headers: json<Record<string, string>>('headers').notNull(),
    body: longText('body').notNull(),
    submissions: json<string[]>('submissions').notNull(),
  },
  (table) => [index('noted_arrivals_source').on(table.sourceId, table.id)],
);

/** What was learnt of what comes to an address, and how far was read. */
export const sourceShapes = mysqlTable('source_shapes', {
  sourceId: id('source_id').primaryKey(),
  /** The last submission, and the last of those that were noted. */
  submissionId: id('submission_id').notNull(),
  notedId: id('noted_id').notNull(),
  /** By the kind of event; '' where they are not told apart. */
  kinds: json<Record<string, KindLearnt>>('kinds').notNull(),
  /** What does not come any more. */
  gone: json<GoneOfKind[]>('gone').notNull(),
});
