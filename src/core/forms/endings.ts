import type { Condition } from '../conditions/index.ts';

/** What comes after a form was sent. */
export interface Ending {
  /** '' for our own words. */
  title: string;
  message: string;
  /** Where the visitor goes then; '' to stay. Answers stand in it as {their field's id}. */
  next: string;
  /** Seconds for which the message is read before that; 0: at once, without the message. */
  seconds: number;
  /** Whether the next page opens in a tab of its own, and the message stays in this one. */
  newTab: boolean;
  /** Something to go on with, below the message; null for nothing. */
  link: { label: string; url: string } | null;
  /** What is handed out to who sent it; null for nothing. */
  download: Download | null;
}

/** Something that is handed out by a link of the visitor's own, for some days: a file of ours, or what is at an address. */
export interface Download {
  label: string;
  /** Id of a file of ours; '' for what is at the address. */
  file: string;
  /** '' for a file of ours. */
  url: string;
  days: number;
}

/** What comes instead for those who answered in a certain way. */
export interface EndingIf extends Ending {
  id: string;
  when: Condition;
}

/** A message, and nothing after it. */
export const saying = (message: string, more: Partial<Ending> = {}): Ending => ({
  title: '',
  message,
  next: '',
  seconds: 0,
  newTab: false,
  link: null,
  download: null,
  ...more,
});

const PLACEHOLDER = /\{([A-Za-z][A-Za-z0-9_.-]*)\}/g;

/** The ids of the fields whose answers stand in an address. */
export const answersIn = (url: string): string[] => [...url.matchAll(PLACEHOLDER)].map(([, id = '']) => id);

/** An address with answers in the places for them, encoded (RFC 3986, 2.1), so that they stay within their place. */
export const filledIn = (url: string, answerOf: (field: string) => string): string =>
  url.replace(PLACEHOLDER, (_, id: string) => encodeURIComponent(answerOf(id)));
