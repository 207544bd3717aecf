import { good, type Result } from '../../../core/result.ts';
import { startInboundEvents, stopInboundEvents, sendsInboundEvents } from '../../connecting/inboundEvents.ts';
import { profileFor } from '../../connecting/profiles.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import { noteOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Has a service tell us what happens there. */
export async function listenThere(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  if (!sendsInboundEvents(profileFor(connection)))
    return refused('conflict', 'cannot', 'This kind of service cannot tell us what happens there.');
  const subject = { kind: 'connection', id, name: connection.name } as const;
  const fault = await startInboundEvents(
    context,
    connection,
    noteOf(context, actor, { act: 'listens there', subject }),
  );
  if (fault)
    return refused('invalid', 'not-registered', `Our address was not registered there: ${fault.said || fault.cause}.`);
  return good(undefined);
}

/** Has it tell us no more. */
export async function stopListening(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  const subject = { kind: 'connection', id, name: connection.name } as const;
  const fault = await stopInboundEvents(
    context,
    connection,
    noteOf(context, actor, { act: 'stopped listening', subject }),
  );
  if (!fault) return good(undefined);
  const still = `Nothing more is taken from there, but our address is still registered: ${fault.said || fault.cause}. Take it away there.`;
  return refused('invalid', 'still-registered', still);
}

/** Has a service tell us anew: our address there was lost, or taken away. */
export async function listenAnew(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  // Whether it knew of it any more does not matter: what comes to the old address is not taken.
  await stopInboundEvents(context, connection);
  return listenThere(actor, context, id);
}
