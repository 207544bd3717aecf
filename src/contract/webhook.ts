import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsOptional,
  IsString,
  Length,
  Matches,
  MaxLength,
  ValidateIf,
} from 'class-validator';
import {
  ANSWER_STATUSES,
  CHALLENGES,
  ENCODINGS,
  EVENT_ACTS,
  HASHES,
  PROOFS,
  type Challenge,
  type EventAct,
  type EventKinds,
  type Gone,
  type PathFinding,
  type Proof,
  type WebhookAnswer,
} from '../core/intake/index.ts';
import { EachPart } from './parts.ts';

const HEADER = /^[A-Za-z0-9-]{0,100}$/;
const HEADER_WORDS = 'The name of a header has letters, digits and hyphens, such as X-Signature.';

export class ProofInput implements Proof {
  @IsIn(PROOFS)
  by!: Proof['by'];

  @IsString()
  @MaxLength(120)
  @Matches(/^[^:]*$/, { message: 'A user name has no colon.' })
  user!: string;

  @Matches(HEADER, { message: HEADER_WORDS })
  header!: string;

  @IsString()
  @MaxLength(200)
  canonical!: string;

  @IsIn(HASHES)
  hash!: Proof['hash'];

  @IsIn(ENCODINGS)
  encoding!: Proof['encoding'];

  @IsString()
  @MaxLength(40)
  prefix!: string;

  @Matches(HEADER, { message: HEADER_WORDS })
  timeHeader!: string;
}

class KnownEventInput {
  @IsString()
  @Length(1, 120, { message: 'Enter the kind of event, as the other system calls it.' })
  kind!: string;

  @IsIn(EVENT_ACTS)
  act!: EventAct;
}

export class EventKindsInput implements EventKinds {
  @IsString()
  @MaxLength(300)
  path!: string;

  @IsArray()
  @ArrayMaxSize(100, { message: 'At most 100 kinds of events are told apart.' })
  @EachPart(() => KnownEventInput)
  known!: KnownEventInput[];

  @IsIn(EVENT_ACTS)
  others!: EventAct;
}

export class WebhookAnswerInput implements WebhookAnswer {
  @IsIn(ANSWER_STATUSES)
  status!: WebhookAnswer['status'];

  @IsString()
  @MaxLength(2000)
  body!: string;

  @Matches(/^[a-z]+\/[a-z0-9.+-]+$/, { message: 'A media type is written like text/plain.' })
  mediaType!: string;
}

export class ChallengeInput implements Challenge {
  @IsIn(CHALLENGES)
  by!: Challenge['by'];

  @IsString()
  @MaxLength(200)
  name!: string;
}

/** The secret that whoever sends to an address has to know. */
export class SecretInput {
  /** '' for one that is made here. */
  @ValidateIf(({ secret }: SecretInput) => secret !== '')
  @IsString()
  @Length(8, 300, { message: 'A secret has at least 8 characters.' })
  secret: string = '';

  /** Whether who has the one of before is let in for a day more. */
  @IsOptional()
  @IsBoolean()
  keepsFormer: boolean = false;
}

/** A secret as it is told once: afterwards nobody can read it here. */
export interface SecretView {
  secret: string;
  /** The address to send to; with the secret in it where it stands there. */
  address: string;
}

/** What became of a request that came to an address for programs. */
export const ARRIVAL_OUTCOMES = [
  'taken',
  'repeated',
  'ignored',
  'not genuine',
  'not readable',
  'not valid',
  'closed',
  'sample',
] as const;
export type ArrivalOutcome = (typeof ARRIVAL_OUTCOMES)[number];

/** Something that came to an address for programs, as a list has it. */
export interface ArrivalRow {
  id: string;
  at: string;
  outcome: ArrivalOutcome;
  /** Why it was not taken, or what it repeats; '' for nothing. */
  why: string;
  /** The kinds of the events in it, each once. */
  kinds: string[];
  /** What became of it. */
  submissions: string[];
}

/** The same with what it was. */
export interface ArrivalView extends ArrivalRow {
  contentType: string;
  headers: Record<string, string>;
  /** What it was read as; null where it could not be read. */
  read: { json: unknown } | null;
  /** What came, where that is not what is read: XML, form fields, lines; null where only what was read is kept. */
  body: string | null;
}

/** What was learnt of the payloads that came. */
export interface ShapeView {
  /** Of so many. */
  samples: number;
  findings: (PathFinding & { example: string })[];
  /** The kinds of events that came since they are told apart, and how many were taken and ignored of each. */
  kinds: { kind: string; came: number; lastAt: string }[];
  gone: (Omit<Gone, 'since'> & { kind: string; since: string; field: string })[];
  /** Whether a secret is there, and since when. */
  secretSince: string | null;
  /** Until when the one of before is let in beside it. */
  formerUntil: string | null;
}
