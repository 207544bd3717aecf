import type { TokenInput } from '../../../contract/tokens.ts';
import type { Result } from '../../../core/result.ts';
import { mask } from '../../connectors/http.ts';
import type { Context } from '../../context.ts';
import { newToken, sha256 } from '../../security/tokens.ts';
import { addToken as store, type TokenRecord } from '../../store/tokens.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';

const DAY_MS = 24 * 3_600_000;

/** Makes a token for another program. @returns what is kept of it, and the token itself, which is shown this once */
export async function addToken(
  actor: Actor,
  context: Context,
  { name, scopes, days }: TokenInput,
): Promise<Result<{ record: TokenRecord; token: string }, Refusal>> {
  const { newId, now } = context;
  const token = `iwashi_${newToken()}`;
  const record: TokenRecord = {
    id: newId(),
    accountId: actor.id,
    name,
    scopes,
    tokenHash: sha256(token),
    hint: mask(token),
    createdAt: now(),
    lastUsedAt: null,
    expiresAt: days === null ? null : now() + days * DAY_MS,
  };
  return inCommand(context, actor, async (db) => {
    await store(db, record);
    const subject = { kind: 'token', id: record.id, name } as const;
    return done({ record, token }, { act: 'made', subject, detail: `It may: ${scopes.join(', ')}.` });
  });
}
