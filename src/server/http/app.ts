import { conversationRoutes } from './api/conversations.ts';
import { ChatWatch } from '../chatting/watch.ts';
import { chatRoutes } from './public/chats.ts';
import { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { HTTPException } from 'hono/http-exception';
import type { Context } from '../context.ts';
import { activityRoutes } from './api/activity.ts';
import { connectionRoutes } from './api/connections.ts';
import { overviewRoutes } from './api/overview.ts';
import { peopleRoutes } from './api/people.ts';
import { insightRoutes } from './api/insight.ts';
import { mailRoutes } from './api/mails.ts';
import { organisationRoutes } from './api/organisation.ts';
import { purposeRoutes } from './api/purposes.ts';
import { ownFileRoutes } from './api/ownFiles.ts';
import { themeRoutes } from './api/themes.ts';
import { routeRoutes } from './api/routes.ts';
import { profileRoutes } from './api/profiles.ts';
import { changeRoutes } from './api/changes.ts';
import { authenticate, sessionRoutes } from './api/session.ts';
import { sourceRoutes } from './api/sources.ts';
import { tokenRoutes } from './api/tokens.ts';
import { describeApi } from './describe.ts';
import { fileRoutes } from './files.ts';
import { gatesOf, type Session } from './gates.ts';
import { interfaceRoutes } from './interface.ts';
import { readiness } from '../watching/machine.ts';
import { createMetrics } from './metrics.ts';
import { notFound, problemOf, problemResponse, tooLarge } from './problems.ts';
import { confirmRoutes } from './public/confirm.ts';
import { intakeRoutes } from './public/intake.ts';
import { liveSources } from './public/liveSources.ts';
import { pieceRoutes } from './public/pieces.ts';
import { placeRoutes } from './public/place.ts';
import { shownPageRoutes } from './public/shownPage.ts';
import { inboundEventRoutes } from './public/inboundEvents.ts';
import { dressing } from './safeHeaders.ts';
import { bearerOf, requireScope } from './tokenAccess.ts';

/** What anybody may ask, before they are signed in. */
const OPEN = new Set(['GET /session/state', 'POST /session', 'POST /session/first', 'GET /openapi.json']);

const API_BODY_LIMIT_BYTES = 1024 * 1024;
const SIGN_IN_LIMIT_BYTES = 8 * 1024;
/** Where the body is a file. */
const STREAMED = /^\/api\/(own-files|sources\/[\w-]+\/imports)$/;

/** The whole of what is reached over HTTP. */
export function createApp(context: Context, submissionsPerMinute: number): Hono {
  const app = new Hono();

  app.onError((error) => {
    if (error instanceof HTTPException) return error.getResponse();
    return problemResponse(problemOf(error, context.log));
  });

  // Before the headers below, which would cost every accepted submission; it dresses its own pages.
  const live = liveSources(context);
  const watch = new ChatWatch(context);
  app.route('/in', pieceRoutes(context, live, submissionsPerMinute));
  app.route('/in', intakeRoutes(context, live, submissionsPerMinute));
  app.route('/place/seen', shownPageRoutes(context, live, submissionsPerMinute));
  app.route('/chat', chatRoutes(context, live, watch, submissionsPerMinute));
  app.route('/place', placeRoutes(context, live, submissionsPerMinute));

  app.use(dressing(context.config.publicUrl));
  app.get('/healthz', (c) => c.text('ok'));
  const isReady = readiness(context);
  app.get('/readyz', async (c) => {
    const down = [...context.givenUp].map(([role, cause]) => `${role} is given up: ${cause}`);
    if (down.length > 0) return c.text(down.join('\n'), 503);
    return (await isReady()) ? c.text('ready') : c.text('the database does not take what is written', 503);
  });

  const metrics = createMetrics(context);
  app.get('/metrics', async (c) => {
    await requireScope(context, bearerOf(c) ?? '', 'metrics:read');
    await metrics.collectFigures();
    return c.body(await metrics.metrics(), 200, { 'content-type': metrics.contentType });
  });

  app.route('/confirm', confirmRoutes(context));
  app.route('/notices', inboundEventRoutes(context));
  app.route('/files', fileRoutes(context));

  app.route('/api', createApi(context, watch));
  app.route('/', interfaceRoutes(context.config.root));
  return app;
}

/** Everything under /api. What is asked of it is for signed-in people and for tokens, but what tells how to sign in. */
export function createApi(context: Context, watch = new ChatWatch(context)): Hono<Session> {
  const api = new Hono<Session>();
  const atMost = (maxSize: number) =>
    bodyLimit({ maxSize, onError: () => problemResponse(tooLarge('The request is too large.')) });
  const limited = atMost(API_BODY_LIMIT_BYTES);
  // A file is counted as it streams in.
  api.use((c, next) => (c.req.method === 'POST' && STREAMED.test(c.req.path) ? next() : limited(c, next)));
  // What anybody may send before they are signed in is an address and a password.
  api.use('/session/*', atMost(SIGN_IN_LIMIT_BYTES));
  api.use(async (c, next) => {
    await next();
    c.header('cache-control', 'no-store');
  });
  api.route('/session', sessionRoutes(context));
  api.get('/openapi.json', (c) => c.json(describeApi(context.config.publicUrl)));
  api.use(authenticate(context));
  api.route('/', overviewRoutes(context));
  api.route('/connections', connectionRoutes(context));
  api.route('/profiles', profileRoutes(context));
  api.route('/tokens', tokenRoutes(context));
  api.route('/sources', sourceRoutes(context));
  api.route('/routes', routeRoutes(context));
  api.route('/people', peopleRoutes(context));
  api.route('/organisation', organisationRoutes(context));
  api.route('/purposes', purposeRoutes(context));
  api.route('/themes', themeRoutes(context));
  api.route('/own-files', ownFileRoutes(context));
  api.route('/mails', mailRoutes(context));
  api.route('/conversations', conversationRoutes(context, watch));
  api.route('/changes', changeRoutes(context));
  api.route('/insight', insightRoutes(context));
  api.route('/', activityRoutes(context));
  api.all('*', () => {
    throw notFound('address');
  });
  for (const [address, permission] of gatesOf(api))
    if (permission === null && !OPEN.has(address)) throw new Error(`no gate stands before ${address}`);
  return api;
}
