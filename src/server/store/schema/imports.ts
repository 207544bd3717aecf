import { bigint, boolean, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';
import type {
  FeedBy,
  Fetched,
  FileReading,
  ImportCounts,
  ImportEvidence,
  RehearsedCounts,
} from '../../../contract/imports.ts';
import type { ImportState } from '../../../core/states/index.ts';
import type { InferredColumn, Written } from '../../../core/tables/index.ts';
import { id, json, longText, time } from './columns.ts';

/** Files whose rows become submissions. What is in them is on the disk, under the import's file. */
export const imports = mysqlTable(
  'imports',
  {
    id: id('id').primaryKey(),
    sourceId: id('source_id').notNull(),
    fileId: id('file_id').notNull(),
    name: varchar('name', { length: 120 }).notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    state: varchar('state', { length: 12 }).$type<ImportState>().notNull(),
    problem: varchar('problem', { length: 300 }).notNull().default(''),
    /** How far all that a shop has was fetched; null for files that somebody brought. */
    fetched: json<Fetched>('fetched'),
    /** By which way it came by itself; null for a file that somebody brought, or had fetched. */
    fedBy: varchar('fed_by', { length: 10 }).$type<FeedBy>(),
    /** Whether its rows are taken without anybody's word once it was looked through. */
    goesOn: boolean('goes_on').notNull().default(false),
    /** The import of before whose rows are not taken again where they are the same; null for none. */
    beforeId: id('before_id'),
    reading: json<FileReading>('reading'),
    written: json<Record<string, Written>>('written').notNull(),
    columns: json<InferredColumn[]>('columns_found').notNull(),
    total: int('total').notNull().default(0),
    evidence: json<ImportEvidence>('evidence').notNull(),
    perMinute: int('per_minute').notNull(),
    /** The number of the last row that was dealt with, and how many were: in this run, or in the rehearsal that is under way. */
    lastRow: int('last_row').notNull().default(0),
    done: int('done').notNull().default(0),
    counts: json<ImportCounts>('counts').notNull(),
    rehearsed: json<RehearsedCounts>('rehearsed'),
    byName: varchar('by_name', { length: 120 }).notNull(),
    createdAt: time('created_at').notNull(),
    endedAt: time('ended_at'),
    dueAt: time('due_at').notNull(),
    leaseUntil: time('lease_until').notNull().default(0),
    leaseOwner: varchar('lease_owner', { length: 40 }),
    /** How often the same part was tried without coming to its end. */
    tries: int('tries').notNull().default(0),
  },
  (table) => [index('imports_work').on(table.state, table.dueAt), index('imports_source').on(table.sourceId, table.id)],
);

/** Rows of a file that could not be taken, as they came. */
export const importRejects = mysqlTable(
  'import_rejects',
  {
    importId: id('import_id').notNull(),
    row: int('row_number').notNull(),
    why: varchar('why', { length: 500 }).notNull(),
    cells: json<Record<string, unknown>>('cells').notNull(),
  },
  (table) => [primaryKey({ columns: [table.importId, table.row] })],
);

/** Where files come from by themselves: one way for a source. */
export const feeds = mysqlTable('feeds', {
  sourceId: id('source_id').primaryKey(),
  by: varchar('fed_by', { length: 10 }).$type<FeedBy>().notNull(),
  /** Encrypted: whoever knows it may be able to read all that is there. '' for a folder. */
  address: longText('address').notNull(),
  everyMinutes: int('every_minutes').notNull(),
  takes: boolean('takes').notNull(),
  evidence: json<ImportEvidence>('evidence').notNull(),
  perMinute: int('per_minute').notNull(),
  /** Of what was last read at the address (SHA-256): what has not changed is not brought again. */
  lastHash: varchar('last_hash', { length: 64 }).notNull().default(''),
  askedAt: time('asked_at'),
  broughtAt: time('brought_at'),
  problem: varchar('problem', { length: 300 }).notNull().default(''),
  dueAt: time('due_at').notNull(),
  leaseUntil: time('lease_until').notNull().default(0),
});
