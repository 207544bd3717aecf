import type { Look } from '../../../core/forms/index.ts';
import { readSource } from '../../../core/intake/index.ts';
import type { PublishState } from '../../../core/states/index.ts';
import { int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';

import { id, json, time } from './columns.ts';

/** Looks that several forms share. */
export const themes = mysqlTable('themes', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 60 }).notNull(),
  look: json<Look>('look').notNull(),
  updatedAt: time('updated_at').notNull(),
});

export const sources = mysqlTable('sources', {
  id: id('id').primaryKey(),
  publicId: varchar('public_id', { length: 40 }).notNull().unique(),
  name: varchar('name', { length: 80 }).notNull(),
  state: varchar('state', { length: 10 }).$type<PublishState>().notNull(),
  draft: json('draft', readSource).notNull(),
  draftAt: time('draft_at').notNull(),
  liveVersion: int('live_version'),
  createdAt: time('created_at').notNull(),
});

export const sourceVersions = mysqlTable(
  'source_versions',
  {
    sourceId: id('source_id').notNull(),
    version: int('version').notNull(),
    document: json('document', readSource).notNull(),
    publishedAt: time('published_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.sourceId, table.version] })],
);
