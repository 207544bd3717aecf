import { readFileSync } from 'node:fs';
import path from 'node:path';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';

/** Only our own script, style and fonts; charts and sizes set style attributes, and forms show pictures from anywhere. */
const POLICY =
  "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: https: http:; frame-ancestors 'self'; base-uri 'none'; form-action 'self'";

/** What stands first in the addresses of the interface; see web/App.tsx. */
const AREAS = new Set([
  '',
  'account',
  'activity',
  'connections',
  'consent',
  'first-account',
  'insight',
  'people',
  'routes',
  'sign-in',
  'sources',
]);

/** The built interface: its files, and its one page for every other address. */
export function interfaceRoutes(root: string): Hono {
  const app = new Hono();
  const folder = path.join(root, 'dist/web');
  app.use(
    '/assets/*',
    serveStatic({
      root: path.relative(process.cwd(), folder) || '.',
      onFound: (_, c) => c.header('cache-control', 'public, max-age=31536000, immutable'),
    }),
  );
  app.get('*', (c) => {
    // Whoever is wrong sees it in the interface; programs are told, too.
    const [, area = ''] = c.req.path.split('/');
    c.status(AREAS.has(area) ? 200 : 404);
    c.header('content-security-policy', POLICY);
    c.header('cache-control', 'no-cache');
    return c.html(readFileSync(path.join(folder, 'index.html'), 'utf8'));
  });
  return app;
}
