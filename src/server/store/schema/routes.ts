import { readRoute } from '../../../core/plan/index.ts';
import type { PublishState } from '../../../core/states/index.ts';
import { index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';

import { id, json, time } from './columns.ts';

export const routes = mysqlTable('routes', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 80 }).notNull(),
  /** In which folder of the list it stands; '' for none. */
  folder: varchar('folder', { length: 60 }).notNull().default(''),
  state: varchar('state', { length: 10 }).$type<PublishState>().notNull(),
  draft: json('draft', readRoute).notNull(),
  draftAt: time('draft_at').notNull(),
  liveVersion: int('live_version'),
  createdAt: time('created_at').notNull(),
  /** null while it is in use. */
  archivedAt: time('archived_at'),
});

/** The sources that each route takes, as it is live. */
export const routeSources = mysqlTable(
  'route_sources',
  { routeId: id('route_id').notNull(), sourceId: id('source_id').notNull() },
  (table) => [
    primaryKey({ columns: [table.routeId, table.sourceId] }),
    index('route_sources_source').on(table.sourceId),
  ],
);

export const routeVersions = mysqlTable(
  'route_versions',
  {
    routeId: id('route_id').notNull(),
    version: int('version').notNull(),
    document: json('document', readRoute).notNull(),
    publishedAt: time('published_at').notNull(),
    /** What whoever published it said of it; '' for nothing. */
    note: varchar('note', { length: 300 }).notNull().default(''),
    /** Who published it; '' for before that was kept. */
    byName: varchar('by_name', { length: 120 }).notNull().default(''),
  },
  (table) => [primaryKey({ columns: [table.routeId, table.version] })],
);
