import type { ConnectionState } from '../core/states/index.ts';
import type { ShopEvent } from '../core/intake/index.ts';

/** A connection to a shop, of which a source can be made. */
export interface ShopChoice {
  id: string;
  name: string;
  /** The source that it is already; null where it is none. */
  sourceId: string | null;
}

/** What can be done about something that is wrong with a shop. */
export type ShopFix = 'listen' | 'read the check-out' | 'open the connection';

/** Something that was found out about a shop by asking it. */
export interface ShopFinding {
  ok: boolean;
  found: string;
  /** null where nothing can be done about it from here. */
  fix: ShopFix | null;
}

/** How a shop that is a source stands. */
export interface ShopView {
  connection: { id: string; name: string; state: ConnectionState } | null;
  /** When something last came of it, and when it last told something by itself. */
  lastAt: string | null;
  heardAt: string | null;
  /** When it was last asked for what it did not tell; how often it is, in seconds; and why it could not be. */
  askedAt: string | null;
  askedEverySeconds: number;
  problem: string;
  /** How many things it never told, and were found by asking; and when the last one was. */
  missed: number;
  missedAt: string | null;
  /** How many came in the last 24 hours, and how many do on a usual day of the last four weeks; null where it is too new to say. */
  today: number;
  usualADay: number | null;
  /** How many came since this hour began, and how many usually do in the whole of it, by the hours of the day. */
  thisHour: number;
  usualThisHour: number | null;
  /** Since when nothing comes, against its own rhythm; null while it does. */
  silentSince: string | null;
  /** What each of its kinds of event is. */
  kinds: Record<string, ShopEvent>;
  canFetchCustomers: boolean;
}
