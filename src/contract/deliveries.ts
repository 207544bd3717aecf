import { IsIn, IsOptional, IsString, Length, MaxLength, ValidateIf } from 'class-validator';
import {
  CAUSE_NAMES,
  type Cause,
  type DeliveryState,
  type ProvedBy,
  type ReadBackRow,
} from '../core/delivery/index.ts';

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
  /** What was asked and answered; null once it is not kept any more, so that nobody takes it for nothing. */
  exchanges: ExchangeView[] | null;
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
  /** How what was read back is known: by a look there, or by the answer to the write; null for neither, or before that was noted. */
  provedBy: ProvedBy | null;
  attempts: AttemptView[];
  /** An earlier delivery for the same person and connection that has to end first. */
  behind: string | null;
}
