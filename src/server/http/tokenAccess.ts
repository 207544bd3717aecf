import type { Context as HonoContext } from 'hono';
import type { Scope } from '../../contract/tokens.ts';
import type { Context } from '../context.ts';
import { sha256 } from '../security/tokens.ts';
import { findToken, noteTokenUse, type TokenRecord } from '../store/tokens.ts';
import { scopeMissing } from './gates.ts';
import { Problem } from './problems.ts';

/** When a token was last used is noted no more often than this. */
const NOTED_EVERY_MS = 60_000;

/** The token of a request, when it comes with one (RFC 6750, 2.1). */
export const bearerOf = (c: HonoContext): string | null =>
  /^Bearer ([\w~+/.-]+=*)$/i.exec(c.req.header('authorization') ?? '')?.[1] ?? null;

/** The token that a request was sent with. @throws Problem when there is no such one any more */
export async function readToken({ store, now }: Context, token: string): Promise<TokenRecord> {
  const record = await findToken(store.db, sha256(token), now());
  if (!record)
    throw new Problem(401, 'unknown-token', 'This token is unknown, or has ended.', [], {
      'www-authenticate': 'Bearer error="invalid_token"',
    });
  if (now() - (record.lastUsedAt ?? 0) > NOTED_EVERY_MS) await noteTokenUse(store.db, record.id, now());
  return record;
}

/** Checks that a token is good and may do this. @throws Problem when not */
export async function requireScope(context: Context, token: string, scope: Scope): Promise<void> {
  const { scopes } = await readToken(context, token);
  if (!scopes.includes(scope)) throw scopeMissing(scope);
}
