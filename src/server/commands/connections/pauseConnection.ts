import type { Result } from '../../../core/result.ts';
import { checkConnection } from '../../connecting/checking.ts';
import type { Context } from '../../context.ts';
import { findConnection, moveConnection } from '../../store/connections.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

const NOT_NOW: Record<'paused' | 'resumed', [slug: string, text: string]> = {
  paused: ['not-connected', 'Access has still to be granted, so nothing goes there that could be paused.'],
  resumed: ['not-paused', 'It is not paused.'],
};

/** Stops what goes to a connection, or lets it go on, after a look whether it still works. */
export async function pauseConnection(
  actor: Actor,
  context: Context,
  { id, event }: { id: string; event: 'paused' | 'resumed' },
): Promise<Result<void, Refusal>> {
  const moved = await inCommand(context, actor, async (db) => {
    const connection = await findConnection(db, id);
    if (!connection) return unknown('connection');
    if (!(await moveConnection(db, id, event))) return refused('conflict', ...NOT_NOW[event]);
    return done(undefined, { act: event, subject: { kind: 'connection', id, name: connection.name } });
  });
  const connection = moved.ok && event === 'resumed' ? await findConnection(context.store.db, id) : null;
  if (connection) await checkConnection(context, connection);
  return moved;
}
