import type { ConfirmationState } from '../../../contract/consent.ts';
import type { Channel, ConsentEventKind } from '../../../core/consent/index.ts';
import type { ConsentPolicy } from '../../../core/plan/index.ts';
import { index, int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';

import { hash, id, json, longText, time } from './columns.ts';

/** What people consent to. */
export const purposes = mysqlTable('purposes', {
  /** Of those that came of routes before purposes were things of their own, their name. */
  id: varchar('id', { length: 80 }).primaryKey(),
  name: varchar('name', { length: 80 }).notNull(),
  wordings: json<string[]>('wordings').notNull(),
  channels: json<Channel[]>('channels').notNull(),
  createdAt: time('created_at').notNull(),
  updatedAt: time('updated_at').notNull(),
  archivedAt: time('archived_at'),
});

/** Append-only. */
export const consentEvents = mysqlTable(
  'consent_events',
  {
    id: id('id').primaryKey(),
    contactId: id('contact_id').notNull(),
    submissionId: id('submission_id'),
    channel: varchar('channel', { length: 10 }).$type<Channel>().notNull(),
    purpose: varchar('purpose', { length: 80 }).notNull(),
    kind: varchar('kind', { length: 10 }).$type<ConsentEventKind>().notNull(),
    at: time('at').notNull(),
    /** Of a confirmation: when what it confirms was signed up for; null for others, and where nobody knows. */
    answers: time('answers_at'),
    wording: longText('wording').notNull(),
    evidence: json<Record<string, string>>('evidence').notNull(),
    /** When it was taken back with the import that it came by; it says nothing since. */
    undoneAt: time('undone_at'),
  },
  (table) => [
    index('consent_contact').on(table.contactId, table.purpose),
    index('consent_submission').on(table.submissionId),
    index('consent_kind').on(table.kind, table.at),
  ],
);

export const confirmations = mysqlTable(
  'confirmations',
  {
    id: id('id').primaryKey(),
    contactId: id('contact_id').notNull(),
    submissionId: id('submission_id').notNull(),
    routeId: id('route_id').notNull(),
    /** Ids of the purposes that it settles. */
    purposes: json<string[]>('purposes').notNull(),
    sentTo: varchar('sent_to', { length: 254 }).notNull(),
    mail: json<ConsentPolicy['mail']>('mail').notNull(),
    state: varchar('state', { length: 10 }).$type<ConfirmationState>().notNull(),
    createdAt: time('created_at').notNull(),
    expiresAt: time('expires_at').notNull(),
    lastSentAt: time('last_sent_at').notNull(),
    sends: int('sends').notNull().default(1),
    confirmedAt: time('confirmed_at'),
  },
  (table) => [
    index('confirmations_contact').on(table.contactId, table.state),
    index('confirmations_submission').on(table.submissionId),
    index('confirmations_open').on(table.state, table.expiresAt),
  ],
);

/** Tokens of confirmation links, hashed. One mail has one. */
export const confirmationTokens = mysqlTable(
  'confirmation_tokens',
  { tokenHash: hash('token_hash').primaryKey(), confirmationId: id('confirmation_id').notNull() },
  (table) => [index('confirmation_tokens_confirmation').on(table.confirmationId)],
);
