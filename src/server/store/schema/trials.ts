import { index, int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import type { Visit } from '../../../core/intake/index.ts';
import type { TargetTrial, TrialState } from '../../../core/delivery/index.ts';
import { readRoute } from '../../../core/plan/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { hash, id, json, time } from './columns.ts';

/** Live rehearsals: a test person sent through the real destinations of a route, as it was then. */
export const trials = mysqlTable(
  'trials',
  {
    id: id('id').primaryKey(),
    routeId: id('route_id').notNull(),
    /** The version that was live, where the draft was the same; null where it was not. */
    version: int('version'),
    document: json('document', readRoute).notNull(),
    /** Of the route and of what its destinations offered: a proof holds as long as both are what they were. */
    fingerprint: hash('fingerprint').notNull(),
    sourceId: id('source_id').notNull(),
    /** What the test person says, and how. */
    person: json<{ values: FieldValues; visit: Visit }>('person').notNull(),
    targets: json<TargetTrial[]>('targets').notNull(),
    state: varchar('state', { length: 10 }).$type<TrialState>().notNull(),
    startedAt: time('started_at').notNull(),
    endedAt: time('ended_at'),
    byName: varchar('by_name', { length: 120 }).notNull(),
  },
  (table) => [index('trials_route').on(table.routeId, table.startedAt)],
);
