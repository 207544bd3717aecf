import type { ConnectionView } from '../../../contract/connection.ts';

/** From so many failures in a row on it is more than a hiccup. */
const FAILING = 3;

/** How a connection stands, in one word. */
export function connectionStanding({
  state,
  verify,
  failures,
}: Pick<ConnectionView, 'state' | 'verify' | 'failures'>): string {
  switch (state) {
    case 'active':
      if (!verify?.ok) return 'not working';
      return failures >= FAILING ? 'failing' : 'connected';
    case 'paused':
      return 'paused';
    case 'refused':
      return 'credentials refused';
    case 'ungranted':
      return 'access not granted yet';
    default:
      return state satisfies never;
  }
}
