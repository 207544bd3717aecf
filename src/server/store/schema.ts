import type { ExchangeView, SubmissionState } from '../../contract/activity.ts';
import type { ActName, ActorKind, SubjectKind } from '../../contract/changes.ts';
import type { VerifyResult } from '../../contract/connection.ts';
import type { CredentialName, EventMeaning, Profile } from '../../contract/profile/index.ts';
import type { Scope } from '../../contract/tokens.ts';
import type { ConsentEventKind } from '../../core/consent/index.ts';
import type { Cause, DeliveryState, ReadBackRow } from '../../core/delivery/index.ts';
import type { DocumentIssue } from '../../core/documents/index.ts';
import type { ContactKey } from '../../core/identity/index.ts';
import { readRaw, readSource, type RawSubmission, type Suspicion, type VisitPart } from '../../core/intake/index.ts';
import {
  readIntent,
  readPlan,
  readRoute,
  type Catalogue,
  type CatalogueDifference,
  type ConsentPolicy,
} from '../../core/plan/index.ts';
import { good, type Result } from '../../core/result.ts';
import type { ConnectionState, PublishState } from '../../core/states/index.ts';
import type { FieldValue, FieldValues, KeepRule } from '../../core/values/index.ts';
import { bigint, customType, index, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';

/**
 * A column of JSON. MariaDB keeps it as text; mysql2 hands it back as text or parsed, so both are read here.
 * @param read brings a document of any format that was ever written up to the present one; without it, it is as it was stored
 */
const json = <Data>(name: string, read?: (json: unknown) => Result<Data, DocumentIssue>) =>
  customType<{ data: Data; driverData: string }>({
    dataType: () => 'longtext',
    toDriver: (value) => JSON.stringify(value),
    fromDriver: (value) => {
      const parsed: unknown = typeof value === 'string' ? JSON.parse(value) : value;
      if (!read) return parsed as Data;
      const document = read(parsed);
      if (!document.ok) throw new Error(`${name}: ${document.issue.detail}`);
      return document.value;
    },
  })(name);

/** An arrival as it was kept, in whatever way. */
const rawJson = (name: string) => json<RawSubmission>(name, (stored) => good(readRaw(stored)));

const longText = (name: string) => customType<{ data: string }>({ dataType: () => 'longtext' })(name);
/** Milliseconds since 1970. Time enters from the server's clock, never from the database's. */
const time = (name: string) => bigint(name, { mode: 'number' });
/** UUID version 7: made by us, in order of time. */
const id = (name: string) =>
  customType<{ data: string }>({ dataType: () => 'char(36) character set ascii collate ascii_bin' })(name);
/** SHA-256 in hexadecimal. */
const hash = (name: string) =>
  customType<{ data: string }>({ dataType: () => 'char(64) character set ascii collate ascii_bin' })(name);

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

export const connections = mysqlTable('connections', {
  id: id('id').primaryKey(),
  profile: varchar('profile', { length: 60 }).notNull(),
  name: varchar('name', { length: 80 }).notNull(),
  baseUrl: varchar('base_url', { length: 300 }).notNull(),
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
  document: json<Profile>('document').notNull(),
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

export const sources = mysqlTable('sources', {
  id: id('id').primaryKey(),
  publicId: varchar('public_id', { length: 40 }).notNull().unique(),
  name: varchar('name', { length: 80 }).notNull(),
  state: varchar('state', { length: 10 }).$type<PublishState>().notNull(),
  draft: json('draft', readSource).notNull(),
  draftAt: time('draft_at').notNull(),
  liveVersion: int('live_version'),
  createdAt: time('created_at').notNull(),
});

export const sourceVersions = mysqlTable(
  'source_versions',
  {
    sourceId: id('source_id').notNull(),
    version: int('version').notNull(),
    document: json('document', readSource).notNull(),
    publishedAt: time('published_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.sourceId, table.version] })],
);

export const routes = mysqlTable('routes', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 80 }).notNull(),
  state: varchar('state', { length: 10 }).$type<PublishState>().notNull(),
  draft: json('draft', readRoute).notNull(),
  draftAt: time('draft_at').notNull(),
  liveVersion: int('live_version'),
  createdAt: time('created_at').notNull(),
});

/** The sources that each route takes, as it is live. */
export const routeSources = mysqlTable(
  'route_sources',
  { routeId: id('route_id').notNull(), sourceId: id('source_id').notNull() },
  (table) => [
    primaryKey({ columns: [table.routeId, table.sourceId] }),
    index('route_sources_source').on(table.sourceId),
  ],
);

export const routeVersions = mysqlTable(
  'route_versions',
  {
    routeId: id('route_id').notNull(),
    version: int('version').notNull(),
    document: json('document', readRoute).notNull(),
    publishedAt: time('published_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.routeId, table.version] })],
);

/** What every row that workers take turns on carries. */
const work = {
  dueAt: time('due_at').notNull(),
  leaseUntil: time('lease_until').notNull().default(0),
  leaseOwner: varchar('lease_owner', { length: 40 }),
  tries: int('tries').notNull().default(0),
};

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
    ...work,
  },
  (table) => [
    uniqueIndex('submissions_repeat').on(table.sourceId, table.repeatKey),
    index('submissions_work').on(table.state, table.dueAt),
    index('submissions_person').on(table.personKey, table.state),
    // With the primary key behind it, as InnoDB's indexes have: the newest of a source first.
    index('submissions_source').on(table.sourceId),
    index('submissions_campaign').on(table.campaign),
    index('submissions_page').on(table.page),
  ],
);

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
    rule: varchar('rule', { length: 10 }).$type<KeepRule>().notNull(),
    submissionId: id('submission_id').notNull(),
    at: time('at').notNull(),
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
    rule: varchar('rule', { length: 10 }).$type<KeepRule>().notNull().default('latest'),
    submissionId: id('submission_id').notNull(),
    setAt: time('set_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.contactId, table.name] })],
);

/** Append-only. */
export const consentEvents = mysqlTable(
  'consent_events',
  {
    id: id('id').primaryKey(),
    contactId: id('contact_id').notNull(),
    submissionId: id('submission_id'),
    channel: varchar('channel', { length: 10 }).notNull(),
    purpose: varchar('purpose', { length: 80 }).notNull(),
    kind: varchar('kind', { length: 10 }).$type<ConsentEventKind>().notNull(),
    at: time('at').notNull(),
    wording: longText('wording').notNull(),
    evidence: json<Record<string, string>>('evidence').notNull(),
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
    purpose: varchar('purpose', { length: 80 }).notNull(),
    sentTo: varchar('sent_to', { length: 254 }).notNull(),
    mail: json<ConsentPolicy['mail']>('mail').notNull(),
    state: varchar('state', { length: 10 }).$type<'pending' | 'confirmed' | 'expired'>().notNull(),
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

/** Mail to go out. The link is put in when it is sent; here the text has {link}. */
export const mails = mysqlTable(
  'mails',
  {
    id: id('id').primaryKey(),
    confirmationId: id('confirmation_id').notNull(),
    state: varchar('state', { length: 10 }).$type<'queued' | 'sending' | 'sent' | 'held'>().notNull(),
    createdAt: time('created_at').notNull(),
    sentAt: time('sent_at'),
    error: varchar('error', { length: 500 }),
    ...work,
  },
  (table) => [index('mails_work').on(table.state, table.dueAt), index('mails_confirmation').on(table.confirmationId)],
);

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
    exchanges: json<ExchangeView[]>('exchanges').notNull(),
  },
  (table) => [primaryKey({ columns: [table.deliveryId, table.number] }), index('attempts_age').on(table.startedAt)],
);

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

/** Workers that are alive say so here. */
export const workers = mysqlTable('workers', {
  id: varchar('id', { length: 40 }).primaryKey(),
  seenAt: time('seen_at').notNull(),
});

/** Small facts of the installation, such as when the demo data was made. */
export const facts = mysqlTable('facts', {
  name: varchar('name', { length: 60 }).primaryKey(),
  value: varchar('value', { length: 500 }).notNull(),
});
