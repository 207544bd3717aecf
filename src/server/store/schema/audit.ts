import type { ActName, ActorKind, SubjectKind } from '../../../contract/changes.ts';
import { index, mysqlTable, varchar } from 'drizzle-orm/mysql-core';

import { id, time } from './columns.ts';

/** What people and programs did here, each with what it was done to. Append-only, but for edits in a row, which are one. */
export const auditEvents = mysqlTable(
  'audit_events',
  {
    id: id('id').primaryKey(),
    at: time('at').notNull(),
    actorKind: varchar('actor_kind', { length: 10 }).$type<ActorKind>().notNull(),
    actorId: id('actor_id').notNull(),
    /** As they were called then. */
    actorName: varchar('actor_name', { length: 120 }).notNull(),
    act: varchar('act', { length: 40 }).$type<ActName>().notNull(),
    subjectKind: varchar('subject_kind', { length: 20 }).$type<SubjectKind>().notNull(),
    subjectId: varchar('subject_id', { length: 60 }).notNull(),
    /** As it was called then; '' for what has no name. */
    subjectName: varchar('subject_name', { length: 120 }).notNull(),
    detail: varchar('detail', { length: 500 }).notNull(),
  },
  (table) => [index('audit_subject').on(table.subjectKind, table.subjectId, table.id)],
);
