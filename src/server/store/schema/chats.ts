import { sql } from 'drizzle-orm';
import { bigint, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';
import type { ChatLine, ChatState } from '../../../core/chat/index.ts';
import type { FormLanguage } from '../../../core/forms/index.ts';
import type { Visit } from '../../../core/intake/index.ts';
import type { ChatStatus } from '../../../core/states/index.ts';
import { hash, id, json, longText, time } from './columns.ts';

/** Conversations that visitors have with a chat. */
export const conversations = mysqlTable(
  'conversations',
  {
    id: id('id').primaryKey(),
    sourceId: id('source_id').notNull(),
    sourceVersion: int('source_version').notNull(),
    /** Of what the visitor's page knows it by. */
    tokenHash: hash('token_hash').notNull().unique(),
    status: varchar('status', { length: 12 }).$type<ChatStatus>().notNull(),
    state: json<ChatState>('state').notNull(),
    language: varchar('language', { length: 5 }).$type<FormLanguage>().notNull(),
    visit: json<Visit>('visit').notNull(),
    /** What the visitor's page calls the last thing that it sent: it may send it again. */
    lastInput: varchar('last_input', { length: 40 }).notNull().default(''),
    /** How many lines it has. */
    lines: int('line_count').notNull(),
    /** Until when a colleague is waited for; null while none is. */
    wantedUntil: time('wanted_until'),
    /** The colleague who has it, or had it last; '' for none. */
    colleague: varchar('colleague', { length: 120 }).notNull().default(''),
    /** Until when nobody tries to make something of it, since that failed; 0 for at once. */
    restUntil: time('rest_until').notNull().default(0),
    /** What became of it; null while that is open. */
    submissionId: id('submission_id'),
    startedAt: time('started_at').notNull(),
    touchedAt: time('touched_at').notNull(),
    /** After so long without a word it has broken off, as its chat says. In milliseconds. */
    breaksOffMs: time('breaks_off_ms').notNull().default(3_600_000),
    /** When that is: kept by the database, so that what is due is found without asking each chat. */
    breaksOffAt: bigint('breaks_off_at', { mode: 'number' }).generatedAlwaysAs(sql`touched_at + breaks_off_ms`, {
      mode: 'virtual',
    }),
  },
  (table) => [
    index('conversations_due').on(table.status, table.breaksOffAt),
    index('conversations_status').on(table.status, table.touchedAt),
    index('conversations_touched').on(table.touchedAt),
    index('conversations_source').on(table.sourceId, table.id),
    index('conversations_submission').on(table.submissionId),
  ],
);

/** What was said, in its order. */
export const chatLines = mysqlTable(
  'chat_lines',
  {
    conversationId: id('conversation_id').notNull(),
    /** From 1. */
    number: int('number').notNull(),
    by: varchar('said_by', { length: 10 }).$type<ChatLine['by'] | 'colleague'>().notNull(),
    /** The colleague who said it; '' for others. */
    name: varchar('name', { length: 120 }).notNull().default(''),
    text: longText('text').notNull(),
    link: json<{ url: string; text: string }>('link'),
    at: time('at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.conversationId, table.number] })],
);
