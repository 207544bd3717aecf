import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { AUTOFILL_TOKENS, FORM_LANGUAGES, type FormItem, type FormLanguage, type Way } from '../core/forms/index.ts';
import {
  SOURCE_FORMAT,
  SOURCE_KINDS,
  FIRST_START,
  STARTS,
  type FormDocument,
  type PostsDocument,
  type MadeDocument,
  type MadeKind,
  type Visit,
} from '../core/intake/index.ts';
import { PRESENTATIONS, type Presentation } from '../core/showing/index.ts';
import type { PublishState } from '../core/states/index.ts';
import {
  FIELD_TYPES,
  KEEP_RULES,
  TRUSTS,
  WIDGETS,
  WIDTHS,
  type FieldValues,
  type KeepRule,
  type Range,
  type Trust,
  type TypeName,
  type Widget,
  type Width,
} from '../core/values/index.ts';
import type { DotLineData } from './connection.ts';
import { EndingIfInput, EndingInput, FormItemInput, LookInput, OpenTimesInput, ShowingInput } from './form.ts';

export class RangeInput implements Range {
  @IsInt({ message: 'A scale goes by whole numbers.' })
  @Min(0, { message: 'A scale begins at 0 or above.' })
  @Max(10)
  from!: number;

  @IsInt({ message: 'A scale goes by whole numbers.' })
  @Min(1)
  @Max(10, { message: 'A scale goes to 10 at most.' })
  to!: number;

  @IsString()
  @MaxLength(60)
  low!: string;

  @IsString()
  @MaxLength(60)
  high!: string;
}

export class SourceFieldInput {
  @IsString()
  @Matches(/^[A-Za-z][A-Za-z0-9_.-]{0,63}$/, { message: 'The id of a field starts with a letter.' })
  id!: string;

  @IsString()
  @Matches(/^[A-Za-z][A-Za-z0-9_.:[\]-]{0,63}$/, {
    message: 'The field name starts with a letter and has only letters, digits and the signs . - _ : [ ].',
  })
  key!: string;

  @IsString()
  @MaxLength(300)
  path!: string;

  @IsString()
  @Length(1, 500, { message: 'Give the field a label.' })
  label!: string;

  @IsBoolean()
  labelShown!: boolean;

  @IsIn(FIELD_TYPES)
  type!: TypeName;

  @IsIn(WIDGETS)
  widget!: Widget;

  @IsBoolean()
  required!: boolean;

  @IsArray()
  @ArrayMaxSize(100, { message: 'A choice has at most 100 answers.' })
  @IsString({ each: true })
  @Length(1, 200, { each: true, message: 'An answer has between 1 and 200 characters.' })
  options!: string[];

  @ValidateIf(({ range }: SourceFieldInput) => range !== null)
  @ValidateNested()
  @Type(() => RangeInput)
  range!: RangeInput | null;

  @IsString()
  @MaxLength(300)
  help!: string;

  @IsString()
  @MaxLength(300, { message: 'An error text has at most 300 characters.' })
  errorText!: string;

  @IsString()
  @MaxLength(120, { message: 'A placeholder has at most 120 characters.' })
  placeholder!: string;

  @IsIn(WIDTHS)
  width!: Width;

  @IsString()
  @MaxLength(300)
  preset!: string;

  @IsIn(['', ...AUTOFILL_TOKENS])
  autocomplete!: string;

  @IsString()
  @MaxLength(60)
  keepAs!: string;

  @IsIn(KEEP_RULES)
  keepRule!: KeepRule;
}

class AnySourceInput {
  @IsIn([SOURCE_FORMAT])
  format!: number;

  @IsArray()
  @ArrayMaxSize(60, { message: 'A source has at most 60 fields.' })
  @ValidateNested({ each: true })
  @Type(() => SourceFieldInput)
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
  @ValidateNested({ each: true })
  @Type(() => FormItemInput)
  items!: FormItem[];

  @IsIn(['visitor', ...FORM_LANGUAGES])
  language!: FormLanguage | 'visitor';

  @ValidateNested()
  @Type(() => LookInput)
  look!: LookInput;

  @IsIn(PRESENTATIONS)
  presentation!: Presentation;

  @ValidateNested()
  @Type(() => ShowingInput)
  showing!: ShowingInput;

  @ValidateNested()
  @Type(() => OpenTimesInput)
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

  @ValidateNested()
  @Type(() => EndingInput)
  ending!: EndingInput;

  @IsArray()
  @ArrayMaxSize(20, { message: 'A form has at most 20 endings beside the usual one.' })
  @ValidateNested({ each: true })
  @Type(() => EndingIfInput)
  endings!: EndingIfInput[];

  @IsArray()
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => EndingIfInput)
  instead!: EndingIfInput[];

  @IsBoolean()
  goOnLater!: boolean;

  @IsArray()
  @ArrayMaxSize(50)
  @Matches(/^https?:\/\/[^/\s]+$/, {
    each: true,
    message: 'A site is written like https://example.org, without anything after the name.',
  })
  origins!: string[];

  @IsNumber({}, { message: 'Enter seconds.' })
  @Min(0, { message: 'Seconds cannot be negative.' })
  @Max(60, { message: 'More than 60 seconds would turn people away.' })
  minimumSeconds!: number;
}

export class PostsDocumentInput extends AnySourceInput implements PostsDocument {
  @IsIn(['posts'])
  kind!: 'posts';

  @IsString()
  @MaxLength(300)
  each!: string;
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
  state: PublishState;
  liveVersion: number | null;
  /** Whether the draft differs from what is live. */
  changed: boolean;
  draft: MadeDocument;
  draftAt: string;
  publishedAt: string | null;
  /** What visitors get; null before it was published. */
  live: MadeDocument | null;
  postUrl: string;
  /** The form to be pasted into a page; '' for other kinds. */
  html: string;
  routes: { id: string; name: string; state: PublishState }[];
  today: number;
  hours: DotLineData;
}

/** By which ways those went through a form who sent it in the last days. */
export interface WaysView {
  days: number;
  ways: (Way & { count: number })[];
}

/** A submission kept as an example to map and rehearse with. */
export interface SampleView {
  id: string;
  receivedAt: string;
  values: FieldValues;
  visit: Visit;
}
