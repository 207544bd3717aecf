import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findDelivery } from '../../store/deliveries.ts';
import { replanOne } from '../../planning/replanning.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Puts a held delivery back with what its route, as it is live now, makes of the submission. */
export async function replan(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const delivery = await findDelivery(db, id);
    if (!delivery) return unknown('delivery');
    const why = await replanOne(db, context, delivery);
    if (why !== null) return refused('conflict', 'not-replanned', why);
    return done(undefined, { act: 'planned anew', subject: { kind: 'delivery', id, name: '' } });
  });
}
