import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { insideRoutes, type Inside } from '../inside.ts';
import { ternPostApi } from './api.ts';
import { Hooks } from './hooks.ts';
import { bounce, confirm, leave } from './membership.ts';
import { describeTernPost } from './openapi.ts';
import { membersPage } from './page.ts';
import type { TernPostState } from './state.ts';

/** The whole stand-in: its API, its admin addresses, and its page. */
export function ternPostApp(inside: Inside<TernPostState>): Hono {
  const faults = new Faults();
  // A state that was kept before there were hooks has none.
  const state = () => {
    const kept: Partial<TernPostState> = inside.state;
    inside.state.hooks = kept.hooks ?? [];
    return inside.state;
  };
  const hooks = new Hooks(state);
  const app = new Hono();
  app.route('/', faults.routes());
  app.route('/', insideRoutes(inside));
  app.get('/v1/openapi.json', (c) => c.json(describeTernPost(new URL(c.req.url).origin)));
  app.use('/v1/*', faults.middleware());
  app.route('/v1', ternPostApi(state, inside.changed, hooks));
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

  app.get('/', (c) => c.html(membersPage(inside.state, c.req.query('find') ?? '')));
  app.post('/lists/:id/asks', (c) => {
    const list = inside.state.lists.find(({ id }) => id === c.req.param('id'));
    if (list) list.asks = list.asks !== true;
    inside.changed();
    return c.redirect('/', 303);
  });
  app.post('/members/:id/:what{leave|bounce|confirm}', (c) => {
    const member = inside.state.members.find(({ id }) => id === c.req.param('id'));
    const act = { leave, bounce, confirm }[c.req.param('what')];
    if (member && act) act(member, hooks);
    inside.changed();
    return c.redirect('/', 303);
  });
  return app;
}
