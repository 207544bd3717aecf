import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findRoute } from '../../store/routes.ts';
import { addSending, listSendings } from '../../store/sendings.ts';
import { countChosen, type Chosen } from '../../planning/backfillPart.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** What is said where nothing is live that it could go through. */
export const NOT_LIVE = 'Publish the route first: a draft sends nothing.';

const NOTHING_THERE = {
  all: 'Nothing was received in that period.',
  held: 'Nothing of that period is held by this route.',
};

/** Has what was received in a period sent through a route, at a set pace. One at a time for a route. @returns its id */
export async function startSending(
  actor: Actor,
  context: Context,
  { routeId, perMinute, ...chosen }: Chosen & { routeId: string; perMinute: number },
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  const { since, until, pile } = chosen;
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, routeId);
    if (!route) return unknown('route');
    if (!route.live || route.state !== 'live') return refused('conflict', 'not-live', NOT_LIVE);
    if (since >= until)
      return refused('invalid', 'invalid', 'The period ends before it begins.', [
        { pointer: '/until', detail: 'The period ends before it begins.' },
      ]);
    const others = await listSendings(db, routeId);
    if (others.some(({ state }) => state === 'running' || state === 'paused'))
      return refused(
        'conflict',
        'under-way',
        'A sending of this route is under way. Cancel it, or let it come to its end.',
      );
    const total = await countChosen(db, route, chosen);
    if (total === 0) return refused('invalid', 'nothing-there', NOTHING_THERE[pile]);
    const id = newId();
    const byName = nameOf(actor);
    await addSending(db, {
      id,
      routeId,
      state: 'running',
      ...chosen,
      perMinute,
      total,
      dueAt: now(),
      startedAt: now(),
      byName,
    });
    return done(id, {
      act: 'sends what is there',
      subject: { kind: 'route', id: routeId, name: route.name },
      detail: `${total} ${pile === 'held' ? 'held deliveries' : 'submissions'}, ${perMinute} a minute.`,
    });
  });
}
