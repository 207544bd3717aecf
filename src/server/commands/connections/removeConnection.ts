import type { Result } from '../../../core/result.ts';
import { stopInboundEvents } from '../../connecting/inboundEvents.ts';
import type { Context } from '../../context.ts';
import { findConnection, moveConnection, removeConnection as removeRow } from '../../store/connections.ts';
import { inTransaction } from '../../store/database.ts';
import { holdForRemoved } from '../../store/deliveries.ts';
import { shopOfConnection } from '../../store/shops.ts';
import { readSourceName } from '../../store/sources.ts';
import { routesInto } from '../../store/routes.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Removes a connection. One that is used is only removed when the operator was told what will stop (`anyway`). */
export async function removeConnection(
  actor: Actor,
  context: Context,
  { id, anyway }: { id: string; anyway: boolean },
): Promise<Result<void, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  const shop = await shopOfConnection(context.store.db, id);
  if (shop !== null) {
    const name = await readSourceName(context.store.db, shop);
    return refused('conflict', 'in-use', `It is the shop of the source ${name}. Delete or archive that one first.`);
  }
  const users = await routesInto(context.store.db, id);
  if (users.length > 0 && !anyway) {
    const names = users.map(({ name }) => name).join(', ');
    const those = users.length === 1 ? 'that route' : 'those routes';
    return refused('conflict', 'in-use', `It is used by ${names}. Take it out of ${those} first.`);
  }
  // Should the service not answer, it tells an address that nobody listens at any more.
  await stopInboundEvents(context, connection);
  // Nothing is sent any more, and all is held, a part at a time: only what came meanwhile is left for the end.
  const { store, now } = context;
  await inTransaction(store, (db) => moveConnection(db, id, 'paused'));
  while (await inTransaction(store, (db) => holdForRemoved(db, id, connection.name, now())));
  return inCommand(context, actor, async (db) => {
    await holdForRemoved(db, id, connection.name, context.now());
    await removeRow(db, id);
    return done(undefined, { act: 'removed', subject: { kind: 'connection', id, name: connection.name } });
  });
}
