import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsNumber,
  IsObject,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateBy,
  ValidateIf,
} from 'class-validator';
import type { Condition } from '../core/conditions/index.ts';
import { CHANNELS, type Channel } from '../core/consent/index.ts';
import { isStep, OVERWRITE_RULES, type OverwriteRule, type Step, type WhenEmpty } from '../core/mapping/index.ts';
import {
  DUPLICATE_POLICIES,
  ROUTE_FORMAT,
  type ConfirmedBy,
  type ConsentAsk,
  type DuplicatePolicy,
  type Finding,
  type RouteDocument,
  type RouteMail,
  type TargetPlace,
  type TargetTag,
} from '../core/plan/index.ts';
import { IsCondition } from './conditions.ts';
import type { DotLineData } from './connection.ts';
import type { ProofView } from './rehearsal.ts';
import type { PublishState } from '../core/states/index.ts';
import { EachPart, IsPart } from './parts.ts';

const MOST_ACCEPTED = 200;

/** Whether something is reasons by what they are for. */
const isAccepted = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.keys(value).length <= MOST_ACCEPTED &&
  Object.entries(value).every(
    ([key, reason]) => key.length <= 600 && typeof reason === 'string' && reason.trim() !== '' && reason.length <= 500,
  );

class LineOriginInput {
  @IsIn(['field', 'first', 'fixed', 'text'])
  kind!: 'field' | 'first' | 'fixed' | 'text';

  @IsString()
  @MaxLength(64)
  field: string = '';

  @IsArray()
  @ArrayMaxSize(20, { message: 'A line takes the first of at most twenty fields.' })
  @IsString({ each: true })
  @MaxLength(64, { each: true })
  fields: string[] = [];

  @IsString()
  @MaxLength(500, { message: 'A fixed value has at most 500 characters.' })
  value: string = '';

  @IsString()
  @MaxLength(5000, { message: 'A text has at most 5000 characters.' })
  text: string = '';
}

const IsSteps = () =>
  ValidateBy({
    name: 'isSteps',
    validator: {
      validate: (value) => Array.isArray(value) && value.every(isStep),
      defaultMessage: () => 'A step has a setting that it does not know.',
    },
  });

const isWhenEmpty = (value: unknown): value is WhenEmpty => {
  if (typeof value !== 'object' || value === null || !('kind' in value)) return false;
  if (value.kind === 'value') return 'value' in value && typeof value.value === 'string' && value.value.length <= 500;
  return value.kind === 'leave out' || value.kind === 'clear';
};

class MapLineInput {
  @IsString()
  @Length(1, 40)
  id!: string;

  @IsString()
  @Length(1, 120)
  to!: string;

  @IsPart(() => LineOriginInput)
  from!: LineOriginInput;

  @IsArray()
  @ArrayMaxSize(10, { message: 'A line has at most ten steps.' })
  @IsSteps()
  steps!: Step[];

  @ValidateBy({
    name: 'isWhenEmpty',
    validator: { validate: isWhenEmpty, defaultMessage: () => 'Say what is sent where nothing came.' },
  })
  whenEmpty: WhenEmpty = { kind: 'leave out' };

  @ValidateIf((_, rule) => rule !== null)
  @IsIn(OVERWRITE_RULES)
  overwrite: OverwriteRule | null = null;

  @IsCondition()
  when: Condition | null = null;
}

class TagInput implements TargetTag {
  @IsString()
  @Length(1, 40)
  id!: string;

  @IsString()
  @MaxLength(120, { message: 'A tag has at most 120 characters.' })
  tag!: string;

  @IsCondition()
  when: Condition | null = null;
}

class PlaceInput {
  @IsString()
  @Length(1, 120)
  list!: string;

  @IsString()
  @MaxLength(120)
  group: string = '';
}

class TargetPlaceInput extends PlaceInput implements TargetPlace {
  @IsString()
  @Length(1, 40)
  id!: string;

  @IsCondition()
  when: Condition | null = null;
}

class NeedInput {
  @IsString()
  @Length(1, 40)
  ask!: string;

  @IsIn(CHANNELS)
  channel!: Channel;
}

class TargetInput {
  @IsString()
  @Length(1, 40)
  id!: string;

  @IsCondition()
  when: Condition | null = null;

  @ValidateIf((_, branch) => branch !== null)
  @IsString()
  @Length(1, 40)
  branch: string | null = null;

  @ValidateIf((_, needs) => needs !== null)
  @IsObject({ message: 'Choose the consent that it needs, or none.' })
  @IsPart(() => NeedInput)
  needs!: NeedInput | null;

  @IsString()
  @MaxLength(36)
  connectionId!: string;

  @IsString()
  @MaxLength(120)
  kind: string = '';

  @IsArray()
  @ArrayMaxSize(20, { message: 'At most twenty places to put people into.' })
  @EachPart(() => TargetPlaceInput)
  places!: TargetPlaceInput[];

  @IsArray()
  @ArrayMaxSize(200, { message: 'At most two hundred tags.' })
  @EachPart(() => TagInput)
  tags!: TagInput[];

