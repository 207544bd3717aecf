import { IsAddress } from './session.ts';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  IsUrl,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { CHANNELS, type Channel } from '../core/consent/index.ts';
import { UNFINISHED, type ChatFace, type ChatPart, type Unfinished } from '../core/chat/index.ts';
import { AreParts } from './chat.ts';
import {
  FORM_LANGUAGES,
  GOALS,
  type FormItem,
  type FormLanguage,
  type Goal,
  type Variant,
  type Way,
} from '../core/forms/index.ts';
import {
  SOURCE_FORMAT,
  SOURCE_KINDS,
  FIRST_START,
  STARTS,
  type FileDocument,
  type FormDocument,
  type PostsDocument,
  type MadeDocument,
  type MadeKind,
  type SaidAnswer,
  type ChatDocument,
  type MembershipPaths,
  type RegistrationDocument,
  type ShopDocument,
  type Suspicion,
  type Visit,
} from '../core/intake/index.ts';
import type { Comparison } from '../core/insight/index.ts';
import { PRESENTATIONS, type Presentation } from '../core/showing/index.ts';
import type { PublishState } from '../core/states/index.ts';
import { TRUSTS, type FieldValues, type Trust } from '../core/values/index.ts';
import type { DotLineData } from './connection.ts';
import { SourceFieldInput } from './field.ts';
import {
  AnyVariantInput,
  EndingIfInput,
  EndingInput,
  FormItemInput,
  FormVariantInput,
  GuardsInput,
  LookInput,
} from './form.ts';
import { OpenTimesInput, ShowingInput } from './showing.ts';
import { ChallengeInput, EventKindsInput, ProofInput, WebhookAnswerInput } from './webhook.ts';
import { EachPart, IsPart } from './parts.ts';

class AnySourceInput {
  @IsIn([SOURCE_FORMAT])
  format!: number;

  @IsArray()
  @ArrayMaxSize(60, { message: 'A source has at most 60 fields.' })
  @EachPart(() => SourceFieldInput)
  fields!: SourceFieldInput[];

  @IsString()
  @MaxLength(1000)
  statement!: string;

  @IsIn(TRUSTS)
  trust!: Trust;
}

export class FormDocumentInput extends AnySourceInput implements FormDocument {
  @IsIn(['form'])
  kind!: 'form';

  @IsString()
  @MaxLength(200)
  title!: string;

  @IsArray()
  @ArrayMaxSize(120, { message: 'At most 120 things stand on a form.' })
  @EachPart(() => FormItemInput)
  items!: FormItem[];

  @IsIn(['visitor', ...FORM_LANGUAGES])
  language!: FormLanguage | 'visitor';

  @IsPart(() => LookInput)
  look!: LookInput;

  @IsString()
  @MaxLength(40)
  theme!: string;

  @IsIn(PRESENTATIONS)
  presentation!: Presentation;

  @IsPart(() => ShowingInput)
  showing!: ShowingInput;

  @IsPart(() => OpenTimesInput)
  open!: OpenTimesInput;

  @IsString()
  @MaxLength(1000)
  closedText!: string;

  @IsString()
  @Length(1, 80, { message: 'The button needs a text.' })
  button!: string;

  @IsString()
  @MaxLength(80, { message: 'A button has at most 80 characters.' })
  resetLabel!: string;

  @IsPart(() => EndingInput)
  ending!: EndingInput;

  @IsArray()
  @ArrayMaxSize(20, { message: 'A form has at most 20 endings beside the usual one.' })
  @EachPart(() => EndingIfInput)
  endings!: EndingIfInput[];

  @IsArray()
  @ArrayMaxSize(20)
  @EachPart(() => EndingIfInput)
  instead!: EndingIfInput[];

  @IsArray()
  @ArrayMaxSize(4, { message: 'At most four variants are compared.' })
  @EachPart(() => FormVariantInput)
  variants!: FormVariantInput[];

  @IsIn(GOALS)
  goal!: Goal;

  @IsString()
  @MaxLength(300)
  goalPage!: string;

  @IsBoolean()
  goOnLater!: boolean;

  @IsArray()
  @ArrayMaxSize(50)
  // Names, numbers and a port alone: it stands in headers, where a sign would begin something else.
  @Matches(/^https?:\/\/([\p{L}\p{N}]([\p{L}\p{N}.-]*[\p{L}\p{N}])?|\[[0-9a-f:.]+\])(:\d{1,5})?$/iu, {
    each: true,
    message: 'A site is written like https://example.org, without anything after the name.',
  })
  origins!: string[];

  @IsNumber({}, { message: 'Enter seconds.' })
  @Min(0, { message: 'Seconds cannot be negative.' })
  @Max(60, { message: 'More than 60 seconds would turn people away.' })
  minimumSeconds!: number;

