import { randomBytes } from 'node:crypto';
import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { insideRoutes, type Inside } from '../inside.ts';
import { rowbarnApi } from './api.ts';
import { oauthRoutes } from './oauth.ts';
import { appsPage, sheetsPage } from './page.ts';
import type { RowbarnState } from './state.ts';

/** The whole stand-in: granting access, its API, its admin addresses, its pages. */
export function rowbarnApp(inside: Inside<RowbarnState>): Hono {
  const faults = new Faults();
  const app = new Hono();
  app.route('/', faults.routes());
  app.route('/', insideRoutes(inside));
  app.use('/v2/*', faults.middleware());
  app.use('/oauth/token', faults.middleware());
  app.route(
    '/oauth',
    oauthRoutes(() => inside.state, inside.changed),
  );
  app.route(
    '/v2',
    rowbarnApi(() => inside.state, inside.changed),
  );
  app.all('/v2/*', (c) => c.json({ fault: 'nothing', why: 'There is nothing here.' }, 404));
  app.get('/', (c) => c.html(sheetsPage(inside.state)));
  app.get('/apps', (c) => c.html(appsPage(inside.state, null)));
  app.post('/apps', async (c) => {
    const { name = '', returnUrl = '' } = Object.fromEntries(new URLSearchParams(await c.req.text()));
    const made = { id: `app-${randomBytes(4).toString('hex')}`, secret: randomBytes(18).toString('base64url') };
    inside.state.apps.push({ ...made, name, returnUrl });
    inside.changed();
    return c.html(appsPage(inside.state, made));
  });
  return app;
}
