import type { ConnectionView, ProfileView } from '../../../contract/connection.ts';
import type { Profile } from '../../../contract/profile/index.ts';
import type { CatalogueDifference } from '../../../core/plan/index.ts';
import { atOnce } from '../../connectors/access.ts';
import { abilitiesOf } from '../../connectors/catalogue.ts';
import { redactUrl } from '../../connectors/http.ts';
import { isGrantedByPerson } from '../../connecting/adding.ts';
import { openAddress } from '../../connecting/addresses.ts';
import { othersOfAccount } from '../../connecting/sameAccount.ts';
import { returnUrl } from '../../connecting/granting.ts';
import { sendsInboundEvents } from '../../connecting/inboundEvents.ts';
import { readTokens } from '../../connecting/open.ts';
import { offeredBy, profileFor } from '../../connecting/profiles.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import type { ConnectionRecord } from '../../store/connections.ts';
import { readDotLines, readStanding } from '../../store/figures.ts';
import { listInboundEventAddresses, type InboundEventAddress } from '../../store/inboundEvents.ts';
import { readHealths } from '../../store/health.ts';
import { listRoutes, targetsOf, type RouteRecord } from '../../store/routes.ts';

/**
 * Connections as the interface shows them: how each stands, what it offers, what uses it. No secret among it.
 * @param all every connection, by which those to one account are told
 */
export async function connectionViews(
  context: Context,
  records: ConnectionRecord[],
  all: ConnectionRecord[],
): Promise<ConnectionView[]> {
  const { store, now } = context;
  const routes = await listRoutes(store.db);
  const hours = await readDotLines(store.db, 'connection', now());
  const standing = await readStanding(store.db, 'connection');
  const healths = await readHealths(store.db);
  const addresses = await listInboundEventAddresses(store.db);
  const others = othersOfAccount(context, all);
  return records.map((record) => {
    const { id, name, folder, state, verify, hints } = record;
    const profile = profileFor(record);
    const health = healths.get(id);
    const uses = routes.filter((route) => targetsOf(route).some(({ connectionId }) => connectionId === id));
    const isSecretAddress = profile.authentication.kind === 'secret address';
    return {
      id,
      profile: profile.id,
      serviceName: profile.name,
      authentication: profile.authentication.kind,
      credentials: profile.credentials,
      baseUrlLabel: profile.baseUrl.label,
      name,
      folder,
      baseUrl: isSecretAddress ? redactUrl(openAddress(context, record), { query: [], path: true }) : record.baseUrl,
      hints,
      state,
      returnUrl: isGrantedByPerson(profile) ? returnUrl(context) : '',
      tokenUntil: isoTime(readTokens(context, record.tokens)?.until),
      verify,
      sameAs: others(record).map((other) => ({ id: other.id, name: other.name })),
      catalogue: offeredBy(record),
      catalogueAt: isoTime(record.catalogueAt),
      changes: record.changes.map((change) => ({
        ...change,
        routes: uses
          .filter((route) => isTouched(route, id, change))
          .map((route) => ({ id: route.id, name: route.name })),
      })),
      changesAt: isoTime(record.changesAt),
      answerUntrueAt: isoTime(record.answerUntrueAt),
      lastSuccessAt: isoTime(standing.get(id)?.lastSuccess),
      lastFailure:
        health?.lastCause && health.lastFailureAt !== null
          ? { at: new Date(health.lastFailureAt).toISOString(), cause: health.lastCause, said: health.lastSaid }
          : null,
      failures: health?.failures ?? 0,
      restsUntil: health && health.restUntil > now() ? isoTime(health.restUntil) : null,
      limits: {
        perSecond: profile.limits.perSecond ?? null,
        burst: profile.limits.burst ?? null,
        atOnce: atOnce(profile),
        used: usedOf(profile, health?.budgetFullAt ?? 0, now()),
      },
      usedBy: uses.map((route) => ({ id: route.id, name: route.name })),
      waiting: standing.get(id)?.waiting ?? 0,
      held: standing.get(id)?.held ?? 0,
      hours: hours(id),
      notices: sendsInboundEvents(profile) ? noticesView(addresses.get(id), context.config.publicUrl) : null,
    };
  });
}

/** The budget fills with the pace of the service: what is missing from it is taken. */
const usedOf = ({ limits }: Profile, fullAt: number, now: number): number | null =>
  limits.perSecond === undefined ? null : Math.ceil((Math.max(0, fullAt - now) / 1000) * limits.perSecond);

const noticesView = (address: InboundEventAddress | undefined, reachedAt: string) => ({
  reachedAt,
  on: address !== undefined,
  since: isoTime(address?.createdAt),
  provenAt: isoTime(address?.provenAt),
});

/** Whether a change over there concerns what a route does. A field that is new and required concerns every route. */
function isTouched(route: RouteRecord, connectionId: string, { what, id, level }: CatalogueDifference): boolean {
  return targetsOf(route)
    .filter((target) => target.connectionId === connectionId)
    .some(({ places, tags, leaves, tagsOff, kind, lines }) => {
      switch (what) {
        case 'list':
          return [...places, ...leaves].some((place) => place.list === id);
        case 'group':
          return [...places, ...leaves].some((place) => place.group === id);
        case 'kind':
          return kind === id;
        case 'tag':
          return tagsOff.includes(id) || tags.some(({ tag }) => tag === id);
        case 'field': {
          const [fieldKind, key] = split(id);
          return fieldKind === kind && (level === 'warning' || lines.some(({ to }) => to === key));
        }
        default:
          return what satisfies never;
      }
    });
}

/** A field's id is that of its kind of record, a blank, and its key, which may have blanks in it. */
const split = (id: string): [string, string] => [id.slice(0, id.indexOf(' ')), id.slice(id.indexOf(' ') + 1)];

/** A kind of service, as the list of those that can be connected shows it. */
export function profileView(context: Context, { profile, isOwn }: { profile: Profile; isOwn: boolean }): ProfileView {
  const { id, name, purpose, words, speaks, authentication, baseUrl, credentials } = profile;
  return {
    id,
    name,
    purpose,
    words,
    isOwn,
    speaks,
    authentication: authentication.kind,
    baseUrl,
    credentials,
    cannot: cannotOf(profile),
    calls: abilitiesOf(profile).calls,
    tells: sendsInboundEvents(profile),
    returnUrl: isGrantedByPerson(profile) ? returnUrl(context) : '',
  };
}

function cannotOf(profile: Profile): string[] {
  const can = abilitiesOf(profile);
  // Of messages and files nobody expects lists, or that they can be changed later.
  if (profile.write.how === 'add' && !can.readBack) return [];
  return [
    ...(can.lists ? [] : ['no lists']),
    ...(can.tags ? [] : ['no tags']),
    ...(profile.values?.asText ? ['takes text only'] : []),
    ...(can.duplicates.includes('update') ? [] : ['adds, and never changes what is there']),
    ...(can.leavesLists || !can.lists ? [] : [`takes nobody out of a ${can.calls.list}`]),
    ...(can.readBack ? [] : ['cannot be asked what arrived']),
  ];
}
