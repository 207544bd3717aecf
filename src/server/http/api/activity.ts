import { COUNTED, DIMENSIONS } from '../../../core/insight/index.ts';
import { Hono } from 'hono';
import { BulkInput, DropInput } from '../../../contract/deliveries.ts';
import { DEVICES, PROGRESS } from '../../../contract/submissions.ts';
import { CAUSE_NAMES, DELIVERY_STATES } from '../../../core/delivery/index.ts';
import { actOnHeld } from '../../commands/deliveries/actOnHeld.ts';
import { askAnew } from '../../commands/deliveries/askAnew.ts';
import { drop, markArrived, tryAgain } from '../../commands/deliveries/endHeld.ts';
import { replan } from '../../commands/deliveries/replan.ts';
import { resend } from '../../commands/confirmations/resend.ts';
import { noteReply } from '../../commands/submissions/noteReply.ts';
import { release } from '../../commands/submissions/release.ts';
import type { Context } from '../../context.ts';
import { groupHeld, listDeliveries, listSubmissions } from '../../store/activity.ts';
import { inSnapshot } from '../../store/database.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { cursor, known, moment, notFound, readInput } from '../problems.ts';
import { readTrail } from './trail.ts';

export function activityRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  app.get('/submissions', allow('submissions:read'), async (c) => {
    const { source, progress, text, page, campaign, device, placement, from, to, reached, by, value, notices, before } =
      c.req.query();
    const filter = {
      ...(source ? { sourceId: source } : {}),
      ...(progress ? { progress: known(progress, PROGRESS, 'progress') } : {}),
      ...(text ? { text } : {}),
      ...(page ? { page } : {}),
      ...(campaign ? { campaign } : {}),
      ...(device ? { device: known(device, DEVICES, 'device') } : {}),
      ...(placement ? { placement } : {}),
      ...(notices ? { withoutNotices: known(notices, ['with', 'without'], 'notices') === 'without' } : {}),
      ...(from ? { from: moment(from) } : {}),
      ...(to ? { to: moment(to) } : {}),
      ...(reached ? { reached: known(reached, COUNTED, 'reached') } : {}),
      ...(by ? { by: known(by, DIMENSIONS, 'by') } : {}),
      ...(value ? { value } : {}),
    };
    return c.json(await listSubmissions(store.db, filter, cursor(before)));
  });

  app.get('/submissions/:id', allow('people:read'), async (c) => {
    const trail = await inSnapshot(store, (db) => readTrail(db, c.req.param('id')));
    if (!trail) throw notFound('submission');
    return c.json(trail);
  });

  app.post('/submissions/:id/release', allow('people:act'), async (c) => {
    outcome(await release(c.get('actor'), context, c.req.param('id')));
    return c.json({ released: true });
  });

  app.post('/submissions/:id/answered', allow('people:act'), async (c) => {
    outcome(await noteReply(c.get('actor'), context, c.req.param('id')));
    return c.json({ answered: true });
  });

  app.get('/deliveries', allow('deliveries:read'), async (c) => {
    const { state, cause, connection, route, text, since, before } = c.req.query();
    const filter = {
      ...(state ? { state: known(state, DELIVERY_STATES, 'state') } : {}),
      ...(cause ? { cause: known(cause, CAUSE_NAMES, 'cause') } : {}),
      ...(connection ? { connectionId: connection } : {}),
      ...(route ? { routeId: route } : {}),
      ...(text ? { text } : {}),
      ...(since ? { since: moment(since) } : {}),
    };
    return c.json(await listDeliveries(store.db, filter, cursor(before)));
  });

  app.get('/deliveries/held', allow('deliveries:read'), async (c) => c.json(await groupHeld(store.db)));

  /** One thing for all that is held for one cause at one connection. */
  app.post('/deliveries/held', allow('deliveries:act'), async (c) =>
    c.json(outcome(await actOnHeld(c.get('actor'), context, await readInput(c, BulkInput)))),
  );

  app.post('/deliveries/:id/retry', allow('deliveries:act'), async (c) => {
    outcome(await tryAgain(c.get('actor'), context, c.req.param('id')));
    return c.json({ queued: true });
  });

  app.post('/deliveries/:id/replan', allow('deliveries:act'), async (c) => {
    outcome(await replan(c.get('actor'), context, c.req.param('id')));
    return c.json({ queued: true });
  });

  app.post('/deliveries/:id/arrived', allow('deliveries:act'), async (c) => {
    outcome(await markArrived(c.get('actor'), context, c.req.param('id')));
    return c.json({ delivered: true });
  });

  app.post('/deliveries/:id/drop', allow('deliveries:act'), async (c) => {
    const { reason } = await readInput(c, DropInput);
    outcome(await drop(c.get('actor'), context, { id: c.req.param('id'), reason }));
    return c.json({ dropped: true });
  });

  app.post('/deliveries/:id/ask', allow('people:act'), async (c) => {
    outcome(await askAnew(c.get('actor'), context, c.req.param('id')));
    return c.json({ asked: true });
  });

  app.post('/confirmations/:id/resend', allow('people:act'), async (c) => {
    outcome(await resend(c.get('actor'), context, c.req.param('id')));
    return c.json({ queued: true });
  });

  return app;
}
