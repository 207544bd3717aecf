import { transitionsOf } from './transitions.ts';

/** The states of a mail of ours. waiting: for the person's confirmation. */
export type MailState = 'waiting' | 'queued' | 'sending' | 'sent' | 'held' | 'dropped';
export type MailEvent = 'confirmed' | 'claimed' | 'sent' | 'failed for now' | 'stopped' | 'tried again' | 'dropped';

export const MAILING = transitionsOf<MailState, MailEvent>({
  confirmed: { from: ['waiting'], to: 'queued' },
  // One that is being sent can be claimed again: its lease ran out.
  claimed: { from: ['queued', 'sending'], to: 'sending' },
  sent: { from: ['sending'], to: 'sent' },
  'failed for now': { from: ['sending'], to: 'queued' },
  stopped: { from: ['sending'], to: 'held' },
  'tried again': { from: ['held'], to: 'queued' },
  dropped: { from: ['waiting', 'held'], to: 'dropped' },
});
