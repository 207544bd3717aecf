import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findRoute } from '../../store/routes.ts';
import { findSending, moveSending } from '../../store/sendings.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

const ACTS = { pause: 'paused', resume: 'resumed', cancel: 'cancelled' } as const;
export type SendingAct = keyof typeof ACTS;

/** Pauses, resumes or cancels a sending. What went out stays sent. */
export async function steerSending(
  actor: Actor,
  context: Context,
  { routeId, id, act }: { routeId: string; id: string; act: SendingAct },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const sending = await findSending(db, id);
    const route = await findRoute(db, routeId);
    if (sending?.routeId !== routeId || !route) return unknown('sending');
    if (!(await moveSending(db, id, ACTS[act], context.now())))
      return refused('conflict', 'gone-on', 'It has come to its end meanwhile, or was steered by somebody else.');
    return done(undefined, {
      act: `${ACTS[act]} the sending`,
      subject: { kind: 'route', id: routeId, name: route.name },
    });
  });
}
