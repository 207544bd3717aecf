import { IsIn, IsOptional, IsString, Length, MaxLength, ValidateIf } from 'class-validator';
import type { ConsentEventKind, ConsentState } from '../core/consent/index.ts';
import {
  CAUSE_NAMES,
  type Cause,
  type DeliveryState,
  type ReadBackRow,
  type Standing,
} from '../core/delivery/index.ts';
import type { RawSubmission, Suspicion, Visit } from '../core/intake/index.ts';
import type { Plan } from '../core/plan/index.ts';
import type { EventMeaning } from './profile/index.ts';
import type { KeyKind } from '../core/identity/index.ts';
import type { FieldValue, FieldValues, KeepRule, SourceField } from '../core/values/index.ts';

export class DropInput {
  @IsString()
  @Length(3, 300, { message: 'Say in a few words why it is dropped; it stays in the trail.' })
  reason!: string;
}

/** What can be done to everything that is held for one cause at one connection. */
export const BULK_ACTS = [
  'retry',
  'retry under the present route',
  'set a value',
  'ask to confirm',
  'it arrived',
  'drop',
] as const;

export class BulkInput {
  @IsIn(BULK_ACTS)
  act!: (typeof BULK_ACTS)[number];

  @IsIn(CAUSE_NAMES)
  cause!: Cause;

  @IsString()
  @Length(1, 36)
  connectionId!: string;

  /** Where an earlier part ended; null to begin. */
  @IsOptional()
  @IsString()
  @MaxLength(36)
  after: string | null = null;

  @ValidateIf(({ act }: BulkInput) => act === 'drop')
  @IsString()
  @Length(3, 300, { message: 'Say in a few words why they are dropped; it stays in each trail.' })
  reason: string = '';

  @ValidateIf(({ act }: BulkInput) => act === 'set a value')
  @IsString()
  @Length(1, 120, { message: 'Choose the field.' })
  field: string = '';

  @ValidateIf(({ act }: BulkInput) => act === 'set a value')
  @IsString()
  @Length(1, 500, { message: 'Enter the value.' })
  value: string = '';
}

export interface BulkView {
  done: number;
  stayed: { id: string; email: string; why: string }[];
  /** Where to go on; null when all were seen. */
  next: string | null;
}

export interface HeldGroupView {
  cause: Cause;
  connectionId: string;
  connectionName: string;
  count: number;
  /** What the other system said, when it said the same of all. */
  detail: string;
}

export type SubmissionState = 'received' | 'planned' | 'set aside' | 'failed';

/** How far a submission can have come, all its parts taken together. */
export const PROGRESS = [
  'received',
  'waiting',
  'on its way',
  'held',
  'delivered',
  'nothing to send',
  'dropped',
  'set aside',
  'failed',
] as const;
export type Progress = (typeof PROGRESS)[number];

/** What browsers run on, as far as they say. */
export const DEVICES = ['phone', 'tablet', 'computer', 'television'] as const;

export interface SubmissionRow {
  id: string;
  receivedAt: string;
  sourceName: string;
  email: string;
  phone: string;
  name: string;
  progress: Progress;
  repeats: number;
}

export interface Page<Row> {
  rows: Row[];
  /** Where the next page starts; null at the end. */
  next: string | null;
}

export interface ExchangeView {
  at: string;
  method: string;
  url: string;
  requestHeaders: Record<string, string>;
  requestBody: unknown;
  status: number | null;
  responseHeaders: Record<string, string>;
  responseBody: unknown;
  milliseconds: number;
  /** How many people went by this request; absent when it was this one only. What is shown is this one's part. */
  together?: number;
}

export interface AttemptView {
  number: number;
  startedAt: string;
  /** How it ended, in words. */
  outcome: string;
  cause: Cause | null;
  said: string;
  exchanges: ExchangeView[];
}

export interface DeliveryView {
  id: string;
  submissionId: string;
  email: string;
  connectionId: string;
  connectionName: string;
  routeId: string;
  routeName: string;
  routeVersion: number;
  state: DeliveryState;
  cause: Cause | null;
  causeDetail: string;
  sentence: string;
  nextStep: string;
  plannedAt: string;
  dueAt: string | null;
  deliveredAt: string | null;
  /** When it was delivered, held or dropped. */
  endedAt: string | null;
  leftOut: string[];
  readBack: ReadBackRow[] | null;
  attempts: AttemptView[];
  /** An earlier delivery for the same person and connection that has to end first. */
  behind: string | null;
}

export interface ConsentEventView {
  kind: ConsentEventKind;
  purpose: string;
  wording: string;
  at: string;
  evidence: Record<string, string>;
  submissionId: string | null;
}

