import type { VerifyResult } from '../../../contract/connection.ts';
import { readProfile, type CredentialName, type EventMeaning } from '../../../contract/profile/index.ts';
import type { Cause } from '../../../core/delivery/index.ts';
import type { Catalogue, CatalogueDifference } from '../../../core/plan/index.ts';
import type { ConnectionState } from '../../../core/states/index.ts';
import { customType, index, int, mysqlTable, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';

import { hash, id, json, longText, time } from './columns.ts';

export const connections = mysqlTable('connections', {
  id: id('id').primaryKey(),
  profile: varchar('profile', { length: 60 }).notNull(),
  name: varchar('name', { length: 80 }).notNull(),
  /** In which folder of the list it stands; '' for none. */
  folder: varchar('folder', { length: 60 }).notNull().default(''),
  /** Encrypted where the address itself is the secret: see connecting/addresses.ts. */
  baseUrl: varchar('base_url', { length: 900 }).notNull(),
  /** The credentials, encrypted. */
  secret: longText('secret').notNull(),
  /** The ends of the credentials, by which people tell them apart. */
  hints: json<Partial<Record<CredentialName, string>>>('hints').notNull(),
  /** Access tokens, encrypted, where the service hands them out. */
  tokens: customType<{ data: string }>({ dataType: () => 'longtext' })('tokens'),
  state: varchar('state', { length: 10 }).$type<ConnectionState>().notNull().default('active'),
  verify: json<VerifyResult>('verify'),
  catalogue: json<Catalogue>('catalogue'),
  catalogueAt: time('catalogue_at'),
  /** What differed when the catalogue was last fetched, and when that was. */
  changes: json<CatalogueDifference[]>('changes'),
  changesAt: time('changes_at'),
  /** When the answer to a write was found to show something else than a look after it; null while answers are true. */
  answerUntrueAt: time('answer_untrue_at'),
  /** When it is verified next, without anybody asking. */
  checkAt: time('check_at').notNull().default(0),
  createdAt: time('created_at').notNull(),
});

/** What all workers know about how a connection fares. */
export const connectionHealth = mysqlTable('connection_health', {
  connectionId: id('connection_id').primaryKey(),
  failures: int('failures').notNull().default(0),
  restUntil: time('rest_until').notNull().default(0),
  /** When the budget of requests would be full again. */
  budgetFullAt: time('budget_full_at').notNull().default(0),
  lastFailureAt: time('last_failure_at'),
  lastCause: varchar('last_cause', { length: 30 }).$type<Cause>(),
  lastSaid: varchar('last_said', { length: 600 }),
});

/** Addresses that other systems tell what happens there; each is registered at its system. */
export const noticeAddresses = mysqlTable('notice_addresses', {
  connectionId: id('connection_id').primaryKey(),
  tokenHash: hash('token_hash').notNull().unique(),
  /** Its id there; null while it is being registered. */
  remoteId: varchar('remote_id', { length: 120 }),
  /** What the system signs with, encrypted; null while it is being registered. */
  secret: varchar('secret', { length: 500 }),
  createdAt: time('created_at').notNull(),
  /** When the first notice came that was signed rightly. */
  provenAt: time('proven_at'),
});

/** What other systems told us. Each once, however often they said it. */
export const notices = mysqlTable(
  'notices',
  {
    id: id('id').primaryKey(),
    connectionId: id('connection_id').notNull(),
    /** Its id there, hashed. */
    remoteId: hash('remote_id').notNull(),
    /** The system's own word. */
    kind: varchar('kind', { length: 60 }).notNull(),
    /** What it means here; null when it means nothing. */
    meaning: varchar('meaning', { length: 20 }).$type<EventMeaning>(),
    /** Whom it is about; null when we do not know them. */
    contactId: id('contact_id'),
    at: time('at').notNull(),
    receivedAt: time('received_at').notNull(),
  },
  (table) => [
    uniqueIndex('notices_once').on(table.connectionId, table.remoteId),
    index('notices_contact').on(table.contactId),
  ],
);

/** Connector profiles that operators made. */
export const profiles = mysqlTable('profiles', {
  id: varchar('id', { length: 60 }).primaryKey(),
  document: json('document', readProfile).notNull(),
  createdAt: time('created_at').notNull(),
  updatedAt: time('updated_at').notNull(),
});

/** Access that was asked for in another system's window, and is awaited back. */
export const grantRequests = mysqlTable('grant_requests', {
  stateHash: hash('state_hash').primaryKey(),
  connectionId: id('connection_id').notNull(),
  accountId: id('account_id').notNull(),
  /** The PKCE verifier, encrypted. */
  verifier: varchar('verifier', { length: 500 }).notNull(),
  expiresAt: time('expires_at').notNull(),
});
