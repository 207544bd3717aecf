import { Hono } from 'hono';
import { PeriodInput, SendingInput, type SendingPreview, type SendingView } from '../../../contract/sendings.ts';
import { NOT_LIVE, startSending } from '../../commands/sendings/startSending.ts';
import { steerSending, type SendingAct } from '../../commands/sendings/steerSending.ts';
import type { Context } from '../../context.ts';
import { findRoute } from '../../store/routes.ts';
import { countReceived, listSendings, nextReceived, type SendingRecord } from '../../store/sendings.ts';
import { LiveWirings } from '../../work/liveWiring.ts';
import { planAgain, receivedOf, type SendingOutcome } from '../../work/sendingThere.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, Problem, readInput } from '../problems.ts';

/** How many are looked at before they are sent; the rest is much the same. */
const MOST_LOOKED = 1_000;
const AT_ONCE = 100;

/** Sending what is there already through a route: looked at first, then at a set pace, paused, resumed, cancelled. */
export function sendingRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now } = context;
  const wirings = new LiveWirings(store);
  const viewsOf = async (routeId: string) => (await listSendings(store.db, routeId)).map(view);

  app.get('/:id/sendings', allow('routes:read'), async (c) => c.json(await viewsOf(c.req.param('id'))));

  app.post('/:id/sendings/preview', allow('routes:read'), async (c) => {
    const { since, until } = await readInput(c, PeriodInput);
    const route = await findRoute(store.db, c.req.param('id'));
    if (!route) throw notFound('route');
    if (!route.live) throw new Problem(409, 'not-live', NOT_LIVE);
    const received = receivedOf({ since: Date.parse(since), until: Date.parse(until) }, route);
    const counts: Record<SendingOutcome, number> = { sent: 0, held: 0, asked: 0, 'left out': 0 };
    let looked = 0;
    for (let after = ''; looked < MOST_LOOKED;) {
      const submissions = await nextReceived(store.db, received, after, AT_ONCE);
      for (const one of await planAgain(store.db, wirings, { route, submissions, now: now(), lock: false }))
        counts[one.outcome] += 1;
      looked += submissions.length;
      after = submissions.at(-1)?.id ?? '';
      if (submissions.length < AT_ONCE) break;
    }
    const total = await countReceived(store.db, received);
    const { sent, held, asked } = counts;
    return c.json({ total, looked, sent, held, asked, leftOut: counts['left out'] } satisfies SendingPreview);
  });

  app.post('/:id/sendings', allow('routes:write'), async (c) => {
    const routeId = c.req.param('id');
    const { since, until, perMinute } = await readInput(c, SendingInput);
    const wanted = { routeId, since: Date.parse(since), until: Date.parse(until), perMinute };
    outcome(await startSending(c.get('actor'), context, wanted));
    return c.json(await viewsOf(routeId), 201);
  });

  for (const act of ['pause', 'resume', 'cancel'] satisfies SendingAct[])
    app.post(`/:id/sendings/:sending/${act}`, allow('routes:write'), async (c) => {
      const [routeId, id] = [c.req.param('id'), c.req.param('sending')];
      outcome(await steerSending(c.get('actor'), context, { routeId, id, act }));
      return c.json(await viewsOf(routeId));
    });

  return app;
}

const iso = (at: number): string => new Date(at).toISOString();

const view = ({ since, until, startedAt, endedAt, byName, ...sending }: SendingRecord): SendingView => {
  const { id, state, perMinute, total, done, sent, held, asked, leftOut } = sending;
  return {
    ...{ id, state, perMinute, total, done, sent, held, asked, leftOut },
    since: iso(since),
    until: iso(until),
    startedAt: iso(startedAt),
    endedAt: endedAt === null ? null : iso(endedAt),
    by: byName,
  };
};
