import type { SubmissionState } from '../../../contract/submissions.ts';
import type { Entries, Suspicion, VisitPart } from '../../../core/intake/index.ts';
import { readPlan } from '../../../core/plan/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { bigint, customType, index, int, mysqlTable, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';

import { hash, id, json, rawJson, time, work } from './columns.ts';

/** How a submission came: a column each. */
const visit = {
  page: varchar('page', { length: 300 }),
  referrer: varchar('referrer', { length: 300 }),
  campaign: varchar('campaign', { length: 120 }),
  source: varchar('campaign_source', { length: 120 }),
  medium: varchar('campaign_medium', { length: 120 }),
  term: varchar('campaign_term', { length: 120 }),
  content: varchar('campaign_content', { length: 120 }),
  device: varchar('device', { length: 120 }),
  placement: varchar('placement', { length: 120 }),
  variant: varchar('variant', { length: 120 }),
} satisfies Record<VisitPart, unknown>;

/** What several submissions came by, as it was sent. */
export const arrivals = mysqlTable('arrivals', {
  id: id('id').primaryKey(),
  sourceId: id('source_id').notNull(),
  receivedAt: time('received_at').notNull(),
  raw: rawJson('raw').notNull(),
});

/** Files that visitors handed over. What is in them is on the disk. */
export const uploads = mysqlTable(
  'uploads',
  {
    id: id('id').primaryKey(),
    sourceId: id('source_id').notNull(),
    /** null until the form that it was sent with is accepted. */
    submissionId: id('submission_id'),
    name: varchar('name', { length: 120 }).notNull(),
    mediaType: varchar('media_type', { length: 120 }).notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    sha256: hash('sha256').notNull(),
    createdAt: time('created_at').notNull(),
  },
  (table) => [index('uploads_submission').on(table.submissionId), index('uploads_age').on(table.createdAt)],
);

/** Forms that somebody left half filled in, to go on later by a link. */
export const keptForms = mysqlTable(
  'kept_forms',
  {
    /** Of the link's token, which is known to nobody but who has the link. */
    tokenHash: hash('token_hash').primaryKey(),
    sourceId: id('source_id').notNull(),
    entries: json<Entries>('entries').notNull(),
    keptAt: time('kept_at').notNull(),
  },
  (table) => [index('kept_forms_age').on(table.keptAt)],
);

export const submissions = mysqlTable(
  'submissions',
  {
    id: id('id').primaryKey(),
    sourceId: id('source_id').notNull(),
    sourceVersion: int('source_version').notNull(),
    receivedAt: time('received_at').notNull(),
    state: varchar('state', { length: 10 }).$type<SubmissionState>().notNull(),
    raw: rawJson('raw').notNull(),
    /** What several submissions came by; null when it was one. */
    arrivalId: id('arrival_id'),
    values: json<FieldValues>('field_values').notNull(),
    /** Its content and the stretch of time it falls in, so that two at once cannot both be stored. */
    repeatKey: customType<{ data: string }>({
      dataType: () => 'varchar(80) character set ascii collate ascii_bin',
    })('repeat_key').notNull(),
    /** The person it names, hashed: theirs are planned in the order in which they came. '' when it names nobody. */
    personKey: customType<{ data: string }>({
      dataType: () => 'char(32) character set ascii collate ascii_bin',
    })('person_key').notNull(),
    repeats: int('repeats').notNull().default(0),
    lastRepeatAt: time('last_repeat_at'),
    suspicion: varchar('suspicion', { length: 20 }).$type<Suspicion>(),
    ...visit,
    contactId: id('contact_id'),
    plan: json('plan', readPlan),
    failure: varchar('failure', { length: 500 }),
    /** 1 where its plan sends nothing anywhere: few of many, which an index finds. */
    sendsNothing: int('sends_nothing'),
    /** How long it took to fill in, as the form's script tells; null where none does. */
    tookSeconds: int('took_seconds'),
    /** When a colleague noted that they have answered, and who it was. */
    repliedAt: time('replied_at'),
    repliedBy: varchar('replied_by', { length: 120 }),
    /** When it was taken back with the import that it came by. */
    undoneAt: time('undone_at'),
    ...work,
  },
  (table) => [
    uniqueIndex('submissions_repeat').on(table.sourceId, table.repeatKey),
    index('submissions_work').on(table.state, table.dueAt),
    index('submissions_person').on(table.personKey, table.state),
    // With the primary key behind it, as InnoDB's indexes have: the newest of a source first.
    index('submissions_source').on(table.sourceId),
    index('submissions_contact').on(table.contactId),
    index('submissions_sends_nothing').on(table.sendsNothing),
    index('submissions_device').on(table.device),
    index('submissions_placement').on(table.placement),
    index('submissions_campaign').on(table.campaign),
    index('submissions_page').on(table.page),
  ],
);
