import type { HttpBindings } from '@hono/node-server';
import { RESPONSE_ALREADY_SENT } from '@hono/node-server/utils/response';
import { Hono, type MiddlewareHandler } from 'hono';

const KINDS = ['status', 'slow', 'drop', 'garbage', 'huge', 'half'] as const;
type Kind = (typeof KINDS)[number];
/** More than anybody should read: 3 MB. */
const HUGE = 3 * 1024 * 1024;

/** A fault to come: the next n requests (by `method`, whose path starts with `path`) answer it. */
interface Fault {
  next: number;
  kind: Kind;
  status?: number;
  path?: string;
  method?: string;
  /** Instead of a number: the share of requests that fail, by chance, until it is taken back. */
  share?: number;
  /** How long "slow" takes, in milliseconds. */
  delay?: number;
}

/** Faults on demand, for tests and the curious: POST /faults, DELETE /faults. */
export class Faults {
  #pending: Fault[] = [];

  routes(): Hono {
    const app = new Hono();
    app.post('/faults', async (c) => {
      const fault: Partial<Fault> = await c.req.json<Partial<Fault>>().catch(() => ({}));
      const counted = Number.isInteger(fault.next) && Number(fault.next) > 0;
      if (!KINDS.some((kind) => kind === fault.kind) || (!counted && !fault.share)) {
        return c.json(
          {
            error:
              'send { "next": n, "kind": "status" | "slow" | "drop" | "garbage" | "huge" | "half", "status"?, "path"?, "method"?, "share"? }',
          },
          400,
        );
      }
      this.#pending.push({ ...(fault as Fault), next: fault.next ?? Number.POSITIVE_INFINITY });
      return c.json({ pending: this.#pending.length });
    });
    app.delete('/faults', (c) => {
      this.#pending = [];
      return c.body(null, 204);
    });
    app.get('/faults', (c) => c.json(this.#pending));
    return app;
  }

  /** Applies what is pending to a request, before it is served. */
  middleware(): MiddlewareHandler {
    return async (c, next) => {
      const fault = this.take(c.req.path, c.req.method);
      if (!fault) return next();
      switch (fault.kind) {
        case 'status': {
          const status = fault.status ?? 500;
          const headers: Record<string, string> = status === 429 || status === 503 ? { 'retry-after': '1' } : {};
          return c.newResponse(
            JSON.stringify({ type: '/problems/fault', title: `Asked to answer ${status}.`, status }),
            status as 500,
            { 'content-type': 'application/problem+json', ...headers },
          );
        }
        case 'slow':
          await new Promise((resolve) => setTimeout(resolve, fault.delay ?? 15_000));
          return next();
        case 'drop': {
          // Half of the dropped requests are applied before the connection breaks: the caller cannot know.
          if (Math.random() < 0.5) await next();
          const { incoming } = c.env as { incoming?: { socket: { destroy(): void } } };
          incoming?.socket.destroy();
          return c.body(null, 500);
        }
        case 'garbage':
          return c.html('<h1>It works!</h1>');
        case 'huge':
          return c.json({ much: 'x'.repeat(HUGE) });
        case 'half': {
          // Applied, but the answer ends in the middle, and so does the connection.
          await next();
          const { outgoing } = c.env as HttpBindings;
          outgoing.writeHead(200, { 'content-type': 'application/json', 'content-length': '1000' });
          outgoing.write('{ "ok": tr');
          setTimeout(() => outgoing.socket?.end(), 20);
          c.res = undefined;
          c.res = RESPONSE_ALREADY_SENT;
          return;
        }
        default:
          return fault.kind satisfies never;
      }
    };
  }

  /** The fault that a request or mail is to suffer, used up by that; null for none. */
  take(path: string, method = ''): Fault | null {
    const fault = this.#pending.find(
      (candidate) =>
        path.startsWith(candidate.path ?? '/') &&
        (candidate.method ?? method) === method &&
        (candidate.share === undefined || Math.random() < candidate.share),
    );
    if (!fault) return null;
    fault.next -= 1;
    this.#pending = this.#pending.filter(({ next }) => next > 0);
    return fault;
  }
}
