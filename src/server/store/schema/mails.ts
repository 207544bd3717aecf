import type { Mail } from '../../../core/plan/index.ts';
import type { MailState } from '../../../core/states/index.ts';
import { index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';

import { hash, id, json, longText, time, work } from './columns.ts';

/** The outbox: all mail that goes out from here. */
export const mails = mysqlTable(
  'mails',
  {
    id: id('id').primaryKey(),
    kind: varchar('kind', { length: 10 }).$type<'ask' | Mail['kind']>().notNull(),
    /** What it asks to confirm, whose words and address it has; of others, what it waits for; null for nothing. */
    confirmationId: id('confirmation_id'),
    /** What it is about: a submission, or a conversation that has not become one yet. */
    aboutKind: varchar('about_kind', { length: 12 })
      .$type<'submission' | 'conversation'>()
      .notNull()
      .default('submission'),
    submissionId: id('submission_id').notNull(),
    contactId: id('contact_id').notNull(),
    routeId: id('route_id').notNull(),
    /** Within its route; '' for one that asks to confirm. */
    mailId: varchar('mail_id', { length: 40 }).notNull().default(''),
    to: json<string[]>('sent_to').notNull(),
    replyTo: varchar('reply_to', { length: 254 }).notNull().default(''),
    subject: varchar('subject', { length: 300 }).notNull(),
    /** Of one that asks to confirm, with {link} in it: the link is made when it is sent. */
    text: longText('text').notNull(),
    state: varchar('state', { length: 10 }).$type<MailState>().notNull(),
    createdAt: time('created_at').notNull(),
    sentAt: time('sent_at'),
    error: varchar('error', { length: 500 }),
    ...work,
  },
  (table) => [
    index('mails_work').on(table.state, table.dueAt),
    index('mails_confirmation').on(table.confirmationId),
    index('mails_submission').on(table.submissionId),
    index('mails_contact').on(table.contactId, table.createdAt),
  ],
);

/** How many mails a mailbox got in a day (UTC). */
export const mailboxDays = mysqlTable(
  'mailbox_days',
  {
    mailbox: hash('mailbox').notNull(),
    /** Days since 1970. */
    day: int('day').notNull(),
    mails: int('mails').notNull(),
  },
  (table) => [primaryKey({ columns: [table.mailbox, table.day] })],
);
