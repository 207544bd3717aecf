import type { Cause } from './causes.ts';
import { LONGEST_ASKED_MS } from './schedule.ts';

/** What all workers know about how a connection fares. Times in milliseconds since 1970. */
export interface Health {
  /** Failures in a row that concern the service as a whole. */
  failures: number;
  /** Nothing is sent before this time. */
  restUntil: number;
}

export const HEALTHY: Health = { failures: 0, restUntil: 0 };

/** So many failures in a row, and the service is left alone for a while: its trouble is not that of one person. */
const OPENS_AFTER = 5;
const FIRST_REST_MS = 2_000;
const LONGEST_REST_MS = 5 * 60_000;

/** Causes that speak of the service, not of what was sent. */
const OF_THE_SERVICE = new Set<Cause>(['unavailable', 'time-out', 'answer unreadable']);

/**
 * The circuit breaker of a connection: what an outcome means for everything else that is to go there.
 * @param cause null for a success
 * @param waitMs how long the service asked to be left alone
 * @param random a number in [0, 1), so that workers do not come back at the same moment
 */
export function afterOutcome(
  health: Health,
  cause: Cause | null,
  waitMs: number | null,
  now: number,
  random: number,
): Health {
  const asked = waitMs === null ? 0 : now + Math.min(waitMs, LONGEST_ASKED_MS);
  if (cause === 'rate limited') return { ...health, restUntil: Math.max(health.restUntil, asked) };
  if (cause === null || !OF_THE_SERVICE.has(cause)) return { failures: 0, restUntil: Math.max(0, asked) };
  // Left alone already: what was under way then fails for the same trouble, and tells nothing new of how long it lasts.
  if (isTryingOut(health) && health.restUntil > now) return { ...health, restUntil: Math.max(health.restUntil, asked) };
  const failures = health.failures + 1;
  if (failures < OPENS_AFTER) return { failures, restUntil: Math.max(health.restUntil, asked) };
  const rest = Math.min(LONGEST_REST_MS, FIRST_REST_MS * 2 ** (failures - OPENS_AFTER));
  return { failures, restUntil: Math.max(asked, Math.round(now + rest * (0.5 + random / 2))) };
}

/** Whether only one delivery at a time is tried, to see if the service is back. */
export const isTryingOut = ({ failures }: Health): boolean => failures >= OPENS_AFTER;
