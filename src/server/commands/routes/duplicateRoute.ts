import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { addRoute, findRoute } from '../../store/routes.ts';
import { done, inCommand, unknown, type Actor, type Refusal } from '../command.ts';

const LONGEST_NAME = 80;

/** Makes another route like one: its draft, under another name, not live. @returns its id */
export async function duplicateRoute(actor: Actor, context: Context, id: string): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, id);
    if (!route) return unknown('route');
    const name = `${route.name.slice(0, LONGEST_NAME - 7)}, copy`;
    const copy = newId();
    await addRoute(db, { id: copy, name, draft: route.draft, now: now() });
    return done(copy, {
      act: 'made',
      subject: { kind: 'route', id: copy, name },
      detail: `A copy of ${route.name}.`,
    });
  });
}
