import type { ConnectionState } from '../../../../states/index.ts';
import { targetCheck } from '../../check.ts';

/** What stands in the way of a connection, and what mends it. */
const TROUBLE: Partial<Record<ConnectionState, [is: string, fix: string]>> = {
  refused: ['is refused by the destination', 'Replace its credentials under Connections.'],
  paused: ['is paused', 'Resume it under Connections.'],
  ungranted: ['has not been granted access yet', 'Grant access under Connections.'],
};

export const connectionDown = targetCheck({
  code: 'the connection does not work',
  level: 'warning',
  why: 'Everybody who comes meanwhile is held, and arrives when the connection works again.',
  find: ({ target: { connectionId }, connection }) => {
    const trouble = connection && TROUBLE[connection.state];
    return connection && trouble
      ? [{ part: 'target', message: `The connection ${connection.name} ${trouble[0]}.`, fix: trouble[1], connectionId }]
      : [];
  },
});