  @IsPart(() => GuardsInput)
  guards!: GuardsInput;
}

class AnyPostedInput extends AnySourceInput {
  @IsString()
  @MaxLength(300)
  each!: string;

  @IsPart(() => ProofInput)
  proof!: ProofInput;

  @IsString()
  @MaxLength(300)
  idPath!: string;

  @IsPart(() => EventKindsInput)
  events!: EventKindsInput;

  @IsPart(() => WebhookAnswerInput)
  answer!: WebhookAnswerInput;

  @IsPart(() => ChallengeInput)
  challenge!: ChallengeInput;
}

export class PostsDocumentInput extends AnyPostedInput implements PostsDocument {
  @IsIn(['posts'])
  kind!: 'posts';
}

export class FileDocumentInput extends AnySourceInput implements FileDocument {
  @IsIn(['file'])
  kind!: 'file';
}

class SaidAnswerInput implements SaidAnswer {
  @IsIn(CHANNELS)
  channel!: Channel;

  @IsString()
  @MaxLength(60)
  field!: string;

  @IsString()
  @MaxLength(60)
  words!: string;

  @IsString()
  @MaxLength(60)
  at!: string;
}

export class ShopDocumentInput extends AnySourceInput implements ShopDocument {
  @IsIn(['shop'])
  kind!: 'shop';

  @IsString()
  @Length(36, 36)
  connectionId!: string;

  @IsPart(() => EventKindsInput)
  events!: EventKindsInput;

  @IsString()
  @MaxLength(300)
  idPath!: string;

  @IsArray()
  @ArrayMaxSize(4)
  @EachPart(() => SaidAnswerInput)
  answers!: SaidAnswerInput[];

  @IsArray()
  @ArrayMaxSize(40)
  @IsString({ each: true })
  @MaxLength(120, { each: true })
  saidBy!: string[];

  @IsString()
  @MaxLength(60)
  kindField!: string;

  @IsString()
  @MaxLength(60)
  testField!: string;
}

class MembershipPathsInput implements MembershipPaths {
  @IsString()
  @MaxLength(300)
  level!: string;

  @IsString()
  @MaxLength(300)
  begins!: string;

  @IsString()
  @MaxLength(300)
  ends!: string;
}

export class RegistrationDocumentInput extends AnyPostedInput implements RegistrationDocument {
  @IsIn(['registration'])
  kind!: 'registration';

  @IsArray()
  @ArrayMaxSize(4)
  @EachPart(() => SaidAnswerInput)
  answers!: SaidAnswerInput[];

  @IsArray()
  @ArrayMaxSize(40)
  @IsString({ each: true })
  @MaxLength(120, { each: true })
  saidBy!: string[];

  @IsString()
  @MaxLength(60)
  kindField!: string;

  @IsString()
  @MaxLength(60)
  testField!: string;

  @IsString()
  @MaxLength(60)
  membershipField!: string;

  @IsPart(() => MembershipPathsInput)
  membershipPaths!: MembershipPathsInput;

  @IsString()
  @MaxLength(60)
  zone!: string;

  @IsString()
  @Length(1, 120, { message: 'Say what a membership that ended by itself is called.' })
  lapsedKind!: string;
}

class ChatFaceInput implements ChatFace {
  @IsString()
  @Length(1, 80, { message: 'The window needs a title.' })
  title!: string;

  @IsString()
  @Length(1, 60, { message: 'The button needs a text.' })
  launcher!: string;

  @IsPart(() => LookInput)
  look!: LookInput;

  @AreParts()
  parts!: ChatPart[];
}

class ChatVariantInput extends AnyVariantInput implements Variant<ChatFace> {
  @ValidateIf(({ face }: ChatVariantInput) => face !== null)
  @IsPart(() => ChatFaceInput)
  face!: ChatFaceInput | null;
}

export class ChatDocumentInput extends AnySourceInput implements ChatDocument {
  @IsIn(['chat'])
  kind!: 'chat';

  @AreParts()
  parts!: ChatPart[];

  @IsArray()
  @ArrayMaxSize(4, { message: 'At most four variants are compared.' })
  @EachPart(() => ChatVariantInput)
  variants!: ChatVariantInput[];

  @IsIn(GOALS)
  goal!: Goal;

  @IsString()
  @MaxLength(300)
  goalPage!: string;

  @IsIn(UNFINISHED)
  unfinished!: Unfinished;

  @IsInt({ message: 'Enter minutes.' })
  @Min(1)
  @Max(1440)
  breaksOffMinutes!: number;

  @IsString()
  @Length(1, 80, { message: 'The window needs a title.' })
  title!: string;

  @IsString()
  @Length(1, 60, { message: 'The button needs a text.' })
  launcher!: string;

