import type { ContactKey } from '../../../core/identity/index.ts';
import type { FieldValue, KeepRule, Trust } from '../../../core/values/index.ts';
import { customType, index, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';

import { id, json, time } from './columns.ts';

export const contacts = mysqlTable(
  'contacts',
  {
    id: id('id').primaryKey(),
    createdAt: time('created_at').notNull(),
    updatedAt: time('updated_at').notNull(),
    /** For lists and search: the address, the number and the name of the person as last known; '' for none. */
    email: varchar('email', { length: 254 }).notNull(),
    phone: varchar('phone', { length: 20 }).notNull().default(''),
    name: varchar('name', { length: 250 }).notNull(),
    /** The contact that stands for it since they were merged; null while it is by itself. */
    mergedInto: id('merged_into'),
    /** Whoever stands for it in the end: itself, while it is by itself. */
    personId: id('person_id').notNull(),
  },
  (table) => [
    index('contacts_email').on(table.email),
    index('contacts_updated').on(table.updatedAt, table.id),
    index('contacts_person').on(table.personId),
  ],
);

/** The words by which contacts are found, without capitals and accents. */
export const searchWords = mysqlTable(
  'search_words',
  {
    contactId: id('contact_id').notNull(),
    word: customType<{ data: string }>({ dataType: () => 'varchar(60) character set utf8mb4 collate utf8mb4_bin' })(
      'word',
    ).notNull(),
  },
  (table) => [primaryKey({ columns: [table.contactId, table.word] }), index('search_words_word').on(table.word)],
);

export const contactKeys = mysqlTable(
  'contact_keys',
  {
    kind: varchar('kind', { length: 10 }).$type<ContactKey['kind']>().notNull(),
    scope: varchar('scope', { length: 36 }).notNull().default(''),
    value: varchar('value', { length: 254 }).notNull(),
    contactId: id('contact_id').notNull(),
    /** 1 where the contact is recognised by it; null where somebody else is, who may be the same. */
    isOwner: int('is_owner'),
    /** Who said so first, and when; null for those of before that was kept. */
    submissionId: id('submission_id'),
    saidAt: time('said_at').notNull().default(0),
    /** When they proved that it is theirs. */
    verifiedAt: time('verified_at'),
  },
  (table) => [
    primaryKey({ columns: [table.kind, table.scope, table.value, table.contactId] }),
    uniqueIndex('contact_keys_owner').on(table.kind, table.scope, table.value, table.isOwner),
    index('contact_keys_contact').on(table.contactId),
  ],
);

/** What was said of contacts, and when it was taken over. Append-only. */
export const claims = mysqlTable(
  'claims',
  {
    id: id('id').primaryKey(),
    contactId: id('contact_id').notNull(),
    name: varchar('name', { length: 60 }).notNull(),
    value: json<FieldValue>('value').notNull(),
    rule: varchar('rule', { length: 20 }).$type<KeepRule>().notNull(),
    trust: varchar('trust', { length: 10 }).$type<Trust>().notNull().default('usual'),
    submissionId: id('submission_id').notNull(),
    at: time('at').notNull(),
    /** When it was taken back with the import that it came by; it says nothing since. */
    undoneAt: time('undone_at'),
  },
  (table) => [index('claims_contact').on(table.contactId, table.at)],
);

/** Contacts that somebody said are one person, or are not. Append-only. */
export const merges = mysqlTable(
  'merges',
  {
    id: id('id').primaryKey(),
    kind: varchar('kind', { length: 10 }).$type<'merged' | 'split'>().notNull(),
    contactId: id('contact_id').notNull(),
    intoId: id('into_id').notNull(),
    at: time('at').notNull(),
    by: varchar('decided_by', { length: 120 }).notNull(),
    reason: varchar('reason', { length: 300 }).notNull(),
  },
  (table) => [index('merges_contact').on(table.contactId), index('merges_into').on(table.intoId)],
);

/** The present record of each person: what the claims of all contacts that are they add up to. */
export const contactValues = mysqlTable(
  'contact_values',
  {
    contactId: id('contact_id').notNull(),
    name: varchar('name', { length: 60 }).notNull(),
    value: json<FieldValue>('value').notNull(),
    rule: varchar('rule', { length: 20 }).$type<KeepRule>().notNull().default('latest'),
    trust: varchar('trust', { length: 10 }).$type<Trust>().notNull().default('usual'),
    submissionId: id('submission_id').notNull(),
    setAt: time('set_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.contactId, table.name] })],
);
