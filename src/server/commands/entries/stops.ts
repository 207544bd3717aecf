import type { StopsView } from '../../../contract/entries.ts';
import { countDeliveriesOf, listRoutes } from '../../store/routes.ts';
import { countSubmissionsOf, type SourceRecord } from '../../store/sources.ts';
import type { Db } from '../../store/database.ts';
import type { RouteRecord } from '../../store/routes.ts';

const listed = (names: string[]): string => names.join(', ');

/** What stops when a source is deleted, and why it may have to stay: what came by it is kept, and tells where it came from. */
export async function stopsOfSource(db: Db, { id, state, archivedAt }: SourceRecord): Promise<StopsView> {
  const taken = await countSubmissionsOf(db, id);
  const fed = (await listRoutes(db)).filter(
    ({ draft, live }) => draft.sourceIds.includes(id) || live?.sourceIds.includes(id),
  );
  const isMet = state === 'live' && archivedAt === null;
  return {
    stops: [
      ...(isMet ? ['Visitors who open it, or a page that it is on, find it closed.'] : []),
      ...(fed.length > 0 ? [`Nothing of it comes to ${listed(fed.map(({ name }) => name))} any more.`] : []),
    ],
    kept:
      taken === 0
        ? null
        : `${taken} ${taken === 1 ? 'submission' : 'submissions'} came by it, and are kept with where they came from. Archive it instead: it leaves the list, and takes nothing any more.`,
  };
}

/** What stops when a route is deleted, and why it may have to stay. */
export async function stopsOfRoute(db: Db, { id, state, live }: RouteRecord): Promise<StopsView> {
  const sent = await countDeliveriesOf(db, id);
  return {
    stops: state === 'live' && live ? ['What its sources take from now on goes nowhere by it.'] : [],
    kept:
      sent === 0
        ? null
        : `${sent} ${sent === 1 ? 'delivery' : 'deliveries'} went by it, and are kept with the way they went. Archive it instead: it leaves the list, and sends nothing any more.`,
  };
}
