import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { insideRoutes, type Inside } from '../inside.ts';
import { capstanApi } from './api.ts';
import { recordsPage } from './page.ts';
import type { CapstanState } from './state.ts';

/** The whole stand-in: its API, its admin addresses, its page. */
export function capstanApp(inside: Inside<CapstanState>): Hono {
  const faults = new Faults();
  const app = new Hono();
  app.route('/', faults.routes());
  app.route('/', insideRoutes(inside));
  app.use('/api/*', faults.middleware());
  app.route(
    '/api',
    capstanApi(() => inside.state, inside.changed),
  );
  app.all('/api/*', (c) => c.json({ ok: false, code: 'NOTHING', text: 'There is nothing here.' }, 404));
  app.get('/', (c) => c.html(recordsPage(inside.state)));
  return app;
}
