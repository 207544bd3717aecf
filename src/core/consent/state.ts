import type { ConsentNeed } from './purpose.ts';

/** `not given`: a box was shown and left unticked. It is evidence of what was offered, and takes nothing back. */
export type ConsentEventKind = 'asked' | 'given' | 'not given' | 'confirmed' | 'refused' | 'withdrawn' | 'expired';

/** One piece of evidence, for one purpose over one channel. */
export interface ConsentEvent {
  kind: ConsentEventKind;
  /** When it happened, in milliseconds since 1970 (not when we learned of it). */
  at: number;
}

export type ConsentState = 'none' | 'asked' | 'given' | 'confirmed' | 'refused' | 'withdrawn';

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
  /** What came after it and is not confirmed yet. */
  open: 'asked' | 'given' | null;
}

/**
 * What the events of one contact and purpose add up to. Depends on when they happened, never on the order in which
 * they arrive. After a withdrawal only a newer explicit act counts; when that act was to be confirmed and expired,
 * the withdrawal stands again.
 */
export function consentState(events: ConsentEvent[]): ConsentState {
  const { decided, open } = [...events]
    .sort((a, b) => a.at - b.at || RANK[a.kind] - RANK[b.kind])
    .reduce<Standing>(next, { decided: 'none', open: null });
  return open ?? decided;
}

/** The same of one purpose and channel, out of events of several. */
export const stateFor = (events: (ConsentEvent & ConsentNeed)[], { purpose, channel }: ConsentNeed): ConsentState =>
  consentState(events.filter((event) => event.purpose === purpose && event.channel === channel));

function next(standing: Standing, { kind }: ConsentEvent): Standing {
  switch (kind) {
    case 'withdrawn':
    case 'refused':
    case 'confirmed':
      return { decided: kind, open: null };
    case 'given':
      return standing.decided === 'confirmed' ? standing : { ...standing, open: 'given' };
    case 'asked':
      return standing.decided === 'none' && standing.open === null ? { ...standing, open: 'asked' } : standing;
    case 'expired':
      return { ...standing, open: null };
    case 'not given':
      return standing;
    default:
      return kind satisfies never;
  }
}

/** Whether a person has taken back what they agreed to, or said no when they were asked to confirm. */
export function hasTakenBack(events: (ConsentEvent & ConsentNeed)[], need: ConsentNeed): boolean {
  const state = stateFor(events, need);
  return state === 'withdrawn' || state === 'refused';
}
