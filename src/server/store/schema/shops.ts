import { int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import { id, time } from './columns.ts';

/** How far it is known what happened in shops that are sources. */
export const shops = mysqlTable('shops', {
  sourceId: id('source_id').primaryKey(),
  connectionId: id('connection_id').notNull().unique(),
  /** The position of the last happening that was asked for, as the shop counts; '' before anything was. */
  position: varchar('position', { length: 120 }).notNull().default(''),
  /** When the shop last told something by itself, and when it was last asked. */
  heardAt: time('heard_at'),
  askedAt: time('asked_at'),
  /** How many happenings it never told, and were found by asking; and when the last one was. */
  missed: int('missed').notNull().default(0),
  missedAt: time('missed_at'),
  /** Why it could not be asked; '' while it can. */
  problem: varchar('problem', { length: 300 }).notNull().default(''),
  dueAt: time('due_at').notNull().default(0),
  leaseUntil: time('lease_until').notNull().default(0),
});
