import { IsIn, IsObject, IsOptional, IsString, MaxLength } from 'class-validator';
import type { TargetTrial, TrialState } from '../core/delivery/index.ts';
import { SAMPLE_STANDINGS, type SampleStanding, type Suspicion } from '../core/intake/index.ts';
import type { Plan } from '../core/plan/index.ts';
import type { FieldValues } from '../core/values/index.ts';

export class RehearsalInput {
  /** By the ids of the fields: as held, or as typed. */
  @IsObject()
  values!: Record<string, unknown>;

  /** The source that the sample is of; '' for the first. */
  @IsString()
  @MaxLength(36)
  sourceId: string = '';

  /** How the sample came. */
  @IsObject()
  visit: Record<string, unknown> = {};

  /** Who is supposed to have sent it; '' for whoever it is. */
  @IsOptional()
  @IsIn(['', ...SAMPLE_STANDINGS])
  standing: SampleStanding | '' = '';
}

export interface RehearsalView {
  plan: Plan;
  /** Why it would be set aside, and planned only once a person releases it; null where it would not. */
  suspicion: Suspicion | null;
  /** Names for the ids that the plan speaks of. */
  names: Record<string, string>;
  /** What is known of the person, as facts that conditions ask for. */
  knows: FieldValues;
}

/** Which destination is looked at, for which sample. */
export class LookInput extends RehearsalInput {
  @IsString()
  @MaxLength(40)
  targetId!: string;
}

/** One thing that would change there. */
export interface ChangeThereView {
  what: string;
  before: string;
  after: string;
}

/** How the person of a sample is held there now, and what would become of it. */
export interface LookView {
  /** Why nobody could look; null when somebody did. */
  problem: string | null;
  isThere: boolean;
  /** What would be refused there, and why; null for nothing that is known. */
  refusal: string | null;
  changes: ChangeThereView[];
}

/** Begins a live rehearsal with a test person made of a sample. */
export class TrialInput extends RehearsalInput {
  /** The operator's own address, which the test person's mark is put into; '' for a made-up one. */
  @IsString()
  @MaxLength(200)
  address: string = '';
}

/** A live rehearsal: a test person sent through the real destinations. */
export interface TrialView {
  id: string;
  routeId: string;
  /** The version that was live, where the draft was the same. */
  version: number | null;
  person: FieldValues;
  targets: TargetTrial[];
  state: TrialState;
  startedAt: string;
  endedAt: string | null;
  by: string;
}

/** What the newest live rehearsal says of a route. */
export interface ProofView {
  trialId: string;
  /** The version that it was, as far as what was tried is a version: the one that is live, or was when it was tried. */
  version: number | null;
  state: Exclude<TrialState, 'running'>;
  at: string;
  by: string;
  /** Whether the route, or what its destinations offer, has changed since. */
  stale: boolean;
}
