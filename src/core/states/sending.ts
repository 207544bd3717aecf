import { transitionsOf } from './transitions.ts';

/** The states of a sending of what is there already. */
export type SendingState = 'running' | 'paused' | 'done' | 'cancelled';
export type SendingEvent = 'paused' | 'resumed' | 'cancelled' | 'came to its end';

export const SENDING = transitionsOf<SendingState, SendingEvent>({
  paused: { from: ['running'], to: 'paused' },
  resumed: { from: ['paused'], to: 'running' },
  cancelled: { from: ['running', 'paused'], to: 'cancelled' },
  'came to its end': { from: ['running'], to: 'done' },
});
