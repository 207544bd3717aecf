import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findRoute, removeRoute as store } from '../../store/routes.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { stopsOfRoute } from '../entries/stops.ts';

/** Deletes a route by which nothing went. */
export async function removeRoute(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, id);
    if (!route) return unknown('route');
    const { kept } = await stopsOfRoute(db, route);
    if (kept !== null) return refused('conflict', 'in-use', kept);
    await store(db, id);
    return done(undefined, { act: 'removed', subject: { kind: 'route', id, name: route.name } });
  });
}