export interface ConfirmationView {
  id: string;
  purpose: string;
  state: 'pending' | 'confirmed' | 'expired';
  sentTo: string;
  expiresAt: string;
  confirmedAt: string | null;
  mayResendAt: string | null;
  mails: { subject: string; state: 'queued' | 'sending' | 'sent' | 'held'; at: string; text: string; error: string }[];
}

export interface TrailView {
  id: string;
  receivedAt: string;
  state: SubmissionState;
  progress: Progress;
  sourceId: string;
  sourceName: string;
  sourceVersion: number;
  fields: SourceField[];
  raw: RawSubmission;
  visit: Visit;
  values: FieldValues;
  repeats: number;
  lastRepeatAt: string | null;
  suspicion: Suspicion | null;
  failure: string;
  contactId: string | null;
  plan: Plan | null;
  consent: ConsentEventView[];
  confirmations: ConfirmationView[];
  deliveries: DeliveryView[];
  names: Record<string, string>;
}

/** Under what the name of something that a connection offers stands. */
export const nameKey = (connectionId: string, what: 'place' | 'kind' | 'field', id: string): string =>
  `${connectionId} ${what} ${id}`;

export interface PersonRow {
  id: string;
  email: string;
  phone: string;
  name: string;
  createdAt: string;
  updatedAt: string;
  consent: { purpose: string; state: ConsentState }[];
}

/** What another system told us about a person. */
export interface NoticeView {
  connectionId: string;
  connectionName: string;
  /** The system's own word. */
  kind: string;
  meaning: EventMeaning | null;
  at: string;
  /** Whom it is about; null when we do not know them. */
  contactId: string | null;
}

/** How another system holds a person, asked this moment. */
export interface PlaceView {
  connectionId: string;
  connectionName: string;
  /** The kind of record; '' where there is but one. */
  kind: string;
  kindName: string;
  /** Why it could not be asked; null when it was. */
  problem: string | null;
  /** null when nobody of that address is there. */
  held: {
    /** Its own word for how the person stands, and what that means. */
    state: string;
    standing: Standing | null;
    lists: { id: string; name: string }[];
    groups: { id: string; name: string; list: string }[];
    tags: string[];
    fields: { label: string; value: string }[];
  } | null;
  /** What can be changed there from here. */
  can: { leaveLists: boolean; leaveGroups: boolean; untag: boolean; standings: Standing[] };
}

/** "put back" undoes the first two. */
export const PLACE_ACTS = ['take out', 'take tag off', 'put back', 'unsubscribe', 'subscribe'] as const;

/** One change of how another system holds a person. */
export class PlaceActInput {
  @IsIn(PLACE_ACTS)
  act!: (typeof PLACE_ACTS)[number];

  @IsString()
  @Length(1, 36)
  connectionId!: string;

  @IsString()
  @MaxLength(120)
  kind: string = '';

  @IsString()
  @MaxLength(120)
  list: string = '';

  @IsString()
  @MaxLength(120)
  group: string = '';

  @IsString()
  @MaxLength(120)
  tag: string = '';

  @ValidateIf(({ act }: PlaceActInput) => act === 'unsubscribe')
  @IsString()
  @Length(3, 300, { message: 'Say how the person asked for it; it is kept as evidence.' })
  reason: string = '';
}

/** Something by which a person is recognised, or is not because somebody else is. */
export interface KeyView {
  kind: KeyKind;
  value: string;
  recognises: boolean;
  /** null for those of before that was kept. */
  submissionId: string | null;
  saidAt: string | null;
  /** When they proved that it is theirs; null when they did not. */
  verifiedAt: string | null;
}

/** A value that a submission said of a person. */
export interface ClaimView {
  name: string;
  value: FieldValue;
  rule: KeepRule;
  at: string;
  submissionId: string;
}

export interface PersonView extends PersonRow {
  notices: NoticeView[];
  keys: KeyView[];
  values: ClaimView[];
  /** Everything that was ever taken over, newest first. */
  history: ClaimView[];
  mergings: { kind: 'merged' | 'split'; contactId: string; intoId: string; at: string; by: string; reason: string }[];
  events: ConsentEventView[];
  submissions: SubmissionRow[];
  deliveries: DeliveryView[];
}

/** The bottom line. */
export interface StatusView {
  database: 'up' | 'down';
  workers: number;
  waiting: number;
  held: number;
  lastDeliveryAt: string | null;
  at: string;
}

export interface OverviewView {
  today: { submissions: number; confirmed: number; delivered: number; people: number };
  needs: { kind: string; text: string; link: string; count: number }[];
  flows: {
    routeId: string;
    routeName: string;
    sourceId: string;
    sourceName: string;
    connectionId: string;
    connectionName: string;
    delivered: number;
    held: number;
  }[];
}
