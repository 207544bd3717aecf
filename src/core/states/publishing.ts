import { transitionsOf } from './transitions.ts';

/** The states of a source or a route. */
export type PublishState = 'draft' | 'live' | 'paused';
export type PublishEvent = 'published' | 'paused' | 'resumed';

export const PUBLISHING = transitionsOf<PublishState, PublishEvent>({
  // Publishing what is paused sets it going again: whoever publishes means it to be live.
  published: { from: ['draft', 'live', 'paused'], to: 'live' },
  paused: { from: ['live', 'paused'], to: 'paused' },
  resumed: { from: ['paused'], to: 'live' },
});
