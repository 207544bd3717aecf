import { Hono } from 'hono';
import { DropInput } from '../../../contract/deliveries.ts';
import { dropHeldMail, sendMailAgain } from '../../commands/mails/endHeldMail.ts';
import type { Context } from '../../context.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { readInput } from '../problems.ts';

/** What is done to mails of ours that could not be sent. */
export function mailRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();

  app.post('/:id/retry', allow('people:act'), async (c) => {
    outcome(await sendMailAgain(c.get('actor'), context, c.req.param('id')));
    return c.json({ queued: true });
  });

  app.post('/:id/drop', allow('people:act'), async (c) => {
    const { reason } = await readInput(c, DropInput);
    outcome(await dropHeldMail(c.get('actor'), context, { id: c.req.param('id'), reason }));
    return c.json({ dropped: true });
  });

  return app;
}
