import type { Arrived } from '../core/delivery/index.ts';
import type { RawSubmission, Suspicion, Visit } from '../core/intake/index.ts';
import type { Plan } from '../core/plan/index.ts';
import type { FieldValues, SourceField } from '../core/values/index.ts';
import type { DeliveryView } from './deliveries.ts';
import type { ConsentEventView, ConfirmationView, MailView } from './consent.ts';

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

/** The word for how far a submission has come: where all of it arrived, what is known of that. */
export const progressWord = ({
  progress,
  arrived,
}: {
  progress: Progress;
  arrived: Arrived | null;
}): Progress | Arrived => (progress === 'delivered' ? (arrived ?? progress) : progress);

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
  /** What is known of what arrived; null before it is delivered. */
  arrived: Arrived | null;
  repeats: number;
}

export interface TrailView {
  id: string;
  receivedAt: string;
  state: SubmissionState;
  progress: Progress;
  /** What is known of what arrived; null before it is delivered. */
  arrived: Arrived | null;
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
  /** When a colleague first answered, and who; null before that. */
  replied: { at: string; by: string } | null;
  /** When it was taken back with the import that it came by. */
  undoneAt: string | null;
  contactId: string | null;
  plan: Plan | null;
  consent: ConsentEventView[];
  confirmations: ConfirmationView[];
  /** Answers to the visitor, and mails that told colleagues. */
  mails: MailView[];
  deliveries: DeliveryView[];
  names: Record<string, string>;
}

/** Under what the name of something that a connection offers stands. */
export const nameKey = (connectionId: string, what: 'place' | 'kind' | 'field', id: string): string =>
  `${connectionId} ${what} ${id}`;
