import { Hono } from 'hono';
import { TokenInput, type NewTokenView, type TokenView } from '../../../contract/tokens.ts';
import { addToken } from '../../commands/tokens/addToken.ts';
import { removeToken } from '../../commands/tokens/removeToken.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { listTokens, type TokenRecord } from '../../store/tokens.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { readInput } from '../problems.ts';

const viewOf = ({ id, name, hint, scopes, createdAt, lastUsedAt, expiresAt }: TokenRecord): TokenView => ({
  id,
  name,
  hint,
  scopes,
  createdAt: new Date(createdAt).toISOString(),
  lastUsedAt: isoTime(lastUsedAt),
  expiresAt: isoTime(expiresAt),
});

/** Tokens for other programs: made and taken back by people only. */
export function tokenRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  app.get('/', allow('tokens:write'), async (c) => c.json((await listTokens(context.store.db)).map(viewOf)));

  app.post('/', allow('tokens:write'), async (c) => {
    const input = await readInput(c, TokenInput);
    const { record, token } = outcome(await addToken(c.get('actor'), context, input));
    return c.json({ ...viewOf(record), token } satisfies NewTokenView, 201);
  });

  app.delete('/:id', allow('tokens:write'), async (c) => {
    outcome(await removeToken(c.get('actor'), context, c.req.param('id')));
    return c.body(null, 204);
  });

  return app;
}
