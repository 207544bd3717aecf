import { good, type Result } from '../../../core/result.ts';
import { isGrantedByPerson } from '../../connecting/adding.ts';
import { beginGrant, endGrant } from '../../connecting/granting.ts';
import { profileFor } from '../../connecting/profiles.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import { noteOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Begins to ask for access in the other system's own window. @returns the address of that window */
export async function askForAccess(actor: Actor, context: Context, id: string): Promise<Result<string, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  if (!isGrantedByPerson(profileFor(connection)))
    return refused('conflict', 'nothing-to-grant', 'This kind of service needs no access to be granted.');
  const subject = { kind: 'connection', id, name: connection.name } as const;
  const note = noteOf(context, actor, { act: 'asked for access', subject });
  return good(await beginGrant(context, connection, actor.id, note));
}

/**
 * Ends it with what the window sent back.
 * @returns the connection's id, or what went wrong, with the id where it is known
 */
export async function takeAccess(actor: Actor, context: Context, cameBack: URL) {
  return endGrant(context, cameBack, actor.id, ({ id, name }) =>
    noteOf(context, actor, { act: 'granted', subject: { kind: 'connection', id, name } }),
  );
}