  @IsArray()
  @ArrayMaxSize(20, { message: 'At most twenty places to take people out of.' })
  @EachPart(() => PlaceInput)
  leaves: PlaceInput[] = [];

  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 120, { each: true, message: 'A tag has between 1 and 120 characters.' })
  tagsOff: string[] = [];

  @IsArray()
  @ArrayMaxSize(200)
  @EachPart(() => MapLineInput)
  lines!: MapLineInput[];

  @IsIn(DUPLICATE_POLICIES)
  duplicates!: DuplicatePolicy;
}

class ConfirmationMailInput {
  @IsString()
  @Length(1, 200, { message: 'The mail needs a subject.' })
  subject!: string;

  @IsString()
  @Length(1, 5000, { message: 'The mail needs a text.' })
  body!: string;

  @IsString()
  @Length(1, 80, { message: 'The button needs a text.' })
  button!: string;
}

class ConsentAskInput implements ConsentAsk {
  @IsString()
  @Length(1, 40)
  id!: string;

  @IsString()
  @MaxLength(80)
  purpose!: string;

  @IsArray()
  @ArrayUnique()
  @IsIn(CHANNELS, { each: true })
  channels!: Channel[];

  @IsString()
  @MaxLength(64)
  tickField!: string;
}

/** Whether something says which one system confirms. */
const isConfirmedBy = (value: unknown): value is ConfirmedBy => {
  if (typeof value !== 'object' || value === null || !('by' in value)) return false;
  if (value.by === 'target') return 'targetId' in value && typeof value.targetId === 'string';
  return value.by === 'nobody' || value.by === 'iwashi';
};

class ConsentPolicyInput {
  @IsArray()
  @ArrayMaxSize(10, { message: 'A route asks for at most ten consents.' })
  @EachPart(() => ConsentAskInput)
  asks!: ConsentAskInput[];

  @ValidateBy({
    name: 'isConfirmedBy',
    validator: { validate: isConfirmedBy, defaultMessage: () => 'Choose who confirms.' },
  })
  confirmedBy!: ConfirmedBy;

  @IsPart(() => ConfirmationMailInput)
  mail!: ConfirmationMailInput;

  @IsNumber({}, { message: 'Enter hours.' })
  @Min(1, { message: 'People need at least an hour.' })
  @Max(24 * 60, { message: 'At most 60 days.' })
  expiresHours!: number;

  @IsIn(['ask', 'at once'])
  changes: 'ask' | 'at once' = 'ask';
}

class RouteMailInput implements RouteMail {
  @IsString()
  @Length(1, 40)
  id!: string;

  @IsIn(['answer', 'notify'])
  kind!: 'answer' | 'notify';

  @IsCondition()
  when: Condition | null = null;

  @IsArray()
  @ArrayMaxSize(20, { message: 'A mail goes to at most twenty colleagues.' })
  @IsString({ each: true })
  @MaxLength(254, { each: true })
  to!: string[];

  @IsIn(['now', 'confirmed'])
  after!: 'now' | 'confirmed';

  @IsString()
  @MaxLength(200, { message: 'A subject has at most 200 characters.' })
  subject!: string;

  @IsString()
  @MaxLength(10_000, { message: 'A text has at most 10,000 characters.' })
  body!: string;
}

export class RouteDocumentInput implements RouteDocument {
  @IsIn([ROUTE_FORMAT])
  format!: number;

  @IsArray()
  @ArrayMaxSize(50, { message: 'A route takes at most 50 sources.' })
  @IsString({ each: true })
  @Length(1, 36, { each: true })
  sourceIds!: string[];

  @IsArray()
  @ArrayMaxSize(10)
  @EachPart(() => TargetInput)
  targets!: TargetInput[];

  @IsPart(() => ConsentPolicyInput)
  consent!: ConsentPolicyInput;

  @IsArray()
  @ArrayMaxSize(20, { message: 'A route sends at most twenty mails.' })
  @EachPart(() => RouteMailInput)
  mails!: RouteMailInput[];

  @ValidateBy({
    name: 'isAccepted',
    validator: { validate: isAccepted, defaultMessage: () => 'Give a reason of at most 500 characters.' },
  })
  accepted: Record<string, string> = {};
}

export class PublishInput {
  /** What is said of the version; '' for nothing. */
  @IsString()
  @MaxLength(300, { message: 'A note has at most 300 characters.' })
  note: string = '';
}

/** One version that was published. */
export interface RouteVersionView {
  version: number;
  publishedAt: string;
  note: string;
  by: string;
}

export class RouteInput {
  @IsString()
  @Length(1, 80, { message: 'Give the route a name.' })
  name!: string;

  @IsString()
  @Length(1, 36, { message: 'Choose a source.' })
  sourceId!: string;
}

export interface RouteView {
  id: string;
  name: string;
  /** In which folder of the list it stands; '' for none. */
  folder: string;
  /** null while it is in use. */
  archivedAt: string | null;
  state: PublishState;
  liveVersion: number | null;
  changed: boolean;
  draft: RouteDocument;
  draftAt: string;
  publishedAt: string | null;
  sourceNames: string[];
  targetNames: string[];
  findings: Finding[];
  /** What the newest live rehearsal says; null where there was none. */
  proof: ProofView | null;
  held: number;
  hours: DotLineData;
}
