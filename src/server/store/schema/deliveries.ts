import type { ExchangeView } from '../../../contract/deliveries.ts';
import type { Cause, DeliveryState, ProvedBy, ReadBackRow } from '../../../core/delivery/index.ts';
import { readIntent } from '../../../core/plan/index.ts';
import { bigint, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';

import { id, json, time, work } from './columns.ts';

export const deliveries = mysqlTable(
  'deliveries',
  {
    id: id('id').primaryKey(),
    /** The order of deliveries for one person at one connection. */
    sequence: bigint('sequence', { mode: 'number' }).notNull().autoincrement().unique(),
    submissionId: id('submission_id').notNull(),
    contactId: id('contact_id').notNull(),
    connectionId: id('connection_id').notNull(),
    routeId: id('route_id').notNull(),
    routeVersion: int('route_version').notNull(),
    /** The target within the route, which outlives its reordering. */
    targetId: varchar('target_id', { length: 40 }).notNull(),
    confirmationId: id('confirmation_id'),
    intent: json('intent', readIntent).notNull(),
    leftOut: json<string[]>('left_out').notNull(),
    state: varchar('state', { length: 10 }).$type<DeliveryState>().notNull(),
    cause: varchar('cause', { length: 30 }).$type<Cause>(),
    causeDetail: varchar('cause_detail', { length: 600 }),
    readBack: json<ReadBackRow[]>('read_back'),
    /** How what was read back is known; null for what is older than that. */
    provedBy: varchar('proved_by', { length: 10 }).$type<ProvedBy>(),
    /** When something began to be sent that would be added twice if it were sent again; null when nothing was. */
    begunAt: time('begun_at'),
    createdAt: time('created_at').notNull(),
    endedAt: time('ended_at'),
    ...work,
  },
  (table) => [
    index('deliveries_work').on(table.connectionId, table.state, table.dueAt),
    index('deliveries_order').on(table.contactId, table.connectionId, table.sequence),
    index('deliveries_submission').on(table.submissionId),
    index('deliveries_confirmation').on(table.confirmationId),
    index('deliveries_connection').on(table.connectionId, table.state, table.endedAt),
    index('deliveries_route').on(table.routeId, table.state, table.endedAt),
    index('deliveries_cause').on(table.cause),
    index('deliveries_ended').on(table.state, table.endedAt),
  ],
);

export const attempts = mysqlTable(
  'attempts',
  {
    deliveryId: id('delivery_id').notNull(),
    number: int('number').notNull(),
    startedAt: time('started_at').notNull(),
    outcome: varchar('outcome', { length: 60 }).notNull(),
    cause: varchar('cause', { length: 30 }).$type<Cause>(),
    said: varchar('said', { length: 600 }).notNull(),
    exchanges: json<ExchangeView[] | null>('exchanges').notNull(),
  },
  (table) => [primaryKey({ columns: [table.deliveryId, table.number] }), index('attempts_age').on(table.startedAt)],
);
