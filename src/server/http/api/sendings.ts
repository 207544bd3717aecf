import { Hono } from 'hono';
import { ChoiceInput, SendingInput, type SendingPreview, type SendingView } from '../../../contract/sendings.ts';
import { NOT_LIVE, startSending } from '../../commands/sendings/startSending.ts';
import { steerSending, type SendingAct } from '../../commands/sendings/steerSending.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { findRoute } from '../../store/routes.ts';
import { listSendings, type SendingRecord } from '../../store/sendings.ts';
import { PlanningContexts } from '../../planning/planningContexts.ts';
import { countChosen, countOutcomes, nextPart, type Chosen, type Walk } from '../../planning/backfillPart.ts';
import type { SendingOutcome } from '../../planning/planAgain.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, Problem, readInput } from '../problems.ts';

/** How many are looked at before they are sent; the rest is much the same. */
const MOST_LOOKED = { all: 1_000, held: 200 };
const AT_ONCE = 100;

/** Sending what is there already through a route: looked at first, then at a set pace, paused, resumed, cancelled. */
export function sendingRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;
  const planningContexts = new PlanningContexts(store);
  const viewsOf = async (routeId: string) => (await listSendings(store.db, routeId)).map(view);

  app.get('/:id/sendings', allow('routes:read'), async (c) => c.json(await viewsOf(c.req.param('id'))));

  app.post('/:id/sendings/preview', allow('routes:read'), async (c) => {
    const chosen = chosenIn(await readInput(c, ChoiceInput));
    const route = await findRoute(store.db, c.req.param('id'));
    if (!route) throw notFound('route');
    if (!route.live) throw new Problem(409, 'not-live', NOT_LIVE);
    const outcomes: SendingOutcome[] = [];
    for (let after: string | null = ''; after !== null && outcomes.length < MOST_LOOKED[chosen.pile];) {
      const walk: Walk = { route, chosen, after, limit: AT_ONCE, doIt: false };
      const part = await nextPart(store.db, context, planningContexts, walk);
      outcomes.push(...part.outcomes);
      after = part.last;
    }
    const total = await countChosen(store.db, route, chosen);
    return c.json({ total, looked: outcomes.length, ...countOutcomes(outcomes) } satisfies SendingPreview);
  });

  app.post('/:id/sendings', allow('routes:write'), async (c) => {
    const routeId = c.req.param('id');
    const input = await readInput(c, SendingInput);
    outcome(await startSending(c.get('actor'), context, { routeId, perMinute: input.perMinute, ...chosenIn(input) }));
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

const chosenIn = ({ since, until, pile, when }: ChoiceInput): Chosen => ({
  since: Date.parse(since),
  until: Date.parse(until),
  pile,
  when,
});

const view = ({ since, until, startedAt, endedAt, byName, ...sending }: SendingRecord): SendingView => {
  const { id, state, pile, when, perMinute, total, done, sent, held, asked, waiting, leftOut, notChosen } = sending;
  return {
    ...{ id, state, pile, when, perMinute, total, done, sent, held, asked, waiting, leftOut, notChosen },
    since: isoTime(since),
    until: isoTime(until),
    startedAt: isoTime(startedAt),
    endedAt: isoTime(endedAt),
    by: byName,
  };
};
