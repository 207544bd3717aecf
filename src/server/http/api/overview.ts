import { isoDay } from '../../../core/isoTime.ts';
import { Hono } from 'hono';
import type { OverviewView, StatusView } from '../../../contract/overview.ts';
import { asFieldPath, isPosted, pathsIn } from '../../../core/intake/index.ts';
import { CAUSES, isTryingOut } from '../../../core/delivery/index.ts';
import { inBytes } from '../../../core/values/index.ts';
import type { RouteDocument } from '../../../core/plan/index.ts';
import { routeChecker } from '../../commands/routes/checkRoutes.ts';
import { publishingIssues } from '../../commands/sources/publishingIssues.ts';
import type { Context } from '../../context.ts';
import { groupHeld } from '../../store/activity.ts';
import { listConnections } from '../../store/connections.ts';
import { countSetAside, DAY_MS, readFlows, readStatusFigures, readToday } from '../../store/figures.ts';
import { readHealths } from '../../store/health.ts';
import { listRoutes } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';
import { readGone } from '../../store/webhooks.ts';
import { readDisks } from '../../watching/machine.ts';
import { silences } from '../../watching/silence.ts';
import { WORKER_GONE_MS } from '../../work/scheduled.ts';
import { mapYielding } from '../../mapYielding.ts';
import { allow, type Session } from '../gates.ts';

