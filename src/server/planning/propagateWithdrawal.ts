import type { ConsentNeed } from '../../core/consent/index.ts';
import {
  PLAN_FORMAT,
  propagateWithdrawal,
  type AgreedThere,
  type Plan,
  type PropagationInput,
} from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import { readCatalogueDates, readCatalogues } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { dropWithdrawn, newestOf } from '../store/deliveries.ts';
import { readContacts } from '../store/people/index.ts';
import { liveVersionsOf, readRouteVersion } from '../store/routes.ts';
import { liveShops } from '../store/shops.ts';
import { readSourceVersion } from '../store/sources.ts';
import { sourcesOf } from '../store/submissions.ts';
import { collectActions, noChanges, storeActions } from './changes.ts';

/** What is needed to tell every place what a person took back. @param about.toldBy the connection that knows already; '' for none */
export async function readPropagation(
  db: Db,
  { contactId, toldBy }: { contactId: string; toldBy: string },
): Promise<Omit<PropagationInput, 'known'>> {
  const [catalogues, connections] = [await readCatalogues(db), await readCatalogueDates(db)];
  return {
    catalogues,
    names: Object.fromEntries(connections.map(({ id, name }) => [id, name])),
    agreedThere: await agreedThere(db, contactId),
    toldBy,
  };
}

/** The live shops by which a person came, with what their boxes are asked for. */
async function agreedThere(db: Db, contactId: string): Promise<AgreedThere[]> {
  const shops = await liveShops(db);
  if (shops.length === 0) return [];
  const known = await sourcesOf(
    db,
    contactId,
    shops.map(({ sourceId }) => sourceId),
  );
  const found = shops
    .filter(({ sourceId }) => known.has(sourceId))
    .map(async ({ sourceId, connectionId, version }): Promise<AgreedThere[]> => {
      const document = version === null ? null : await readSourceVersion(db, sourceId, version);
      if (document?.kind !== 'shop') return [];
      const boxes = new Set(document.answers.map(({ field }) => field));
      const routes = await liveRoutesOf(db, sourceId);
      return routes.flatMap(({ id, version: routeVersion, document: route }) => {
        const asks = route.consent.asks
          .filter(({ tickField }) => boxes.has(tickField))
          .flatMap(({ purpose, channels }) => channels.map((channel) => ({ purpose, channel })));
        return asks.length === 0 ? [] : [{ connectionId, sourceId, routeId: id, routeVersion, asks }];
      });
    });
  return (await Promise.all(found)).flat();
}

async function liveRoutesOf(db: Db, sourceId: string) {
  const versions = await liveVersionsOf(db, sourceId);
  const read = versions.map(async ({ id, version }) => ({
    id,
    version,
    document: await readRouteVersion(db, id, version),
  }));
  return (await Promise.all(read)).flatMap(({ document, ...route }) => (document ? [{ ...route, document }] : []));
}

/**
 * Has every place told what somebody took back here, by the hand of an operator. It is noted in the trail of what was last sent for them.
 * @param about.toldBy where it is done at once, by the same hand
 */
export async function tellPlaces(
  context: Context,
  db: Db,
  { contactId, needs, wording, toldBy }: { contactId: string; needs: ConsentNeed[]; wording: string; toldBy: string },
): Promise<void> {
  const now = context.now();
  await dropWithdrawn(db, contactId, needs, now);
  const newest = await newestOf(db, contactId);
  if (newest === null) return;
  const known = (await readContacts(db, [contactId], null))(contactId);
  const plan: Plan = { format: PLAN_FORMAT, contact: null, consent: [], actions: [], notes: [] };
  propagateWithdrawal(plan, { needs, wording }, { ...(await readPropagation(db, { contactId, toldBy })), known });
  const changes = noChanges();
  collectActions(context, changes, { contactId, submissionId: newest }, plan, now);
  await storeActions(db, changes, now);
}
