import { Hono } from 'hono';
import { TokenInput, type NewTokenView, type TokenView } from '../../../contract/tokens.ts';
import { mask } from '../../connectors/http.ts';
import type { Context } from '../../context.ts';
import { newToken, sha256 } from '../../security/tokens.ts';
import { addToken, listTokens, removeToken, type TokenRecord } from '../../store/tokens.ts';
import { notFound, readInput } from '../problems.ts';
import type { Session } from './session.ts';

const DAY_MS = 24 * 3_600_000;
const iso = (at: number | null) => (at === null ? null : new Date(at).toISOString());

const viewOf = ({ id, name, hint, scopes, createdAt, lastUsedAt, expiresAt }: TokenRecord): TokenView => ({
  id,
  name,
  hint,
  scopes,
  createdAt: new Date(createdAt).toISOString(),
  lastUsedAt: iso(lastUsedAt),
  expiresAt: iso(expiresAt),
});

/** Tokens for other programs: made and taken back by people only. */
export function tokenRoutes({ store, now, newId }: Context): Hono<Session> {
  const app = new Hono<Session>();
  app.get('/', async (c) => c.json((await listTokens(store.db)).map(viewOf)));

  app.post('/', async (c) => {
    const { name, scopes, days } = await readInput(c, TokenInput);
    const token = `iwashi_${newToken()}`;
    const record: TokenRecord = {
      id: newId(),
      accountId: c.get('account').id,
      name,
      scopes,
      tokenHash: sha256(token),
      hint: mask(token),
      createdAt: now(),
      lastUsedAt: null,
      expiresAt: days === null ? null : now() + days * DAY_MS,
    };
    await addToken(store.db, record);
    return c.json({ ...viewOf(record), token } satisfies NewTokenView, 201);
  });

  app.delete('/:id', async (c) => {
    if (!(await removeToken(store.db, c.req.param('id')))) throw notFound('token');
    return c.body(null, 204);
  });

  return app;
}
