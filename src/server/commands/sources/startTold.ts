import { ALL_ANSWERS, ROUTE_FORMAT, type RouteDocument } from '../../../core/plan/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { addRoute, findRoute, publishRoute } from '../../store/routes.ts';
import { addSource as store, findSource, publishSource } from '../../store/sources.ts';
import { newPublicId } from '../../security/tokens.ts';
import { done, inCommand, nameOf, refused, type Actor, type Refusal } from '../command.ts';
import { NEW_CONSENT } from '../routes/addRoute.ts';
import { keptByPreflight } from '../routes/publishRoute.ts';
import { newDocument, type NewSource } from './addSource.ts';
import { keptFromLive } from './keptFromLive.ts';

/**
 * Makes a source that is live at once, and with it a live route that tells a colleague by mail of whatever comes: nothing is shown to
 * visitors of which nobody hears. Both, or neither.
 * @param tell the address of the colleague
 * @returns the id of the source
 */
export async function startTold(
  actor: Actor,
  context: Context,
  { name, tell, ...start }: NewSource & { name: string; tell: string },
): Promise<Result<string, Refusal>> {
  const { newId } = context;
  const now = context.now();
  return inCommand(context, actor, async (db) => {
    const id = newId();
    await store(db, { id, publicId: newPublicId(), name, draft: newDocument(start), now });
    const source = await findSource(db, id);
    const kept = source && keptFromLive(source);
    if (!source || kept) return kept ?? refused('conflict', 'gone', 'It is gone again.');
    await publishSource(db, source, now);
    const routeId = newId();
    const draft: RouteDocument = {
      format: ROUTE_FORMAT,
      sourceIds: [id],
      targets: [],
      // What people agree to is said where it leads to something that needs it.
      consent: { ...NEW_CONSENT, asks: [], confirmedBy: { by: 'nobody' } },
      mails: [
        {
          id: newId(),
          kind: 'notify',
          when: null,
          to: [tell],
          after: 'now',
          subject: name.replace(/[{}]/g, ''),
          body: ALL_ANSWERS,
        },
      ],
      accepted: {},
    };
    await addRoute(db, { id: routeId, name: `${name}, by mail`.slice(0, 80), draft, now });
    const stopped = await keptByPreflight(context, db, routeId, draft);
    if (stopped) return stopped;
    const route = await findRoute(db, routeId);
    if (route) await publishRoute(db, route, now, { note: '', byName: nameOf(actor) });
    const detail = 'Live at once, with a route that tells a colleague by mail.';
    return done(id, { act: 'made', subject: { kind: 'source', id, name }, detail });
  });
}
