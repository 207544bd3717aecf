import type { Presentation, Showing } from '../core/showing/index.ts';

/** A form that shows itself on a site, as the script there is told. */
export interface PlacedForm {
  /** Its part of the public address. */
  id: string;
  /** What visitors know it by: its heading, or else what its button says. */
  title: string;
  /** chat: a button that opens a chat, rather than a form. */
  presentation: Presentation | 'chat';
  showing: Showing;
  /** Of a chat: ways in which it is shown, one of them maybe not at all. A form says so itself. */
  variants?: { id: string; share: number; nothing: boolean }[];
  /** Of a chat: the page that is its later goal; '' where none is. */
  goalPage?: string;
}

/** A form as it is put into a page. */
export interface PlacedPart {
  /** '' where the variant is that nothing is shown. */
  html: string;
  css: string;
  /** Whether it is said instead of the form to somebody of whom something is known. */
  instead: boolean;
  /** Ways in which it is shown; each is asked for by its id. */
  variants: { id: string; share: number }[];
  /** The page that is its later goal, as a pattern of addresses; '' where none is. */
  goalPage: string;
  /** Shipped fonts that it is written in: their files are below /place/fonts/. */
  fonts: { family: string; weight: string; range: string; file: string }[];
  /** Which published version it is. */
  version: number;
}

/** What became of a form that a script sent. */
export interface SentPart {
  /** What stands in the place of the form now: itself with what is wrong, or what is said after sending. */
  html: string;
  /** Whether the form was taken: not where it has to be mended, or was kept for later. */
  taken: boolean;
  /** Where the visitor goes next; null to stay. */
  next: string | null;
  /** Whether in a tab of its own. */
  newTab?: boolean;
  /** After so many seconds. */
  seconds: number;
  /** By which the visitor is known again, if the site says that they agreed to that; absent where nothing was taken. */
  visitor?: string;
}

/** What a script works out before its form is taken, where it looks like a robot's: see server/security/work.ts. */
export interface WorkWanted {
  task: string;
  bits: number;
}
