import { Hono, type Context as HonoContext, type MiddlewareHandler } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible';
import {
  FirstAccount,
  NewPassword,
  SignIn,
  type OpenSessionView,
  type SessionView,
} from '../../../contract/session.ts';
import { isoTime } from '../../../core/isoTime.ts';
import { changePassword } from '../../commands/session/changePassword.ts';
import { endOneSession, endOthers } from '../../commands/session/endSessions.ts';
import { makeFirstAccount } from '../../commands/session/makeFirstAccount.ts';
import type { Context } from '../../context.ts';
import { browserOf } from '../../intake/device.ts';
import { isPassword } from '../../security/passwords.ts';
import { readSignedText, signText } from '../../security/stamps.ts';
import { newToken, sessionId, sha256 } from '../../security/tokens.ts';
import { addSession, countAccounts, endSession, findAccount, findSession, listSessions } from '../../store/accounts.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { Problem, readInput } from '../problems.ts';
import { bearerOf, readToken } from '../tokenAccess.ts';
import { namesOf, visitorAddress } from '../visitor.ts';

const COOKIE = 'iwashi_session';
const isSecure = ({ config }: Context): boolean => config.publicUrl.startsWith('https:');
/** Under https no page of a name above or below ours can set it (RFC 6265bis, 4.1.3.2). */
const prefixOf = (context: Context): 'host' | undefined => (isSecure(context) ? 'host' : undefined);
const tokenOf = (context: Context, c: HonoContext): string => getCookie(c, COOKIE, prefixOf(context)) ?? '';
/** Names of this machine, which no page elsewhere can have (RFC 6761, 6.3). */
const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;
const SESSION_MS = 14 * 24 * 3_600_000;
/** Tries within a quarter of an hour, for one address and account together and for one address alone. */
const TRIES = { perAccount: 8, perAddress: 60, seconds: 15 * 60 };
/** And for one account in a day, from whatever addresses: whoever has thousands of them guesses no faster. */
const TRIES_A_DAY = { everywhere: 100, seconds: 24 * 3_600 };
/** Says at which browser somebody signed in before (OWASP, device cookies). */
const DEVICE_COOKIE = 'iwashi_device';
const DEVICE = 'device';
const DEVICE_SECONDS = 180 * 24 * 3_600;

/** Who is signed in at the browser that a request comes from; null for nobody. */
export async function signedIn(context: Context, c: HonoContext) {
  const token = tokenOf(context, c);
  return token === '' ? null : findSession(context.store.db, sha256(token), context.now());
}

/** Whether whoever asked by a request may still go on: they have not signed out since, and their token was not taken away. */
export async function isStillIn(context: Context, c: HonoContext): Promise<boolean> {
  const bearer = bearerOf(c);
  if (bearer === null) return (await signedIn(context, c)) !== null;
  return readToken(context, bearer).then(
    () => true,
    () => false,
  );
}

/**
 * Finds out who asks: a person who is signed in, whose changes carry the session's token against forged requests, or a
 * program by its token. What each may do is for the gates to say.
 */
export function authenticate(context: Context): MiddlewareHandler<Session> {
  return async (c, next) => {
    const bearer = bearerOf(c);
    if (bearer !== null) {
      const { id, name, scopes } = await readToken(context, bearer);
      c.set('actor', { kind: 'token', id, name });
      c.set('may', scopes);
      return next();
    }
    const session = await signedIn(context, c);
    if (!session) throw new Problem(401, 'not-signed-in', 'Sign in to go on.');
    const { accountId, name, email, csrf } = session;
    if (c.req.method !== 'GET' && c.req.header('x-iwashi-csrf') !== csrf) {
      throw new Problem(403, 'csrf', 'This page is out of date. Reload it, then try again.');
    }
    c.set('actor', { kind: 'person', id: accountId, name });
    c.set('may', 'everything');
    c.set('csrf', csrf);
    c.set('email', email);
    await next();
  };
}

