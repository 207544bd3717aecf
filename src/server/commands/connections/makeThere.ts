import type { MakingInput } from '../../../contract/connection.ts';
import { good, type Result } from '../../../core/result.ts';
import { checkConnection } from '../../connecting/checking.ts';
import { connectorFor, openAccess, partsFor } from '../../connecting/open.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import { noteOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Makes a list, group, tag or field in another system, and fetches what it offers anew. @returns its id there */
export async function makeThere(
  actor: Actor,
  context: Context,
  { id, input: { what, name, list, kind } }: { id: string; input: MakingInput },
): Promise<Result<string, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  const opened = await openAccess(context, connection);
  if (!opened.ok) return refused('invalid', 'not-made', opened.fault.said);
  const made = await connectorFor(partsFor(context, opened.value)).make({ what, name: name.trim(), list, kind });
  if (!made.ok) {
    const why = made.fault.said || made.fault.cause;
    return refused('invalid', 'not-made', `It was not made there: ${why}.`, [{ pointer: '/name', detail: why }]);
  }
  const subject = { kind: 'connection', id, name: connection.name } as const;
  const note = noteOf(context, actor, { act: 'made there', subject, detail: `The ${what} ${name.trim()}.` });
  await checkConnection(context, connection, true, note);
  return good(made.value);
}