  @IsIn(['visitor', ...FORM_LANGUAGES])
  language!: FormLanguage | 'visitor';

  @IsPart(() => LookInput)
  look!: LookInput;

  @IsArray()
  @ArrayMaxSize(50)
  // Names, numbers and a port alone: it stands in headers, where a sign would begin something else.
  @Matches(/^https?:\/\/([\p{L}\p{N}]([\p{L}\p{N}.-]*[\p{L}\p{N}])?|\[[0-9a-f:.]+\])(:\d{1,5})?$/iu, {
    each: true,
    message: 'A site is written like https://example.org, without anything after the name.',
  })
  origins!: string[];

  @IsPart(() => ShowingInput)
  showing!: ShowingInput;
}

export class SourceInput {
  @IsString()
  @Length(1, 80, { message: 'Give the source a name.' })
  name!: string;

  @IsIn(SOURCE_KINDS)
  kind: MadeKind = 'form';

  /** What a form begins with; the first of all unless it is said. */
  @IsIn(STARTS.map(({ id }) => id))
  start: string = FIRST_START.id;

  /** The page of a site on which a form shows itself, at the end of what it says; '' for none. */
  @ValidateIf(({ page }: SourceInput) => page !== '')
  @MaxLength(300)
  @IsUrl({ protocols: ['http', 'https'], require_tld: false }, { message: 'This is no address of a page.' })
  page: string = '';

  /** The connection that a shop is; '' for other kinds. */
  @IsString()
  @MaxLength(36)
  connectionId: string = '';

  /** Of a form that is to be live at once: the colleague who is told by mail of what comes; '' for a draft. */
  @ValidateIf(({ tell }: SourceInput) => tell !== '')
  @IsAddress('Enter the email address of a colleague.')
  tell: string = '';
}

class AgreedByInput {
  @IsString()
  @MaxLength(36)
  purpose!: string;

  @IsString()
  @Length(1, 1000)
  wording!: string;
}

/** What is said when a source is published. */
export class PublishInput {
  /** Of which words in it somebody says what people agree to by them. */
  @EachPart(() => AgreedByInput)
  @ArrayMaxSize(50)
  agreed: AgreedByInput[] = [];

  /** Whether it is published though it leads to pages that are not there. */
  @IsBoolean()
  anyway: boolean = false;
}

/** When a draft goes live by itself. */
export class ScheduleInput {
  /** Milliseconds since 1970; null for never. */
  @ValidateIf(({ at }: ScheduleInput) => at !== null)
  @IsNumber({}, { message: 'Choose a day and a time.' })
  at!: number | null;
}

/** Where forms are looked for: in HTML that is given, or on a page of the web. */
export class FormsInput {
  @IsString()
  @MaxLength(500_000, { message: 'This is more HTML than one page has.' })
  html!: string;

  @ValidateIf((input: FormsInput) => input.html === '')
  @Matches(/^https?:\/\/[^\s]+$/, {
    message: 'Paste the HTML, or enter the whole address of the page, from https:// on.',
  })
  @MaxLength(500)
  url!: string;
}

export interface SourceView {
  id: string;
  name: string;
  /** In which folder of the list it stands; '' for none. */
  folder: string;
  state: PublishState;
  liveVersion: number | null;
  /** Whether the draft differs from what is live. */
  changed: boolean;
  draft: MadeDocument;
  draftAt: string;
  publishedAt: string | null;
  /** When the draft goes live by itself, and who said so; null for never. */
  goesLive: { at: string; by: string } | null;
  /** What keeps it from that, though its time has come. */
  keptBack: string[];
  /** null while it is in use. */
  archivedAt: string | null;
  /** What visitors get; null before it was published. */
  live: MadeDocument | null;
  postUrl: string;
  /** The form to be pasted into a page; '' for other kinds. */
  html: string;
  routes: { id: string; name: string; state: PublishState }[];
  today: number;
  hours: DotLineData;
}

/** One published version of a source. */
export interface SourceVersionView {
  version: number;
  publishedAt: string;
}

/** By which ways those went through a form who sent it in the last days. */
export interface WaysView {
  days: number;
  ways: (Way & { count: number })[];
}

/** What was set aside, by why. */
export interface SetAsideView {
  since: string;
  counts: { why: Suspicion; count: number }[];
}

/** How the variants of a form or chat do that are live. */
export interface VariantsView extends Comparison {
  goal: Goal;
  /** Their ids, in the order of the arms. */
  variants: string[];
  /** On so many days something was counted. */
  days: number;
}

/** A submission kept as an example to map and rehearse with. */
export interface SampleView {
  id: string;
  receivedAt: string;
  values: FieldValues;
  visit: Visit;
}