export function sessionRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now, config } = context;
  const manner = {
    httpOnly: true,
    sameSite: 'Lax',
    path: '/',
    secure: isSecure(context),
  } as const;
  const prefix = prefixOf(context);
  const ofSession = { ...manner, ...(prefix ? { prefix } : {}) };
  const here = (c: HonoContext): string => sha256(tokenOf(context, c));
  const perAccount = limiterFor(context, 'account', TRIES.perAccount);
  const perAddress = limiterFor(context, 'address', TRIES.perAddress);
  const everywhere = limiterFor(context, 'everywhere', TRIES_A_DAY.everywhere, TRIES_A_DAY.seconds);

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
      browser: browserOf(c.req.header('user-agent') ?? '').slice(0, 120),
      beganAt: now(),
      expiresAt: now() + SESSION_MS,
    });
    setCookie(c, COOKIE, token, { ...ofSession, maxAge: SESSION_MS / 1000 });
    return { account: { name: account.name, email: account.email }, csrf };
  }

  // Only at the address that it was started for: no other page can have it, by whatever name it reaches this machine.
  const isOurs = (c: HonoContext) => {
    const host = c.req.header('host') ?? '';
    return host === new URL(config.publicUrl).host || LOOPBACK.test(host);
  };
  app.get('/state', async (c) =>
    c.json({ hasAccount: (await countAccounts(store.db)) > 0, demo: isOurs(c) ? config.demoSignIn : null }),
  );

  app.get('/', authenticate(context), allow('own session'), (c) => {
    const { name } = c.get('actor');
    return c.json({ account: { name, email: c.get('email') }, csrf: c.get('csrf') } satisfies SessionView);
  });

  app.post('/', async (c) => {
    const { email, password } = await readInput(c, SignIn);
    // Whoever has an IPv6 address has many.
    const address = namesOf(visitorAddress(c, config.trustedProxies)).own;
    const account = await findAccount(store.db, email);
    const both = sha256(`${address} ${email.toLowerCase()}`);
    await consume(perAccount, both);
    // Whoever signed in at this browser before is not kept out by others behind the same address.
    const device = readSignedText(config.secretKey, DEVICE, getCookie(c, DEVICE_COOKIE) ?? '');
    if (device === null || device !== account?.id) {
      await consume(perAddress, sha256(address));
      await consume(everywhere, sha256(email.toLowerCase()));
    }
    const good = await isPassword(account?.passwordHash ?? null, password);
    if (!account || !good) {
      throw new Problem(401, 'wrong-sign-in', 'The email address and the password do not go together.', [
        { pointer: '/password', detail: 'Check both for a typing mistake, and that capitals lock is off.' },
      ]);
    }
    await perAccount.delete(both);
    await everywhere.delete(sha256(email.toLowerCase()));
    const session = await begin(c, account);
    const signed = signText(config.secretKey, DEVICE, account.id);
    setCookie(c, DEVICE_COOKIE, signed, { ...manner, maxAge: DEVICE_SECONDS });
    return c.json(session);
  });

  app.post('/first', async (c) => {
    const account = outcome(await makeFirstAccount(context, await readInput(c, FirstAccount)));
    return c.json(await begin(c, account));
  });

  app.delete('/', authenticate(context), allow('own session'), async (c) => {
    await endSession(store.db, here(c));
    deleteCookie(c, COOKIE, ofSession);
    return c.body(null, 204);
  });

  app.get('/all', authenticate(context), allow('own session'), async (c) => {
    const all = await listSessions(store.db, c.get('actor').id, now());
    const own = here(c);
    return c.json(
      all.map(({ tokenHash, browser, beganAt, expiresAt }): OpenSessionView => ({
        id: sessionId(tokenHash),
        browser,
        beganAt: isoTime(beganAt),
        endsAt: isoTime(expiresAt),
        here: tokenHash === own,
      })),
    );
  });

  app.delete('/others', authenticate(context), allow('own session'), async (c) =>
    c.json({ ended: outcome(await endOthers(c.get('actor'), context, here(c))) }),
  );

  app.delete('/all/:id', authenticate(context), allow('own session'), async (c) => {
    outcome(await endOneSession(c.get('actor'), context, c.req.param('id')));
    return c.body(null, 204);
  });

  app.put('/password', authenticate(context), allow('own session'), async (c) => {
    const input = await readInput(c, NewPassword);
    const actor = c.get('actor');
    // Whoever sits down at a browser that is signed in guesses no faster than at the sign-in.
    const key = sha256(`password ${actor.id}`);
    await consume(perAccount, key);
    const ended = outcome(await changePassword(actor, context, input, here(c)));
    await perAccount.delete(key);
    return c.json({ ended });
  });

  return app;
}

function limiterFor(
  { store, config }: Context,
  name: string,
  points: number,
  seconds = TRIES.seconds,
): RateLimiterMySQL {
  const dbName = new URL(config.databaseUrl).pathname.slice(1);
  return new RateLimiterMySQL({
    storeClient: store.pool.pool,
    storeType: 'pool',
    dbName,
    tableName: 'throttles',
    tableCreated: true,
    keyPrefix: `sign-in-${name}`,
    points,
    duration: seconds,
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
