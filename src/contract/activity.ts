import { IsString, Length } from 'class-validator';
import type { ConsentEventKind, ConsentState } from '../core/consent/index.ts';
import type { Cause, DeliveryState, ReadBackRow } from '../core/delivery/index.ts';
import type { Suspicion } from '../core/intake/index.ts';
import type { Plan } from '../core/plan/index.ts';
import type { FieldValue, FieldValues, SourceField } from '../core/values/index.ts';

export class DropInput {
  @IsString()
  @Length(3, 300, { message: 'Say in a few words why it is dropped; it stays in the trail.' })
  reason!: string;
}

export type SubmissionState = 'received' | 'planned' | 'set aside' | 'failed';

/** How far a submission has come, all its parts taken together. */
export type Progress =
  'received' | 'waiting' | 'on its way' | 'held' | 'delivered' | 'nothing to send' | 'dropped' | 'set aside' | 'failed';

export interface SubmissionRow {
  id: string;
  receivedAt: string;
  sourceName: string;
  email: string;
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
  dueAt: string | null;
  deliveredAt: string | null;
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
  raw: { contentType: string; entries: [string, string][]; headers: Record<string, string> };
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

export interface PersonRow {
  id: string;
  email: string;
  name: string;
  createdAt: string;
  updatedAt: string;
  consent: { purpose: string; state: ConsentState }[];
}

export interface PersonView extends PersonRow {
  keys: { kind: string; value: string }[];
  values: { name: string; value: FieldValue; setAt: string; submissionId: string }[];
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
