import { customType, index, int, mysqlTable, primaryKey, smallint, tinyint, varchar } from 'drizzle-orm/mysql-core';
import type { CountedWhat, Dimension, StretchHours } from '../../../core/insight/index.ts';
import { id, time } from './columns.ts';

/** Texts that are counted apart also where only a capital or an accent differs. */
const exactText = (name: string, length: number) =>
  customType<{ data: string }>({ dataType: () => `varchar(${length}) character set utf8mb4 collate utf8mb4_bin` })(
    name,
  );

/** What happened at a form, once each: how a visitor met it, and what became of what they sent. Nothing of who it was. */
export const formEvents = mysqlTable(
  'form_events',
  {
    /** One showing of a form on one page, or the submission that came of one. */
    subject: id('subject').notNull(),
    what: varchar('what', { length: 10 }).$type<CountedWhat>().notNull(),
    /** Which question was answered, or which way was taken; '' for the whole form. */
    question: exactText('question', 140).notNull().default(''),
    sourceId: id('source_id').notNull(),
    at: time('at').notNull(),
    page: exactText('page', 300).notNull().default(''),
    device: varchar('device', { length: 120 }).notNull().default(''),
    campaign: exactText('campaign', 120).notNull().default(''),
    source: exactText('campaign_source', 120).notNull().default(''),
    medium: exactText('campaign_medium', 120).notNull().default(''),
    term: exactText('campaign_term', 120).notNull().default(''),
    content: exactText('campaign_content', 120).notNull().default(''),
    referrer: exactText('referrer', 120).notNull().default(''),
    cameBy: varchar('came_by', { length: 10 }).notNull().default(''),
    variant: exactText('variant', 120).notNull().default(''),
    /** By which stroke it was added to the counts; null before that. */
    countedBy: id('counted_by'),
  },
  (table) => [
    primaryKey({ columns: [table.subject, table.what, table.question] }),
    index('form_events_uncounted').on(table.countedBy),
    index('form_events_source').on(table.sourceId, table.at),
    index('form_events_age').on(table.at),
  ],
);

/** How often what happened in a stretch of time (UTC), of all and by one thing at a time; of each source, and ('') of all of them. */
export const formCounts = mysqlTable(
  'form_counts',
  {
    /** How long the stretch is. */
    hours: smallint('hours').$type<StretchHours>().notNull(),
    dimension: varchar('dimension', { length: 10 }).$type<Dimension>().notNull(),
    sourceId: id('source_id').notNull(),
    /** Its number since 1970. */
    stretch: int('stretch').notNull(),
    /** '' for all. */
    value: exactText('value', 300).notNull(),
    what: varchar('what', { length: 10 }).$type<CountedWhat>().notNull(),
    count: int('count').notNull(),
  },
  (table) => [
    primaryKey({
      columns: [table.hours, table.dimension, table.sourceId, table.stretch, table.value, table.what],
    }),
  ],
);

/** How many deliveries arrived by each way through a route, by the day (UTC). */
export const deliveryCounts = mysqlTable(
  'delivery_counts',
  {
    /** Days since 1970. */
    day: int('day').notNull(),
    routeId: id('route_id').notNull(),
    sourceId: id('source_id').notNull(),
    connectionId: id('connection_id').notNull(),
    /** Each figure is kept in several rows, so that those who add to it at the same time need not wait for one another. */
    share: tinyint('share').notNull(),
    delivered: int('delivered').notNull(),
  },
  (table) => [primaryKey({ columns: [table.day, table.routeId, table.sourceId, table.connectionId, table.share] })],
);
