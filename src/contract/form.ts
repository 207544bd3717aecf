import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsDefined,
  IsIn,
  IsInt,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import type { Condition } from '../core/conditions/index.ts';
import type { Guards } from '../core/intake/index.ts';
import {
  ALIGNS,
  BLOCK_KINDS,
  BUTTON_WIDTHS,
  FONTS,
  LABELS,
  SPACINGS,
  PICTURE_ADDRESS,
  type Backdrop,
  type Colours,
  type Download,
  type Ending,
  type EndingIf,
  type FormItem,
  type FormVariant,
  type Look,
  type Skip,
  type VariantFace,
} from '../core/forms/index.ts';

import { IsCondition } from './conditions.ts';
import { SourceFieldInput } from './field.ts';
import { EachPart, IsPart } from './parts.ts';

const COLOUR = /^#[0-9a-f]{6}$/;
const isColour = { message: 'A colour is written like #21525b.' };

export class ColoursInput implements Colours {
  @Matches(COLOUR, isColour)
  action!: string;

  @Matches(COLOUR, isColour)
  onAction!: string;

  @Matches(COLOUR, isColour)
  ink!: string;

  @Matches(COLOUR, isColour)
  quiet!: string;

  @ValidateIf(({ ground }: ColoursInput) => ground !== '')
  @Matches(COLOUR, isColour)
  ground!: string;

  @Matches(COLOUR, isColour)
  line!: string;

  @Matches(COLOUR, isColour)
  wrong!: string;

  @ValidateIf(({ fade }: ColoursInput) => fade !== '')
  @Matches(COLOUR, isColour)
  fade!: string;

  @ValidateIf(({ hover }: ColoursInput) => hover !== '')
  @Matches(COLOUR, isColour)
  hover!: string;
}

const isPicture = { message: 'Enter the whole address of the picture, from https:// on, or choose one of yours.' };

/** A picture behind a form. */
export class BackdropInput implements Backdrop {
  @Matches(PICTURE_ADDRESS, isPicture)
  @MaxLength(500)
  url!: string;

  @IsInt()
  @Min(0)
  @Max(100)
  veil!: number;
}

export class LookInput implements Look {
  @IsPart(() => ColoursInput)
  colours!: ColoursInput;

  @ValidateIf(({ night }: LookInput) => night !== null)
  @IsPart(() => ColoursInput)
  night!: ColoursInput | null;

  @IsIn(FONTS)
  font!: Look['font'];

  @IsInt()
  @Min(12, { message: 'Smaller than 12 pixels, people cannot read it.' })
  @Max(28)
  size!: number;

  @IsInt()
  @Min(0)
  @Max(40)
  radius!: number;

  @IsInt()
  @Min(0)
  @Max(1600)
  width!: number;

  @IsIn(SPACINGS)
  spacing!: Look['spacing'];

  @IsIn(LABELS)
  labels!: Look['labels'];

  @IsIn(ALIGNS)
  align!: Look['align'];

  @IsIn(BUTTON_WIDTHS)
  buttonWidth!: Look['buttonWidth'];

  @IsBoolean()
  framed!: boolean;

  @ValidateIf(({ picture }: LookInput) => picture !== null)
  @IsPart(() => BackdropInput)
  picture!: BackdropInput | null;
}

/** Where a page leads instead of to the next one. */
export class SkipInput implements Skip {
  @IsString()
  @Length(1, 64)
  id!: string;

  @IsCondition()
  when!: Condition | null;

  @IsString()
  @Length(1, 64)
  to!: string;
}

/** What stands on a form; which of its parts count depends on its kind. */
export class FormItemInput {
  @IsIn(['question', ...BLOCK_KINDS])
  kind!: FormItem['kind'];

  @IsString()
  @Matches(/^[A-Za-z][A-Za-z0-9_.-]{0,63}$/, { message: 'The id of what stands on a form starts with a letter.' })
  id!: string;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'heading' || kind === 'text')
  @IsString()
  @Length(1, 2000, { message: 'Write something here, or remove it.' })
  text!: string;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'picture')
  @Matches(PICTURE_ADDRESS, isPicture)
  @MaxLength(500)
  url!: string;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'picture')
  @IsInt()
  @Min(0)
  @Max(10_000)
  width!: number;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'picture')
  @IsInt()
  @Min(0)
  @Max(10_000)
  height!: number;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'picture')
  @IsString()
  @MaxLength(300)
  alt!: string;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'page')
  @IsString()
  @MaxLength(200)
  title!: string;

  @ValidateIf(({ kind }: FormItemInput) => kind === 'page')
  @IsArray()
  @ArrayMaxSize(20, { message: 'From one page there are at most 20 ways.' })
  @EachPart(() => SkipInput)
  skips!: SkipInput[];

  @IsCondition()
  shownIf!: Condition | null;
}