export function overviewRoutes(context: Context): Hono<Session> {
  const { store, now } = context;
  const app = new Hono<Session>();

  app.get('/status', allow('status:read'), async (c) => {
    const at = new Date(now()).toISOString();
    try {
      const figures = await readStatusFigures(store.db, now(), WORKER_GONE_MS);
      return c.json({
        database: 'up',
        givenUp: [...context.givenUp].map(([role, cause]) => `${role}: ${cause}`).join('; '),
        ...figures,
        lastDeliveryAt: figures.lastDeliveryAt === null ? null : new Date(figures.lastDeliveryAt).toISOString(),
        at,
      } satisfies StatusView);
    } catch {
      return c.json({
        database: 'down',
        givenUp: '',
        workers: 0,
        waiting: 0,
        unconfirmed: 0,
        held: 0,
        lastDeliveryAt: null,
        at,
      } satisfies StatusView);
    }
  });

  app.get('/overview', allow('overview:read'), async (c) => {
    const since = now() - DAY_MS;
    // None needs another's answer: the database is asked for all of it at once.
    const asked = Promise.all([
      readFlows(store.db, 7, now()),
      readHealths(store.db),
      groupHeld(store.db),
      readDisks(context.config),
      countSetAside(store.db),
      readToday(store.db, since),
      readGone(store.db),
    ]);
    const [sources, connections, routes] = await Promise.all([
      listSources(store.db),
      listConnections(store.db),
      listRoutes(store.db),
    ]);
    const [
      [volumes, healths, heldGroups, disks, { setAside, failed, mailsHeld, chatMailsHeld, asksHeld }, today, gone],
      silent,
      check,
    ] = await Promise.all([asked, silences(context, sources), routeChecker(context, store.db, routes)]);
    const sourceNames = new Map(sources.map((source) => [source.id, source]));
    const connectionNames = new Map(connections.map(({ id, name }) => [id, name]));
    const volumeOf = new Map<string, number>();
    for (const [way, { delivered, held }] of volumes) {
      const [routeId = ''] = way.split(' ');
      volumeOf.set(routeId, (volumeOf.get(routeId) ?? 0) + delivered + held);
    }
    const goes = routes.filter(({ state }) => state === 'live');
    const drawn = [...goes].sort((a, b) => (volumeOf.get(b.id) ?? 0) - (volumeOf.get(a.id) ?? 0)).slice(0, MOST_DRAWN);
    const flows = goes
      .filter((route) => drawn.includes(route))
      .flatMap((route) =>
        flowsOf(route.live ?? route.draft).map(({ sourceId, connectionId }) => ({
          routeId: route.id,
          routeName: route.name,
          sourceId,
          sourceName: sourceNames.get(sourceId)?.name ?? '',
          connectionId,
          connectionName: connectionNames.get(connectionId) ?? '',
          ...(volumes.get(`${route.id} ${sourceId} ${connectionId}`) ?? { delivered: 0, held: 0 }),
        })),
      );

    const needs: OverviewView['needs'] = [];
    for (const { cause, connectionId, connectionName, count, detail } of heldGroups) {
      needs.push({
        kind: 'held',
        count,
        text: `${connectionName}: ${CAUSES[cause].sentence}${detail ? ` “${detail}”` : ''}`,
        link: `/activity/deliveries?state=held&cause=${encodeURIComponent(cause)}&connection=${connectionId}`,
      });
    }
    for (const { id, name, verify } of connections) {
      const health = healths.get(id);
      if (verify && !verify.ok)
        needs.push({ kind: 'connection', count: 0, text: `${name}: ${verify.problem}`, link: `/connections/${id}` });
      else if (health?.lastCause && isTryingOut(health))
        needs.push({
          kind: 'connection',
          count: 0,
          text: `${name}: ${CAUSES[health.lastCause].sentence} It failed ${health.failures} times in a row, and is tried again by itself.`,
          link: `/connections/${id}`,
        });
    }
    for (const { holds, freeBytes, nearlyFull } of disks)
      if (nearlyFull)
        needs.push({
          kind: 'disk',
          count: 0,
          text: `The disk that holds ${holds} is nearly full: ${inBytes(freeBytes)} are left. When nothing fits any more, forms cannot be sent. Make room, or move it to a larger one.`,
          link: '',
        });
    if (failed > 0)
      needs.push({ kind: 'failed', count: failed, text: 'could not be planned', link: '/activity?progress=failed' });
    if (setAside > 0)
      needs.push({
        kind: 'set aside',
        count: setAside,
        text: 'taken for robots; release the real ones',
        link: '/activity?progress=set+aside',
      });
    if (mailsHeld > 0)
      needs.push({
        kind: 'mail',
        count: mailsHeld,
        text: 'mails of ours that could not be sent',
        link: `/activity?progress=${asksHeld === mailsHeld ? 'waiting' : 'held'}`,
      });
    if (chatMailsHeld > 0)
      needs.push({
        kind: 'mail',
        count: chatMailsHeld,
        text: 'mails to colleagues about chats that could not be sent',
        link: '/activity/chats',
      });
    for (const [role, cause] of context.givenUp)
      needs.push({
        kind: 'down',
        count: 0,
        text: `The part “${role}” of Iwashi does not stay up and was given up: ${cause}. Look into its log, and start Iwashi again.`,
        link: '',
      });
    const found = await mapYielding(routes, ({ id, state, live }) => (state === 'live' && live ? check(id, live) : []));
    for (const [at, route] of routes.entries()) {
      const findings = found[at] ?? [];
      const blockers = findings.filter(({ level }) => level === 'blocker');
      if (blockers[0])
        needs.push({
          kind: 'route',
          count: blockers.length,
          text: `${route.name}: ${blockers[0].message}`,
          link: `/routes/${route.id}`,
        });
    }
    for (const { id, name, live, state } of sources) {
      if (!live || !isPosted(live) || state !== 'live') continue;
      for (const { path, since, without } of gone.get(id) ?? [])
        if (pathsIn(live).includes(asFieldPath(live, path)))
          needs.push({
            kind: 'changed',
            count: 0,
            text: `${name}: ${asFieldPath(live, path)} is gone since ${new Date(since).toISOString().slice(0, 16).replace('T', ' ')} UTC; ${without} came without it.`,
            link: `/sources/${id}`,
          });
    }
    for (const { id, name, publishAt, draft } of sources) {
      const silence = silent.get(id);
      if (silence)
        needs.push({
          kind: 'silent',
          count: 0,
          text: `${name}: nothing since ${isoDay(silence.since)}; usually ${silence.usualADay < 1 ? 'less than one' : Math.round(silence.usualADay)} a day.`,
          link: `/insight?source=${id}`,
        });
      const issues = publishAt !== null && publishAt <= now() ? publishingIssues(draft) : [];
      if (issues[0])
        needs.push({
          kind: 'source',
          count: issues.length,
          text: `${name} was to go live, and cannot: ${issues[0].detail}`,
          link: `/sources/${id}`,
        });
    }
    return c.json({
      since,
      today,
      needs,
      flows,
      moreRoutes: goes.length - drawn.length,
    } satisfies OverviewView);
  });

  return app;
}

/** So many routes are drawn, the busiest: more would be a tangle. */
const MOST_DRAWN = 12;

/** Every way from a source to a connection in a route. */
const flowsOf = ({ sourceIds, targets }: RouteDocument) =>
  sourceIds.flatMap((sourceId) => targets.map(({ connectionId }) => ({ sourceId, connectionId })));
