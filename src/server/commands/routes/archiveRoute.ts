import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { archiveRoute as store, findRoute, moveRoute } from '../../store/routes.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Puts a route aside: it is paused, and what went by it stays. Or takes it out again, paused still. */
export async function archiveRoute(
  actor: Actor,
  context: Context,
  { id, away }: { id: string; away: boolean },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, id);
    if (!route) return unknown('route');
    if (!(await store(db, id, away ? context.now() : null)))
      return refused('conflict', 'as-it-was', away ? 'It is archived already.' : 'It is not archived.');
    if (away) await moveRoute(db, id, 'paused');
    return done(undefined, { act: away ? 'archived' : 'restored', subject: { kind: 'route', id, name: route.name } });
  });
}