/** An address that a visitor goes to; answers may stand behind its host. */
const WEB_ADDRESS = /^https?:\/\/[^\s/{}]+(\/\S*|\?\S*)?$/;
const WHOLE_ADDRESS =
  'Enter the whole address of the page, from https:// on; answers may stand behind its first slash.';

export class LinkInput {
  @IsString()
  @Length(1, 80, { message: 'The link needs a text.' })
  label!: string;

  @Matches(WEB_ADDRESS, { message: WHOLE_ADDRESS })
  @MaxLength(1000)
  url!: string;
}

export class DownloadInput implements Download {
  @IsString()
  @Length(1, 80, { message: 'The download needs a text.' })
  label!: string;

  @IsString()
  @MaxLength(64)
  file!: string;

  @ValidateIf(({ file, url }: DownloadInput) => file === '' && url !== '')
  @Matches(/^https?:\/\/\S+$/, { message: 'Enter the whole address of what is handed out, from https:// on.' })
  @MaxLength(1000)
  url!: string;

  @IsInt()
  @Min(1, { message: 'The link works for a day at least.' })
  @Max(365, { message: 'The link works for a year at most.' })
  days!: number;
}

export class EndingInput implements Ending {
  @IsString()
  @MaxLength(200)
  title!: string;

  @IsString()
  @MaxLength(1000)
  message!: string;

  @ValidateIf(({ next }: EndingInput) => next !== '')
  @Matches(WEB_ADDRESS, { message: WHOLE_ADDRESS })
  @MaxLength(1000)
  next!: string;

  @IsInt()
  @Min(0)
  @Max(60, { message: 'After a minute, nobody waits for a page any more.' })
  seconds!: number;

  @IsBoolean()
  newTab!: boolean;

  @ValidateIf(({ download }: EndingInput) => download !== null)
  @IsPart(() => DownloadInput)
  download!: DownloadInput | null;

  @ValidateIf(({ link }: EndingInput) => link !== null)
  @IsPart(() => LinkInput)
  link!: LinkInput | null;
}

export class EndingIfInput extends EndingInput implements EndingIf {
  @IsString()
  @Matches(/^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$/)
  id!: string;

  @IsCondition()
  @IsDefined({ message: 'Say for whom this ending is.' })
  when!: Condition;
}

/** What a variant of a form says in its own way. */
export class VariantFaceInput implements VariantFace {
  @IsString()
  @MaxLength(200)
  title!: string;

  @IsArray()
  @ArrayMaxSize(120, { message: 'At most 120 things stand on a form.' })
  @EachPart(() => FormItemInput)
  items!: FormItem[];

  @IsArray()
  @ArrayMaxSize(60, { message: 'A source has at most 60 fields.' })
  @EachPart(() => SourceFieldInput)
  fields!: SourceFieldInput[];

  @IsPart(() => LookInput)
  look!: LookInput;

  @IsString()
  @Length(1, 80, { message: 'The button needs a text.' })
  button!: string;

  @IsString()
  @MaxLength(80, { message: 'A button has at most 80 characters.' })
  resetLabel!: string;

  @IsString()
  @MaxLength(1000)
  statement!: string;

  @IsPart(() => EndingInput)
  ending!: EndingInput;
}

/** What every variant has, of whatever. */
export class AnyVariantInput {
  @IsString()
  @Matches(/^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$/)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Give the variant a name.' })
  name!: string;

  @IsInt()
  @Min(1, { message: 'Each variant is shown to some.' })
  @Max(99)
  share!: number;

  @IsBoolean()
  nothing!: boolean;
}

export class FormVariantInput extends AnyVariantInput implements FormVariant {
  @ValidateIf(({ face }: FormVariantInput) => face !== null)
  @IsPart(() => VariantFaceInput)
  face!: VariantFaceInput | null;
}

/** What a form does not take without somebody having looked at it. */
export class GuardsInput implements Guards {
  @IsArray()
  @ArrayMaxSize(200, { message: 'At most 200 words are looked for.' })
  @IsString({ each: true })
  @Length(2, 100, { each: true, message: 'A word that is looked for has between 2 and 100 characters.' })
  words!: string[];

  @ValidateIf(({ mostLinks }: GuardsInput) => mostLinks !== null)
  @IsInt()
  @Min(0)
  @Max(100)
  mostLinks!: number | null;

  @IsBoolean()
  throwAway!: boolean;
}
