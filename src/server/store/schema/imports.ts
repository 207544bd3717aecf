import { bigint, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';
import type { Fetched, FileReading, ImportCounts, ImportEvidence, RehearsedCounts } from '../../../contract/imports.ts';
import type { ImportState } from '../../../core/states/index.ts';
import type { ColumnFound, Written } from '../../../core/tables/index.ts';
import { id, json, time } from './columns.ts';

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
    reading: json<FileReading>('reading'),
    written: json<Record<string, Written>>('written').notNull(),
    columns: json<ColumnFound[]>('columns_found').notNull(),
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
