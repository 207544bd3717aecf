/** The states of a delivery. `waiting`: for the person's confirmation. */
export const DELIVERY_STATES = ['waiting', 'queued', 'sending', 'retrying', 'held', 'delivered', 'dropped'] as const;
export type DeliveryState = (typeof DELIVERY_STATES)[number];

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

/** The state after an event; null when the event does not apply, and nothing changes. */
export function transition(state: DeliveryState, event: DeliveryEvent): DeliveryState | null {
  switch (event) {
    case 'confirmed':
      return state === 'waiting' ? 'queued' : null;
    case 'claimed':
      // A delivery that is being sent can be claimed again: its lease ran out.
      return state === 'queued' || state === 'retrying' || state === 'sending' ? 'sending' : null;
    case 'delivered':
      return state === 'sending' ? 'delivered' : null;
    case 'failed for now':
      return state === 'sending' ? 'retrying' : null;
    case 'stopped':
      return state === 'sending' ? 'held' : null;
    case 'stopped while waiting':
      // Everything that waits for a connection is held when its credentials turn out to be refused, or it is removed.
      return state === 'queued' || state === 'retrying' ? 'held' : null;
    case 'given back':
      // A worker took it, and let it go untried.
      return state === 'sending' ? 'queued' : null;
    case 'given up':
      return state === 'sending' ? 'dropped' : null;
    case 'seen there':
      return state === 'held' ? 'delivered' : null;
    case 'replayed':
      return state === 'held' || state === 'retrying' ? 'queued' : null;
    case 'dropped':
      return state === 'held' || state === 'waiting' || state === 'retrying' ? 'dropped' : null;
    default:
      return event satisfies never;
  }
}

/** The states from which an event leads on. */
export function statesBefore(event: DeliveryEvent): DeliveryState[] {
  return DELIVERY_STATES.filter((state) => transition(state, event) !== null);
}

/** The state to which an event leads, from wherever it applies: for statements that move many at once. */
export function stateAfter(event: DeliveryEvent): DeliveryState {
  const after = statesBefore(event).flatMap((state) => transition(state, event) ?? []);
  const [first] = after;
  if (first === undefined) throw new Error(`nothing follows "${event}"`);
  return first;
}
