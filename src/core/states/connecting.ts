import { transitionsOf } from './transitions.ts';

/**
 * active: work goes there. paused: a person stopped it. refused: its credentials are not taken; it goes on by itself
 * once they are. ungranted: access has still to be granted in the other system.
 */
export type ConnectionState = 'active' | 'paused' | 'refused' | 'ungranted';
export type ConnectionEvent = 'paused' | 'resumed' | 'found good' | 'found refused';

export const CONNECTING = transitionsOf<ConnectionState, ConnectionEvent>({
  paused: { from: ['active', 'refused', 'paused'], to: 'paused' },
  resumed: { from: ['paused'], to: 'active' },
  // What a person paused stays so, whatever is found out about its credentials.
  'found good': { from: ['refused', 'ungranted'], to: 'active' },
  'found refused': { from: ['active'], to: 'refused' },
});
