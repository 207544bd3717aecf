import { IsIn, IsInt, IsISO8601, IsOptional, Max, Min } from 'class-validator';
import type { Condition } from '../core/conditions/index.ts';
import type { SendingState } from '../core/states/index.ts';
import { IsCondition } from './conditions.ts';

/** all: whatever was received. held: what this route could not bring to its end, planned anew under what is live. */
export const SENDING_PILES = ['all', 'held'] as const;
export type SendingPile = (typeof SENDING_PILES)[number];

/** What is to be sent of what is there. */
export class ChoiceInput {
  @IsISO8601({}, { message: 'Enter when it begins.' })
  since!: string;

  @IsISO8601({}, { message: 'Enter when it ends.' })
  until!: string;

  @IsOptional()
  @IsIn(SENDING_PILES)
  pile: SendingPile = 'all';

  /** Only those for whom it holds; null for everybody. */
  @IsOptional()
  @IsCondition()
  when: Condition | null = null;
}

export class SendingInput extends ChoiceInput {
  @IsInt({ message: 'Enter how many go out a minute.' })
  @Min(1, { message: 'At least one a minute.' })
  @Max(6000, { message: 'At most 6,000 a minute.' })
  perMinute!: number;
}

/** What became, or would become, of what is there. */
export interface SendingCounts {
  sent: number;
  held: number;
  /** Who is asked to confirm. */
  asked: number;
  /** Who was asked before, and has not answered yet. */
  waiting: number;
  leftOut: number;
  /** For whom the condition does not hold. */
  notChosen: number;
}

/** What would become of what is there, if it were sent through a route now. */
export interface SendingPreview extends SendingCounts {
  /** How many there are in the period. */
  total: number;
  /** How many of them, the oldest first, the counts are of. */
  looked: number;
}

/** A sending of what is there already. */
export interface SendingView extends SendingCounts {
  id: string;
  state: SendingState;
  pile: SendingPile;
  when: Condition | null;
  since: string;
  until: string;
  perMinute: number;
  total: number;
  done: number;
  startedAt: string;
  endedAt: string | null;
  by: string;
}
