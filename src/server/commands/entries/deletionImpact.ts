import type { DeletionImpactView } from '../../../contract/entries.ts';
import type { MadeKind } from '../../../core/intake/index.ts';
import type { Db } from '../../store/database.ts';
import { countDeliveriesOf, findRoute, listRoutes } from '../../store/routes.ts';
import { countSubmissionsOf, findSource } from '../../store/sources.ts';

/** Beyond so many it is only said that there are more. */
const MOST_COUNTED = 1_000;

const STOPS: Record<MadeKind, string> = {
  form: 'Visitors who open it, or a page that it is on, find it closed.',
  posts: 'Whoever sends to its address finds nothing there.',
  file: 'No more files can be brought to it.',
  registration: 'Whoever tells of members there finds nothing at its address.',
  chat: 'Its button is gone from every page; who is talking with it hears nothing more.',
  shop: 'What happens in the shop is not taken any more.',
};

const said = (count: number, one: string, many: string): string =>
  count > MOST_COUNTED ? `More than ${MOST_COUNTED} ${many}` : `${count} ${count === 1 ? one : many}`;

/** What stops when a source is deleted, and why it may have to stay: what came by it is kept, and tells where it came from. */
export async function deletionImpactOfSource(db: Db, id: string): Promise<DeletionImpactView | null> {
  const source = await findSource(db, id);
  if (!source) return null;
  const taken = await countSubmissionsOf(db, id, MOST_COUNTED);
  const fed = (await listRoutes(db)).filter(
    ({ draft, live }) => draft.sourceIds.includes(id) || live?.sourceIds.includes(id),
  );
  const isMet = source.state === 'live' && source.archivedAt === null;
  return {
    stops: [
      ...(isMet ? [STOPS[source.draft.kind]] : []),
      ...(fed.length > 0 ? [`Nothing of it comes to ${fed.map(({ name }) => name).join(', ')} any more.`] : []),
    ],
    kept:
      taken === 0
        ? null
        : `${said(taken, 'submission', 'submissions')} came by it, and are kept with where they came from. Archive it instead: it leaves the list, and takes nothing any more.`,
  };
}

/** What stops when a route is deleted, and why it may have to stay. */
export async function deletionImpactOfRoute(db: Db, id: string): Promise<DeletionImpactView | null> {
  const route = await findRoute(db, id);
  if (!route) return null;
  const sent = await countDeliveriesOf(db, id, MOST_COUNTED);
  return {
    stops: route.state === 'live' && route.live ? ['What its sources take from now on goes nowhere by it.'] : [],
    kept:
      sent === 0
        ? null
        : `${said(sent, 'delivery', 'deliveries')} went by it, and are kept with the way they went. Archive it instead: it leaves the list, and sends nothing any more.`,
  };
}
