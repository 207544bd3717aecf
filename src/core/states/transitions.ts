/** What follows on what: the states of something, and for each event, to which state it leads from which. */
export interface Transitions<State extends string, Event extends string> {
  /** The state after an event; null when the event does not apply, and nothing changes. */
  after: (state: State, event: Event) => State | null;
  /** The states from which an event leads on. */
  before: (event: Event) => State[];
  /** The state to which an event leads, from wherever it applies: for statements that move many at once. */
  to: (event: Event) => State;
}

/**
 * Makes one table of what follows. No state of such a thing is set anywhere else.
 * @param table for each event, the states from which it leads to which one
 * @example transitionsOf({ published: { from: ['draft', 'live'], to: 'live' } })
 */
export function transitionsOf<State extends string, Event extends string>(
  table: Record<Event, { from: State[]; to: State }>,
): Transitions<State, Event> {
  return {
    after: (state, event) => (table[event].from.includes(state) ? table[event].to : null),
    before: (event) => table[event].from,
    to: (event) => table[event].to,
  };
}
