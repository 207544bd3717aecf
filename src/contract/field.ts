import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
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
import { AUTOFILL_TOKENS, MAYBE_PICTURE } from '../core/forms/index.ts';
import {
  FIELD_TYPES,
  KEEP_RULES,
  WIDGETS,
  WIDTHS,
  type KeepRule,
  type Range,
  type TypeName,
  type Widget,
  type Width,
} from '../core/values/index.ts';
import { IsPart } from './parts.ts';

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

  @IsArray()
  @ArrayMaxSize(100)
  @Matches(MAYBE_PICTURE, {
    each: true,
    message: 'Enter the whole addresses of the pictures, from https:// on.',
  })
  pictures!: string[];

  @ValidateIf(({ range }: SourceFieldInput) => range !== null)
  @IsPart(() => RangeInput)
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
