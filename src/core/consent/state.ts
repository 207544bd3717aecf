import type { ConsentNeed } from './purpose.ts';

/** `not given`: a box was shown and left unticked. It is evidence of what was offered, and takes nothing back. */
export type ConsentEventKind = 'asked' | 'given' | 'not given' | 'confirmed' | 'refused' | 'withdrawn' | 'expired';

/** One piece of evidence, for one purpose over one channel. */
export interface ConsentEvent {
  kind: ConsentEventKind;
  /** When it happened, in milliseconds since 1970 (not when we learned of it). */
  at: number;
  /** Of a confirmation: when what it confirms was signed up for. null where nobody knows. */
  answers?: number | null;
}

/** `waiting`: they agreed, and have still to confirm that the address is theirs; that is no consent yet. */
export type ConsentState = 'none' | 'asked' | 'given' | 'waiting' | 'confirmed' | 'refused' | 'withdrawn';

/** Events of one instant are read in this order, so that the strictest has the last word. */
const RANK: Record<ConsentEventKind, number> = {
  'not given': 0,
  expired: 0,
  given: 1,
  asked: 2,
  confirmed: 3,
  refused: 4,
  withdrawn: 5,
};

interface Standing {
  /** The last word that stands for itself. */
  decided: 'none' | 'confirmed' | 'refused' | 'withdrawn';
  /** When that was said. */
  decidedAt: number;
  /** What came after it and is not confirmed yet. */
  open: 'asked' | 'given' | 'waiting' | null;
}

/**
 * What the events of one contact and purpose add up to. Depends on when they happened, never on the order in which
 * they arrive. After a withdrawal only a newer explicit act counts; when that act was to be confirmed and expired,
 * the withdrawal stands again. A confirmation belongs to its sign-up: one of a sign-up from before a withdrawal confirms nothing.
 */
export function consentState(events: ConsentEvent[]): ConsentState {
  const { decided, open } = [...events]
    .sort((a, b) => a.at - b.at || RANK[a.kind] - RANK[b.kind])
    .reduce<Standing>(next, { decided: 'none', decidedAt: -Infinity, open: null });
  return open ?? decided;
}

/** The same of one purpose and channel, out of events of several. */
export const stateFor = (events: (ConsentEvent & ConsentNeed)[], need: ConsentNeed): ConsentState =>
  consentState(events.filter((event) => isOf(event, need)));

function next(standing: Standing, { kind, at, answers }: ConsentEvent): Standing {
  const { decided, decidedAt, open } = standing;
  switch (kind) {
    case 'confirmed': {
      const isOfBefore = answers != null && (decided === 'withdrawn' || decided === 'refused') && decidedAt >= answers;
      return isOfBefore ? standing : { decided: kind, decidedAt: at, open: null };
    }
    case 'withdrawn':
    case 'refused':
      return { decided: kind, decidedAt: at, open: null };
    case 'given':
      return decided === 'confirmed' ? standing : { ...standing, open: open === 'waiting' ? 'waiting' : 'given' };
    case 'asked':
      if (open !== null) return { ...standing, open: open === 'asked' ? 'asked' : 'waiting' };
      return decided === 'none' ? { ...standing, open: 'asked' } : standing;
    case 'expired':
      return { ...standing, open: null };
    case 'not given':
      return standing;
    default:
      return kind satisfies never;
  }
}

/** Whether something was taken back since a moment: what was signed up for then is confirmed no more. */
export const isTakenBackSince = (events: (ConsentEvent & ConsentNeed)[], need: ConsentNeed, since: number): boolean =>
  events.some(
    (event) => (event.kind === 'withdrawn' || event.kind === 'refused') && isOf(event, need) && event.at >= since,
  );

/** What is told again so soon was told because of the first. */
const ECHO_MS = 2 * 60_000;

/** Whether a withdrawal at a time is the echo of one that is known: of the same, a moment before, with no new yes between them. */
export const isEchoOf = (events: (ConsentEvent & ConsentNeed)[], need: ConsentNeed, at: number): boolean =>
  events.some(
    (event) =>
      event.kind === 'withdrawn' &&
      isOf(event, need) &&
      event.at <= at &&
      at - event.at <= ECHO_MS &&
      !events.some((yes) => agreesBy(yes.kind) && isOf(yes, need) && yes.at > event.at && yes.at <= at),
  );

/** Whether somebody agrees by such an event. */
export const agreesBy = (kind: ConsentEventKind): boolean => kind === 'given' || kind === 'confirmed';

const isOf = (event: ConsentNeed, { purpose, channel }: ConsentNeed): boolean =>
  event.purpose === purpose && event.channel === channel;

/** Whether a person has taken back what they agreed to, or said no when they were asked to confirm. */
export function hasTakenBack(events: (ConsentEvent & ConsentNeed)[], need: ConsentNeed): boolean {
  const state = stateFor(events, need);
  return state === 'withdrawn' || state === 'refused';
}
