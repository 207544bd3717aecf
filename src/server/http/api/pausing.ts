import { Hono } from 'hono';
import type { Versioned } from '../../store/versions.ts';
import { Problem } from '../problems.ts';

interface Pausing {
  /** The record, or a problem when there is none. */
  must: (id: string) => Promise<Versioned<unknown>>;
  setState: (id: string, state: 'live' | 'paused') => Promise<void>;
  viewOf: (id: string) => Promise<object | undefined>;
}

/** Pausing and resuming what is live: the same for sources and routes. */
export function pausingRoutes({ must, setState, viewOf }: Pausing): Hono {
  const app = new Hono();
  app.post('/:id/pause', async (c) => {
    const { id, liveVersion } = await must(c.req.param('id'));
    if (liveVersion === null) throw new Problem(409, 'not-live', 'It is not live, so there is nothing to pause.');
    await setState(id, 'paused');
    return c.json(await viewOf(id));
  });
  app.post('/:id/resume', async (c) => {
    const { id, state } = await must(c.req.param('id'));
    if (state !== 'paused') throw new Problem(409, 'not-paused', 'It is not paused.');
    await setState(id, 'live');
    return c.json(await viewOf(id));
  });
  return app;
}
