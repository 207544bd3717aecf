import type { Payload } from '../../core/intake/index.ts';
import type { SourceRecord } from '../store/sources.ts';
import type { Invented } from './people.ts';

/** What somebody says in the chat of the site, and after how many answers they leave it; never where they stay to its end. */
export interface Talk {
  topic: string;
  question: [question: string, answer: string];
  agrees: boolean;
  leavesAfter: number;
  /** Whether a colleague takes over where one is wanted. */
  isAnswered: boolean;
}

/** One thing that happened in the demo's past. */
export interface Happening {
  at: number;
  source: SourceRecord;
  page: string;
  person: Invented;
  payload: Payload;
  /** What they said, where they came by the chat. */
  talk?: Talk;
  /** How long until the person confirmed; null for never. */
  confirmsAfter: number | null;
  /** How long until a colleague answered; absent for never. */
  answeredAfter?: number;
  /** Whether they fetched what the form hands out. */
  fetches?: boolean;
}

/** A clock that can be set into the past, and goes on from there. */
export class SetClock {
  #set = Date.now();
  #since = Date.now();
  set(at: number): void {
    this.#set = at;
    this.#since = Date.now();
  }
  now = (): number => this.#set + (Date.now() - this.#since);
}
