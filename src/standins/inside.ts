import { Hono } from 'hono';

/** A stand-in's state, which its admin addresses show and change. */
export interface Inside<State> {
  state: State;
  changed: () => void;
}

/** `GET /inside.json` shows the whole state; `PUT` replaces parts of it: how a test makes a field required, or revokes a key. */
export function insideRoutes<State extends object>(inside: Inside<State>): Hono {
  const app = new Hono();
  app.get('/inside.json', (c) => c.json(inside.state));
  app.put('/inside.json', async (c) => {
    inside.state = { ...inside.state, ...(await c.req.json<Partial<State>>()) };
    inside.changed();
    return c.json(inside.state);
  });
  return app;
}
