import type { ConnectionView } from '../../../contract/connection.ts';

/** How a connection stands, in one word. */
export function connectionStanding({ state, verify }: ConnectionView): string {
  switch (state) {
    case 'active':
      return verify?.ok ? 'connected' : 'not working';
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
