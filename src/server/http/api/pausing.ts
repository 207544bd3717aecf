import { Hono } from 'hono';
import { pauseOrResume } from '../../commands/pausing.ts';
import type { Context } from '../../context.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';

const PERMISSIONS = { source: 'sources:write', route: 'routes:write' } as const;

/** Pausing and resuming what is live: the same for sources and routes. */
export function pausingRoutes(
  context: Context,
  kind: 'source' | 'route',
  viewOf: (id: string) => Promise<object>,
): Hono<Session> {
  const app = new Hono<Session>();
  for (const [path, event] of [
    ['/:id/pause', 'paused'],
    ['/:id/resume', 'resumed'],
  ] as const) {
    app.post(path, allow(PERMISSIONS[kind]), async (c) => {
      const id = c.req.param('id');
      outcome(await pauseOrResume(c.get('actor'), context, { kind, id, event }));
      return c.json(await viewOf(id));
    });
  }
  return app;
}
