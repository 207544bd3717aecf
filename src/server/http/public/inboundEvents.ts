import { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { takeInboundEvents, type Taken } from '../../connecting/inboundEvents.ts';
import type { Context } from '../../context.ts';
import { Problem, problemResponse, tooLarge } from '../problems.ts';
import { visitorAddress } from '../visitor.ts';
import { Pace, tooOften } from './pace.ts';

const BODY_LIMIT_BYTES = 256 * 1024;
/** A service that tells of more than this in a minute tells it again later. */
const MOST_A_MINUTE = 600;

const ANSWERS: Record<Exclude<Taken, 'taken'>, [status: 400 | 401 | 404 | 503, detail: string]> = {
  'unknown address': [404, 'Nobody listens at this address.'],
  'not ready': [503, 'This address is still being registered. Please tell it again.'],
  'not genuine': [401, 'The signature does not fit, or is too old.'],
  'not readable': [400, 'The body is not JSON.'],
};

/** Where other systems tell us what happens there. The address is secret, and every request is signed. */
export function inboundEventRoutes(context: Context): Hono {
  const app = new Hono();
  const pace = new Pace(MOST_A_MINUTE);
  app.use(
    bodyLimit({
      maxSize: BODY_LIMIT_BYTES,
      onError: () => problemResponse(tooLarge('The request is too large.')),
    }),
  );
  app.post('/:token', async (c) => {
    const wait = await pace.wait(visitorAddress(c, context.config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const taken = await takeInboundEvents(context, c.req.param('token'), {
      header: (name) => c.req.header(name) ?? '',
      body: new Uint8Array(await c.req.arrayBuffer()),
    });
    if (taken === 'taken') return c.body(null, 204);
    const [status, detail] = ANSWERS[taken];
    return problemResponse(new Problem(status, 'not-taken', detail));
  });
  return app;
}
