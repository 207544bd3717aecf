import { transitionsOf } from '../states/index.ts';

/** The states of a delivery. `waiting`: for the person's confirmation. */
export const DELIVERY_STATES = ['waiting', 'queued', 'sending', 'retrying', 'held', 'delivered', 'dropped'] as const;
export type DeliveryState = (typeof DELIVERY_STATES)[number];

/**
 * Whether a delivery in that state holds back later ones of the same person to the same destination: an older value would overwrite a
 * newer one. What waits for a confirmation may never come, and holds back nobody.
 */
const HOLDS_BACK: Record<DeliveryState, boolean> = {
  waiting: false,
  queued: true,
  sending: true,
  retrying: true,
  held: true,
  delivered: false,
  dropped: false,
};
export const HOLDING_BACK: DeliveryState[] = DELIVERY_STATES.filter((state) => HOLDS_BACK[state]);

export type DeliveryEvent =
  | 'confirmed'
  | 'claimed'
  | 'delivered'
  | 'failed for now'
  | 'stopped'
  | 'stopped while waiting'
  | 'given back'
  | 'given up'
  | 'replayed'
  | 'seen there'
  | 'dropped';

export const DELIVERING = transitionsOf<DeliveryState, DeliveryEvent>({
  confirmed: { from: ['waiting'], to: 'queued' },
  // A delivery that is being sent can be claimed again: its lease ran out.
  claimed: { from: ['queued', 'sending', 'retrying'], to: 'sending' },
  delivered: { from: ['sending'], to: 'delivered' },
  'failed for now': { from: ['sending'], to: 'retrying' },
  stopped: { from: ['sending'], to: 'held' },
  // Everything that waits for a connection is held when its credentials turn out to be refused, or it is removed.
  'stopped while waiting': { from: ['queued', 'retrying'], to: 'held' },
  // A worker took it, and let it go untried.
  'given back': { from: ['sending'], to: 'queued' },
  'given up': { from: ['sending'], to: 'dropped' },
  'seen there': { from: ['held'], to: 'delivered' },
  replayed: { from: ['retrying', 'held'], to: 'queued' },
  dropped: { from: ['waiting', 'retrying', 'held'], to: 'dropped' },
});
