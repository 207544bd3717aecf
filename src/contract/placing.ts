import type { Presentation, Showing } from '../core/showing/index.ts';

/** A form that shows itself on a site, as the script there is told. */
export interface PlacedForm {
  /** Its part of the public address. */
  id: string;
  presentation: Presentation;
  showing: Showing;
}

/** A form as it is put into a page. */
export interface PlacedPart {
  html: string;
  css: string;
  /** Which published version it is. */
  version: number;
}

/** What became of a form that a script sent. */
export interface SentPart {
  /** What stands in the place of the form now: itself with what is wrong, or what is said after sending. */
  html: string;
  /** Where the visitor goes next; null to stay. */
  next: string | null;
  /** After so many seconds. */
  seconds: number;
}
