import { Hono, type Context as HonoContext, type MiddlewareHandler } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible';
import { FirstAccount, SignIn, type SessionView } from '../../../contract/session.ts';
import type { Context } from '../../context.ts';
import { hashPassword, isPassword } from '../../security/passwords.ts';
import { newToken, sha256 } from '../../security/tokens.ts';
import {
  addAccount,
  addSession,
  countAccounts,
  endSession,
  findAccount,
  findSession,
  useSetupLink,
} from '../../store/accounts.ts';
import { inTransaction } from '../../store/database.ts';
import { Problem, readInput } from '../problems.ts';
import { bearerOf, requireScope, scopeFor } from '../tokenAccess.ts';
import { visitorAddress } from '../visitor.ts';

const COOKIE = 'iwashi_session';
const SESSION_MS = 14 * 24 * 3_600_000;
/** Tries within the time, for one address and account together and for one address alone. */
const TRIES = { perAccount: 8, perAddress: 40, seconds: 15 * 60 };

export interface Session {
  Variables: { account: { id: string; name: string; email: string; csrf: string } };
}

/** Who is signed in at the browser that a request comes from; null for nobody. */
export async function signedIn({ store, now }: Context, c: HonoContext) {
  const token = getCookie(c, COOKIE);
  return token ? findSession(store.db, sha256(token), now()) : null;
}

/** Lets only signed-in requests through, whose changes carry the session's CSRF token, and tokens, as far as their scopes go. */
export function requireSession(context: Context): MiddlewareHandler<Session> {
  return async (c, next) => {
    const bearer = bearerOf(c);
    if (bearer !== null) {
      await requireScope(context, bearer, scopeFor(c.req.method, c.req.path));
      return next();
    }
    const session = await signedIn(context, c);
    if (!session) throw new Problem(401, 'not-signed-in', 'Sign in to go on.');
    if (c.req.method !== 'GET' && c.req.header('x-iwashi-csrf') !== session.csrf) {
      throw new Problem(403, 'csrf', 'This page is out of date. Reload it, then try again.');
    }
    c.set('account', { id: session.accountId, name: session.name, email: session.email, csrf: session.csrf });
    await next();
  };
}

export function sessionRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now, newId, config } = context;
  const limiters = [
    {
      of: (email: string, address: string) => sha256(`${address} ${email.toLowerCase()}`),
      limiter: limiterFor(context, 'account', TRIES.perAccount),
    },
    { of: (_: string, address: string) => sha256(address), limiter: limiterFor(context, 'address', TRIES.perAddress) },
  ];

  async function begin(
    c: Parameters<typeof setCookie>[0],
    account: { id: string; name: string; email: string },
  ): Promise<SessionView> {
    const token = newToken();
    const csrf = newToken();
    await addSession(store.db, {
      tokenHash: sha256(token),
      accountId: account.id,
      csrf,
      expiresAt: now() + SESSION_MS,
    });
    setCookie(c, COOKIE, token, {
      httpOnly: true,
      sameSite: 'Lax',
      path: '/',
      secure: config.publicUrl.startsWith('https:'),
      maxAge: SESSION_MS / 1000,
    });
    return { account: { name: account.name, email: account.email }, csrf };
  }

  app.get('/state', async (c) => c.json({ hasAccount: (await countAccounts(store.db)) > 0, demo: config.demoSignIn }));

  app.get('/', requireSession(context), (c) => {
    const { name, email, csrf } = c.get('account');
    return c.json({ account: { name, email }, csrf } satisfies SessionView);
  });

  app.post('/', async (c) => {
    const { email, password } = await readInput(c, SignIn);
    const address = visitorAddress(c, config.trustedProxies);
    for (const { of, limiter } of limiters) await consume(limiter, of(email, address));
    const account = await findAccount(store.db, email);
    const good = await isPassword(account?.passwordHash ?? null, password);
    if (!account || !good) {
      throw new Problem(401, 'wrong-sign-in', 'The email address and the password do not go together.', [
        { pointer: '/password', detail: 'Check both for a typing mistake, and that capitals lock is off.' },
      ]);
    }
    for (const { of, limiter } of limiters) await limiter.delete(of(email, address));
    return c.json(await begin(c, account));
  });

  app.post('/first', async (c) => {
    const input = await readInput(c, FirstAccount);
    const account = {
      id: newId(),
      email: input.email.trim().toLowerCase(),
      name: input.name,
      passwordHash: await hashPassword(input.password),
      createdAt: now(),
    };
    await inTransaction(store, async (db) => {
      if (!(await useSetupLink(db, sha256(input.token), now()))) {
        throw new Problem(
          403,
          'link-used',
          'This one-time link was used before, or is too old. Start Iwashi again to get a new one.',
        );
      }
      await addAccount(db, account);
    });
    return c.json(await begin(c, account));
  });

  app.delete('/', requireSession(context), async (c) => {
    const token = getCookie(c, COOKIE);
    if (token) await endSession(store.db, sha256(token));
    deleteCookie(c, COOKIE, { path: '/' });
    return c.body(null, 204);
  });

  return app;
}

function limiterFor({ store, config }: Context, name: string, points: number): RateLimiterMySQL {
  const dbName = new URL(config.databaseUrl).pathname.slice(1);
  return new RateLimiterMySQL({
    storeClient: store.pool.pool,
    storeType: 'pool',
    dbName,
    tableName: 'throttles',
    tableCreated: true,
    keyPrefix: `sign-in-${name}`,
    points,
    duration: TRIES.seconds,
  });
}

async function consume(limiter: RateLimiterMySQL, key: string): Promise<void> {
  try {
    await limiter.consume(key);
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    const seconds = Math.ceil(refused.msBeforeNext / 1000);
    throw new Problem(
      429,
      'too-many-tries',
      `Too many tries. Wait ${Math.ceil(seconds / 60)} minutes, then try again.`,
      [],
      { 'retry-after': String(seconds) },
    );
  }
}
