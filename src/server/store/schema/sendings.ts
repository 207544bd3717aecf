import { index, int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import type { SendingPile } from '../../../contract/sendings.ts';
import type { Condition } from '../../../core/conditions/index.ts';
import type { SendingState } from '../../../core/states/index.ts';
import { id, json, time } from './columns.ts';

/** Submissions that are there already, sent through a route at a set pace. */
export const sendings = mysqlTable(
  'sendings',
  {
    id: id('id').primaryKey(),
    routeId: id('route_id').notNull(),
    state: varchar('state', { length: 10 }).$type<SendingState>().notNull(),
    /** Those received from then on, and before then. */
    since: time('since').notNull(),
    until: time('until').notNull(),
    pile: varchar('pile', { length: 10 }).$type<SendingPile>().notNull().default('all'),
    /** Only those for whom it holds. */
    when: json<Condition>('chosen'),
    perMinute: int('per_minute').notNull(),
    /** How many there were when it began, how many it has come to, and what became of them. */
    total: int('total').notNull(),
    done: int('done').notNull().default(0),
    sent: int('sent').notNull().default(0),
    held: int('held').notNull().default(0),
    asked: int('asked').notNull().default(0),
    waiting: int('waiting').notNull().default(0),
    leftOut: int('left_out').notNull().default(0),
    notChosen: int('not_chosen').notNull().default(0),
    /** The last submission, or held delivery, that it came to; '' before the first. */
    cursor: varchar('last_submission', { length: 36 }).notNull().default(''),
    dueAt: time('due_at').notNull(),
    startedAt: time('started_at').notNull(),
    endedAt: time('ended_at'),
    byName: varchar('by_name', { length: 120 }).notNull(),
  },
  (table) => [index('sendings_work').on(table.state, table.dueAt), index('sendings_route').on(table.routeId)],
);
