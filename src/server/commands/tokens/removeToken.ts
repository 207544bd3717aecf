import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { listTokens, removeToken as store } from '../../store/tokens.ts';
import { done, inCommand, unknown, type Actor, type Refusal } from '../command.ts';

/** Takes a token back: what uses it is let in no more. */
export async function removeToken(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const token = (await listTokens(db)).find((one) => one.id === id);
    if (!token || !(await store(db, id))) return unknown('token');
    return done(undefined, { act: 'removed', subject: { kind: 'token', id, name: token.name } });
  });
}
