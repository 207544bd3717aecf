import { ArrayMaxSize, IsArray, IsIn, IsString, Matches, MaxLength } from 'class-validator';
import { SEEN } from '../core/insight/index.ts';
import { EachPart } from './parts.ts';

class SeenEvent {
  @IsIn(SEEN)
  what!: (typeof SEEN)[number];

  /** The name of the question that was answered; '' for the whole form. */
  @IsString()
  @MaxLength(64)
  question!: string;
}

/** What a script on a page tells of one showing of one form. Nothing in it says who the visitor is. */
export class SeenInput {
  /** The form, as its public address names it. */
  @IsString()
  @MaxLength(40)
  form!: string;

  /** This showing of it: made up for it, and forgotten with the page. */
  @Matches(/^[0-9a-f-]{36}$/)
  showing!: string;

  /** The variant of it; '' for none. */
  @IsString()
  @MaxLength(64)
  variant: string = '';

  @IsString()
  @MaxLength(2000)
  page!: string;

  @IsString()
  @MaxLength(2000)
  referrer!: string;

  @IsArray()
  @ArrayMaxSize(70)
  @EachPart(() => SeenEvent)
  events!: SeenEvent[];
}
