import { IsString, Length, Matches, MaxLength, ValidateIf } from 'class-validator';
import type { Look } from '../core/forms/index.ts';
import { LookInput } from './form.ts';
import { IsPart } from './parts.ts';

/** A look that several forms share. */
export class ThemeInput {
  @IsString()
  @Length(1, 60, { message: 'Give the theme a name.' })
  name!: string;

  @IsPart(() => LookInput)
  look!: LookInput;
}

/** Where a look is read from: a page of the web, or CSS that is given. */
export class LookFromInput {
  @IsString()
  @MaxLength(1_000_000, { message: 'This is more CSS than one page has.' })
  css!: string;

  @ValidateIf(({ css }: LookFromInput) => css === '')
  @Matches(/^https?:\/\/[^\s]+$/, {
    message: 'Enter the whole address of the page, from https:// on, or paste its CSS.',
  })
  @MaxLength(500)
  url!: string;
}

export interface ThemeView {
  id: string;
  name: string;
  look: Look;
  updatedAt: string;
  /** The forms whose look it is, by their drafts. */
  forms: { id: string; name: string }[];
}
