import type { Scope } from '../../../contract/tokens.ts';
import { bigint, int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';

import { hash, id, json, time } from './columns.ts';

export const accounts = mysqlTable('accounts', {
  id: id('id').primaryKey(),
  email: varchar('email', { length: 254 }).notNull().unique(),
  name: varchar('name', { length: 120 }).notNull(),
  passwordHash: varchar('password_hash', { length: 255 }).notNull(),
  createdAt: time('created_at').notNull(),
});

export const sessions = mysqlTable('sessions', {
  tokenHash: hash('token_hash').primaryKey(),
  accountId: id('account_id').notNull(),
  csrf: varchar('csrf', { length: 64 }).notNull(),
  /** What the browser said of itself; '' for nothing. */
  browser: varchar('browser', { length: 120 }).notNull().default(''),
  /** null for those from before it was written down. */
  beganAt: time('began_at'),
  expiresAt: time('expires_at').notNull(),
});

/** Tokens with which other programs use the API, hashed. */
export const apiTokens = mysqlTable('api_tokens', {
  id: id('id').primaryKey(),
  accountId: id('account_id').notNull(),
  name: varchar('name', { length: 80 }).notNull(),
  scopes: json<Scope[]>('scopes').notNull(),
  tokenHash: hash('token_hash').notNull().unique(),
  hint: varchar('hint', { length: 20 }).notNull(),
  createdAt: time('created_at').notNull(),
  lastUsedAt: time('last_used_at'),
  expiresAt: time('expires_at'),
});

/** One-time links that make the first account. */
export const setupLinks = mysqlTable('setup_links', {
  tokenHash: hash('token_hash').primaryKey(),
  expiresAt: time('expires_at').notNull(),
});

/** Counters of the rate limiter; the columns are what its package expects. */
export const throttles = mysqlTable('throttles', {
  key: varchar('key', { length: 255 }).primaryKey(),
  points: int('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number', unsigned: true }),
});
