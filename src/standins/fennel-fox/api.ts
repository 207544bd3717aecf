import { randomBytes, randomUUID } from 'node:crypto';
import { Hono, type Context, type MiddlewareHandler } from 'hono';
import { KINDS, type Channel, type ShopState } from './state.ts';
import type { Trade } from './trade.ts';

const MOST = 100;
const CHANNELS: Channel[] = ['email', 'sms'];

const no = (c: Context, status: 400 | 401 | 403 | 404 | 422, code: string, message: string) =>
  c.json({ trouble: { code, message } }, status);

/** What the shop answers to programs: a token, lists that go on by a Link header. */
export function shopApi(state: () => ShopState, changed: () => void, trade: Trade): Hono {
  const api = new Hono();
  const may =
    (right: string): MiddlewareHandler =>
    async (c, next) => {
      const own = known(state(), c);
      if (!own) return no(c, 401, 'token', 'This token is not known here, or has ended.');
      if (!own.may.includes(right)) return no(c, 403, 'right', `This token may not: ${right}.`);
      return next();
    };

  api.get('/me', (c) => {
    const own = known(state(), c);
    return own ? c.json({ shop: state().shop, may: own.may }) : no(c, 401, 'token', 'This token is not known here.');
  });
  api.get('/checkout', may('orders:see'), (c) => c.json({ boxes: state().boxes.filter(({ shown }) => shown) }));

  api.get('/customers', may('customers:see'), (c) => paged(c, state().customers));
  api.post('/customers/look', may('customers:see'), async (c) => {
    const { address = '' } = await c.req.json<{ address?: string }>();
    return c.json({ customer: trade.find(address) });
  });
  api.put('/customers', may('customers:change'), async (c) => {
    const { address = '', given = '', family = '', phone = '' } = await c.req.json<Partial<Record<string, string>>>();
    if (!/^\S+@\S+$/.test(address)) return no(c, 422, 'address', 'A customer needs an address.');
    const customer = trade.customer({ address, given, family, phone });
    changed();
    return c.json({ customer });
  });
  api.post('/customers/:no/answers', may('customers:change'), async (c) => {
    const customer = state().customers.find((one) => one.no === c.req.param('no'));
    if (!customer) return no(c, 404, 'customer', 'There is no such customer.');
    const { channel, says, words = '' } = await c.req.json<{ channel?: Channel; says?: string; words?: string }>();
    if (!channel || !CHANNELS.includes(channel)) return no(c, 422, 'channel', 'It is email or sms.');
    trade.say(customer, channel, says === 'yes' ? 'yes' : 'no', words);
    changed();
    return c.json({ customer });
  });

  api.get('/happenings', may('orders:see'), (c) => {
    const after = Number(c.req.query('after') ?? 0);
    return paged(
      c,
      state().happenings.filter((one) => one.no > after),
    );
  });

  api.get('/bells', may('bells:change'), (c) =>
    c.json({ bells: state().bells.map(({ id, address, kinds }) => ({ id, address, kinds })) }),
  );
  api.post('/bells', may('bells:change'), async (c) => {
    const { address = '', kinds = [...KINDS] } = await c.req.json<{ address?: string; kinds?: string[] }>();
    if (!URL.canParse(address)) return no(c, 422, 'address', 'A bell needs a web address.');
    const bell = { id: `B-${randomUUID().slice(0, 8)}`, address, kinds, secret: randomBytes(24).toString('base64url') };
    state().bells.push(bell);
    changed();
    return c.json({ bell }, 201);
  });
  api.delete('/bells/:id', may('bells:change'), (c) => {
    state().bells = state().bells.filter(({ id }) => id !== c.req.param('id'));
    changed();
    return c.body(null, 204);
  });
  return api;
}

function known(state: ShopState, c: Context) {
  const token = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1];
  return state.tokens.find((one) => one.token === token && !one.ended) ?? null;
}

/** A part of a list; where it goes on stands in the Link header (RFC 8288). */
function paged(c: Context, all: object[]) {
  const from = Math.max(0, Number(c.req.query('from') ?? 0) || 0);
  const take = Math.min(MOST, Math.max(1, Number(c.req.query('take') ?? MOST) || MOST));
  const end = from + take;
  if (end < all.length) {
    const next = new URL(c.req.url);
    next.searchParams.set('from', String(end));
    c.header('link', `<${next.pathname}${next.search}>; rel="next"`);
  }
  return c.json({ items: all.slice(from, end), all: all.length });
}
