import type { Look } from '../../../core/forms/index.ts';
import { readSource } from '../../../core/intake/index.ts';
import type { PublishState } from '../../../core/states/index.ts';
import { bigint, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';

import { hash, id, json, time } from './columns.ts';

/** Looks that several forms share. */
export const themes = mysqlTable('themes', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 60 }).notNull(),
  look: json<Look>('look').notNull(),
  updatedAt: time('updated_at').notNull(),
});

/** Pictures and other files of the organisation's own, for its forms to show or hand out. */
export const ownFiles = mysqlTable('own_files', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 120 }).notNull(),
  mediaType: varchar('media_type', { length: 120 }).notNull(),
  size: bigint('size', { mode: 'number' }).notNull(),
  sha256: hash('sha256').notNull(),
  /** Of a picture, in pixels; 0 for other files. */
  width: int('width').notNull().default(0),
  height: int('height').notNull().default(0),
  addedAt: time('added_at').notNull(),
});

export const sources = mysqlTable('sources', {
  id: id('id').primaryKey(),
  publicId: varchar('public_id', { length: 40 }).notNull().unique(),
  name: varchar('name', { length: 80 }).notNull(),
  /** In which folder of the list it stands; '' for none. */
  folder: varchar('folder', { length: 60 }).notNull().default(''),
  state: varchar('state', { length: 10 }).$type<PublishState>().notNull(),
  draft: json('draft', readSource).notNull(),
  draftAt: time('draft_at').notNull(),
  liveVersion: int('live_version'),
  createdAt: time('created_at').notNull(),
  /** When its draft goes live by itself, and who said so; null for never. */
  publishAt: time('publish_at'),
  publishBy: varchar('publish_by', { length: 120 }),
  /** null while it is in use. */
  archivedAt: time('archived_at'),
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
