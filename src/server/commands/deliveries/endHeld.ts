import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { noteDelivered } from '../../store/counting.ts';
import type { Db } from '../../store/database.ts';
import { dropDelivery, replayDelivery, settleDelivery } from '../../store/deliveries.ts';
import { done, goneOn, inCommand, type Act, type Actor, type Refusal } from '../command.ts';

/** Tries a held or retrying delivery again as it was planned. */
export const tryAgain = (actor: Actor, context: Context, id: string) =>
  change(actor, context, (db) => replayDelivery(db, id, context.now()), { act: 'tried again', subject: of(id) });

/** Ends a held delivery as delivered: a person looked there, and saw that it had arrived. */
export const markArrived = (actor: Actor, context: Context, id: string) =>
  change(actor, context, (db) => settle(db, id, context.now()), {
    act: 'marked as arrived',
    subject: of(id),
  });

async function settle(db: Db, id: string, now: number): Promise<boolean> {
  const settled = await settleDelivery(db, id, now);
  if (settled) await noteDelivered(db, [id], now);
  return settled;
}

/** Gives up a delivery, for a reason. */
export const drop = (actor: Actor, context: Context, { id, reason }: { id: string; reason: string }) =>
  change(actor, context, (db) => dropDelivery(db, id, reason, context.now()), {
    act: 'dropped',
    subject: of(id),
    detail: reason,
  });

const of = (id: string) => ({ kind: 'delivery', id, name: '' }) as const;

async function change(
  actor: Actor,
  context: Context,
  move: (db: Db) => Promise<boolean>,
  act: Act,
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => ((await move(db)) ? done(undefined, act) : goneOn()));
}
