import type { Channel } from '../consent/index.ts';
import type { EventKinds } from './webhookParts.ts';

/** What can happen in a shop, whatever it calls it. said: a customer says anew whether they want to hear from it. */
export const SHOP_EVENTS = ['registered', 'bought', 'refunded', 'left a basket', 'said'] as const;
export type ShopEvent = (typeof SHOP_EVENTS)[number];

/** Where what somebody agreed to elsewhere stands, by one channel: fields of the source, by their ids. */
export interface SaidAnswer {
  channel: Channel;
  /** Whether they agree. */
  field: string;
  /** In which words, and when they said it. */
  words: string;
  at: string;
}

/** What a document says of what people agreed to elsewhere, and what happened there, beside its fields. */
export interface SaidParts {
  answers: SaidAnswer[];
  /** The kinds of event by which people say anew whether they want something: a no in them takes back a yes. */
  saidBy: string[];
  /** The fields that hold the kind of event, and whether it was only tried out. */
  kindField: string;
  testField: string;
}

/** What a document says of a shop beside its fields. */
export interface ShopParts extends SaidParts {
  connectionId: string;
  /** Which of the things that happen there are taken. */
  events: EventKinds;
  /** A JSONPath to what tells one happening from its repetition. */
  idPath: string;
}
