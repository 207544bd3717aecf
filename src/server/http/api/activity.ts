import { Hono } from 'hono';
import { BulkInput, DEVICES, DropInput, PROGRESS } from '../../../contract/activity.ts';
import { CAUSE_NAMES, DELIVERY_STATES } from '../../../core/delivery/index.ts';
import type { Context } from '../../context.ts';
import { actOnHeld } from '../../work/bulk.ts';
import { replan } from '../../work/replanning.ts';
import { askAnew, resend, RESEND_LIMITS } from '../../work/confirming.ts';
import { groupHeld, listDeliveries, listSubmissions } from '../../store/activity.ts';
import { inSnapshot } from '../../store/database.ts';
import { dropDelivery, replayDelivery, settleDelivery } from '../../store/deliveries.ts';
import { releaseSubmission } from '../../store/submissions.ts';
import { readTrail } from './trail.ts';
import { known, notFound, Problem, readInput } from '../problems.ts';

export function activityRoutes(context: Context): Hono {
  const app = new Hono();
  const { store, now } = context;

  app.get('/submissions', async (c) => {
    const { source, progress, text, page, campaign, device, placement, before } = c.req.query();
    const filter = {
      ...(source ? { sourceId: source } : {}),
      ...(progress ? { progress: known(progress, PROGRESS, 'progress') } : {}),
      ...(text ? { text } : {}),
      ...(page ? { page } : {}),
      ...(campaign ? { campaign } : {}),
      ...(device ? { device: known(device, DEVICES, 'device') } : {}),
      ...(placement ? { placement } : {}),
    };
    return c.json(await listSubmissions(store.db, filter, before ?? null));
  });

  app.get('/submissions/:id', async (c) => {
    const trail = await inSnapshot(store, (db) => readTrail(db, c.req.param('id')));
    if (!trail) throw notFound('submission');
    return c.json(trail);
  });

  /** Lets a submission through that was taken for a robot's, or plans one again that failed. */
  app.post('/submissions/:id/release', async (c) => {
    const outcome = await releaseSubmission(store.db, c.req.param('id'), now());
    if (outcome === 'neither') throw new Problem(409, 'not-set-aside', 'It was released already.');
    if (outcome === 'came again')
      throw new Problem(
        409,
        'came-again',
        'The person sent the same again, and that one was taken: nothing is missing.',
      );
    return c.json({ released: true });
  });

  app.get('/deliveries', async (c) => {
    const { state, cause, connection, route, text, before } = c.req.query();
    const filter = {
      ...(state ? { state: known(state, DELIVERY_STATES, 'state') } : {}),
      ...(cause ? { cause: known(cause, CAUSE_NAMES, 'cause') } : {}),
      ...(connection ? { connectionId: connection } : {}),
      ...(route ? { routeId: route } : {}),
      ...(text ? { text } : {}),
    };
    return c.json(await listDeliveries(store.db, filter, before ?? null));
  });

  app.get('/deliveries/held', async (c) => c.json(await groupHeld(store.db)));

  /** One thing for all that is held for one cause at one connection. */
  app.post('/deliveries/held', async (c) => c.json(await actOnHeld(context, await readInput(c, BulkInput))));

  app.post('/deliveries/:id/retry', async (c) => {
    if (!(await replayDelivery(store.db, c.req.param('id'), now()))) throw notWaitingForHelp();
    return c.json({ queued: true });
  });

  /** Tries again with what the route, as it is live now, makes of the submission. */
  app.post('/deliveries/:id/replan', async (c) => {
    const outcome = await replan(context, c.req.param('id'));
    if (!outcome.ok) throw new Problem(409, 'not-replanned', outcome.issue);
    return c.json({ queued: true });
  });

  /** A person looked there and saw that it had arrived. */
  app.post('/deliveries/:id/arrived', async (c) => {
    if (!(await settleDelivery(store.db, c.req.param('id'), now()))) throw notWaitingForHelp();
    return c.json({ delivered: true });
  });

  app.post('/deliveries/:id/drop', async (c) => {
    const { reason } = await readInput(c, DropInput);
    if (!(await dropDelivery(store.db, c.req.param('id'), reason, now()))) throw notWaitingForHelp();
    return c.json({ dropped: true });
  });

  app.post('/deliveries/:id/ask', async (c) => {
    const outcome = await askAnew(context, c.req.param('id'));
    if (outcome === 'no such delivery') throw notFound('delivery');
    if (outcome === 'asked already')
      throw new Problem(
        409,
        'asked-already',
        'A confirmation is open already. The delivery goes on as soon as the person confirms.',
      );
    return c.json({ asked: true });
  });

  app.post('/confirmations/:id/resend', async (c) => {
    if (!(await resend(context, c.req.param('id')))) {
      throw new Problem(
        409,
        'too-soon',
        `At most ${RESEND_LIMITS.most} mails are sent for one confirmation, ten minutes apart, and none once it is confirmed or expired.`,
      );
    }
    return c.json({ queued: true });
  });

  return app;
}

const notWaitingForHelp = () => new Problem(409, 'not-held', 'It has gone on meanwhile. Reload to see where it is.');
