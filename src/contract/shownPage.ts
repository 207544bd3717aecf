import { Matches, MaxLength } from 'class-validator';

/** A page of the web on which a form is looked at while it is worked on. */
export class ShownPageInput {
  @Matches(/^https?:\/\/[^\s]+$/, { message: 'Enter the whole address of the page, from https:// on.' })
  @MaxLength(500)
  url!: string;
}

/** Its HTML with its style in it, and without its scripts. */
export interface ShownPage {
  html: string;
}
