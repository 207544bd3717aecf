import type { RouteDocument } from '../../../core/plan/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findRoute, saveRouteDraft as store } from '../../store/routes.ts';
import { done, inCommand, stale, unknown, type Actor, type Refusal } from '../command.ts';

/** @param input.revision when what it replaces was saved; null for whenever */
export async function saveRouteDraft(
  actor: Actor,
  context: Context,
  { id, draft, revision }: { id: string; draft: RouteDocument; revision: number | null },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, id);
    if (!route) return unknown('route');
    if (!(await store(db, id, draft, revision, context.now()))) return stale();
    return done(undefined, { act: 'edited', subject: { kind: 'route', id, name: route.name } });
  });
}
