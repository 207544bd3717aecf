import type { ReadBackRow } from './readBack.ts';

/** What a live rehearsal showed at one target. */
export interface TargetTrial {
  targetId: string;
  connectionId: string;
  /** As the connection was called then. */
  connectionName: string;
  /**
   * proved: what was meant was found there. accepted: it was taken, and nobody can look. failed: it was refused, or something else
   * was found. left out: the route does not send the test person there.
   */
  state: 'waiting' | 'proved' | 'accepted' | 'failed' | 'left out';
  /** What came of it, in a sentence; '' while it waits. */
  said: string;
  /** What can be done about it; '' for nothing. */
  nextStep: string;
  /** What was meant beside what was found. */
  rows: ReadBackRow[];
  /** What became of what was made there. */
  cleaned: 'nothing there' | 'removed' | 'left there' | 'not yet';
  /** Why it was left there. */
  cleanedSaid: string;
}

/** How a live rehearsal stands as a whole. */
export type TrialState = 'running' | 'proved' | 'failed';

/** @param trials of all targets of a route */
export function trialState(trials: TargetTrial[]): TrialState {
  if (trials.some(({ state }) => state === 'waiting')) return 'running';
  const went = trials.filter(({ state }) => state === 'proved' || state === 'accepted');
  return went.length > 0 && trials.every(({ state }) => state !== 'failed') ? 'proved' : 'failed';
}
