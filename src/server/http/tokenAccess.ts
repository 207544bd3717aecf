import type { Context as HonoContext } from 'hono';
import { PUBLIC_API } from '../../contract/publicApi.ts';
import type { Scope } from '../../contract/tokens.ts';
import type { Context } from '../context.ts';
import { sha256 } from '../security/tokens.ts';
import { findToken, noteTokenUse } from '../store/tokens.ts';
import { Problem } from './problems.ts';

/** When a token was last used is noted no more often than this. */
const NOTED_EVERY_MS = 60_000;

/** The token of a request, when it comes with one (RFC 6750, 2.1). */
export const bearerOf = (c: HonoContext): string | null =>
  /^Bearer ([\w~+/.-]+=*)$/i.exec(c.req.header('authorization') ?? '')?.[1] ?? null;

/** Checks that a token is good and may do this. @throws Problem when not */
export async function requireScope({ store, now }: Context, token: string, scope: Scope | null): Promise<void> {
  const record = await findToken(store.db, sha256(token), now());
  if (!record)
    throw new Problem(401, 'unknown-token', 'This token is unknown, or has ended.', [], {
      'www-authenticate': 'Bearer error="invalid_token"',
    });
  if (scope === null) throw new Problem(403, 'not-for-tokens', 'This is not open to tokens; see /api/openapi.json.');
  if (!record.scopes.includes(scope))
    throw new Problem(403, 'scope-missing', `The token lacks ${scope}.`, [], {
      'www-authenticate': `Bearer error="insufficient_scope", scope="${scope}"`,
    });
  if (now() - (record.lastUsedAt ?? 0) > NOTED_EVERY_MS) await noteTokenUse(store.db, record.id, now());
}

/** The scope that an address of the API needs; null when no token may call it. */
export function scopeFor(method: string, path: string): Scope | null {
  const found = PUBLIC_API.find(
    (operation) =>
      operation.method === method.toLowerCase() &&
      new RegExp(`^/api${operation.path.replace(/\{\w+\}/g, '[^/]+')}$`).test(path),
  );
  return found?.scope ?? null;
}
