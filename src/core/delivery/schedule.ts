import { CAUSES } from './causes.ts';
import type { Fault } from './outcome.ts';

/** Exponential back-off with full jitter: a random wait up to a limit that doubles, so that failures do not march in step. */
const FIRST_LIMIT_MS = 1_000;
/** Nobody is left alone for longer, whatever a service asks for. */
export const LONGEST_ASKED_MS = 24 * 3_600_000;
/** Unless a service asks for more, nothing waits longer for its next try. */
export const LONGEST_WAIT_MS = 15 * 60_000;
/** With these limits the last try comes about two hours after the first. */
const MOST_TRIES = 16;

export type NextStep = { kind: 'retry'; at: number } | { kind: 'hold' } | { kind: 'drop' };

/**
 * What happens after a failed try.
 * @param tries how many were made, this one included
 * @param random a number in [0, 1)
 */
export function nextAttempt(tries: number, fault: Fault, now: number, random: number): NextStep {
  const { action } = CAUSES[fault.cause];
  if (action === 'drop') return { kind: 'drop' };
  if (action === 'hold' || tries >= MOST_TRIES) return { kind: 'hold' };
  const limit = Math.min(LONGEST_WAIT_MS, FIRST_LIMIT_MS * 2 ** (tries - 1));
  const asked = Math.min(fault.waitMs ?? 0, LONGEST_ASKED_MS);
  return { kind: 'retry', at: Math.round(now + asked + random * limit) };
}
