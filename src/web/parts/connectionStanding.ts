import type { ConnectionView } from '../../contract/connection.ts';

/** From so many failures in a row on it is more than a hiccup. */
const FAILING = 3;

export type ConnectionStanding =
  'connected' | 'not tried' | 'failing' | 'not working' | 'paused' | 'credentials refused' | 'access not granted yet';

/** How a connection stands, in one word. */
export function connectionStanding({
  state,
  verify,
  failures,
  lastSuccessAt,
}: Pick<ConnectionView, 'state' | 'verify' | 'failures' | 'lastSuccessAt'>): ConnectionStanding {
  switch (state) {
    case 'active':
      if (!verify?.ok) return 'not working';
      if (failures >= FAILING) return 'failing';
      // Nothing was asked there, and nothing has arrived yet: nobody knows.
      return verify.untried !== undefined && lastSuccessAt === null ? 'not tried' : 'connected';
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

/** What happened when a connection was last looked at: *verified* is said only where its service was asked, and answered. */
export const lookedAtWord = (verify: ConnectionView['verify']): 'verified' | 'looked at' =>
  verify?.ok === true && verify.untried === undefined ? 'verified' : 'looked at';
