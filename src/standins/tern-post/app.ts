import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { ternPostApi } from './api.ts';
import { membersPage } from './page.ts';
import { newState, type TernPostState } from './state.ts';

/** The whole stand-in: its API, its admin addresses, and its page. */
export function ternPostApp(
  apiKey: string,
  kept: TernPostState | null,
  changed: () => void,
): { app: Hono; state: () => TernPostState } {
  let state = kept ?? newState(apiKey);
  const faults = new Faults();
  const app = new Hono();

  app.route('/', faults.routes());
  app.get('/inside.json', (c) => c.json(state));
  /** Replaces parts of the state: how a test makes a field required, revokes a key, or fills in members. */
  app.put('/inside.json', async (c) => {
    state = { ...state, ...(await c.req.json<Partial<TernPostState>>()) };
    changed();
    return c.json(state);
  });
  app.use('/v1/*', faults.middleware());
  app.route(
    '/v1',
    ternPostApi(() => state, changed),
  );
  app.all('/v1/*', (c) =>
    c.newResponse(
      JSON.stringify({
        type: 'https://tern-post.example/problems/not-found',
        title: 'There is nothing here.',
        status: 404,
      }),
      404,
      { 'content-type': 'application/problem+json' },
    ),
  );

  app.get('/', (c) => c.html(membersPage(state, c.req.query('find') ?? '')));
  app.post('/members/:id/leave', (c) => {
    const member = state.members.find(({ id }) => id === c.req.param('id'));
    if (member) Object.assign(member, { state: 'left', leftAt: new Date().toISOString() });
    changed();
    return c.redirect('/', 303);
  });
  return { app, state: () => state };
}
