import type { Result } from '../../../core/result.ts';
import { good } from '../../../core/result.ts';
import { checkConnection } from '../../connecting/checking.ts';
import type { Context } from '../../context.ts';
import { changeConnection, findConnection } from '../../store/connections.ts';
import { noteOf, unknown, type Actor, type Refusal } from '../command.ts';

/** Asks the service again who we are and what it offers; lets go what was held for refused credentials when they are good again. */
export async function verifyAgain(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  const note = noteOf(context, actor, { act: 'verified', subject: { kind: 'connection', id, name: connection.name } });
  await checkConnection(context, connection, true, async (db) => {
    await note(db);
    // Whoever verifies it anew gives its answers another chance.
    await changeConnection(db, id, { answerUntrueAt: null });
  });
  return good(undefined);
}
