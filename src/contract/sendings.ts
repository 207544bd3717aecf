import { IsInt, IsISO8601, Max, Min } from 'class-validator';
import type { SendingState } from '../core/states/index.ts';

/** A period of what was received. */
export class PeriodInput {
  @IsISO8601({}, { message: 'Enter when it begins.' })
  since!: string;

  @IsISO8601({}, { message: 'Enter when it ends.' })
  until!: string;
}

export class SendingInput extends PeriodInput {
  @IsInt({ message: 'Enter how many go out a minute.' })
  @Min(1, { message: 'At least one a minute.' })
  @Max(6000, { message: 'At most 6,000 a minute.' })
  perMinute!: number;
}

/** What would become of the submissions of a period, if they were sent through a route now. */
export interface SendingPreview {
  /** How many there are in the period. */
  total: number;
  /** How many of them, the oldest first, the counts are of. */
  looked: number;
  sent: number;
  held: number;
  asked: number;
  leftOut: number;
}

/** A sending of what is there already. */
export interface SendingView {
  id: string;
  state: SendingState;
  since: string;
  until: string;
  perMinute: number;
  total: number;
  done: number;
  sent: number;
  held: number;
  asked: number;
  leftOut: number;
  startedAt: string;
  endedAt: string | null;
  by: string;
}
