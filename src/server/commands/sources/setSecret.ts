import { randomBytes } from 'node:crypto';
import type { SecretView } from '../../../contract/webhook.ts';
import { isPosted, type PostedDocument } from '../../../core/intake/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { isSigningSecret } from '../../connectors/code/index.ts';
import { DAY_MS } from '../../store/figures.ts';
import { findSource } from '../../store/sources.ts';
import { endFormerSecret, setSourceSecret } from '../../store/webhooks.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

const SECRET_BYTES = 32;

/** Standard Webhooks 1.0, "Symmetric keys": 24 to 64 bytes in base64, after whsec_ (from memory). */
const madeFor = (by: PostedDocument['proof']['by']): string =>
  by === 'standard webhooks'
    ? `whsec_${randomBytes(SECRET_BYTES).toString('base64')}`
    : randomBytes(SECRET_BYTES).toString('base64url');

/** For so long the secret of before is let in beside a new one, where somebody says so: until the other system has it. */
const EXCHANGE_MS = DAY_MS;

/**
 * Sets the secret by which whoever sends to an address is known, or makes one.
 * @param about.secret '' for one that is made here
 * @param about.keepsFormer whether who has the one of before is let in for a day more
 */
export async function setSecret(
  actor: Actor,
  context: Context,
  { id, secret, keepsFormer = false }: { id: string; secret: string; keepsFormer?: boolean },
): Promise<Result<SecretView, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source || !isPosted(source.draft)) return unknown('source');
    const { by } = source.draft.proof;
    const own = secret === '' ? madeFor(by) : secret.trim();
    const at = [{ pointer: '/secret', detail: 'A secret of Standard Webhooks is base64, mostly after whsec_.' }];
    if (by === 'standard webhooks' && !isSigningSecret(own))
      return refused('invalid', 'invalid', 'This is no secret of Standard Webhooks.', at);
    if (by === 'bearer' && /\s/.test(own))
      return refused('invalid', 'invalid', 'This cannot be a bearer token.', [
        { pointer: '/secret', detail: 'A bearer token has no blanks (RFC 6750, 2.1).' },
      ]);
    if (by === 'path' && !/^[\w.~-]+$/.test(own))
      return refused('invalid', 'invalid', 'This cannot stand in an address.', [
        { pointer: '/secret', detail: 'In an address, a secret has letters, digits, and . _ ~ - alone.' },
      ]);
    const setAt = context.now();
    const formerUntil = keepsFormer ? setAt + EXCHANGE_MS : 0;
    await setSourceSecret(db, id, { secret: context.secrets.seal(own), setAt, formerUntil });
    const address = `${context.config.publicUrl}/in/${source.publicId}${by === 'path' ? `/${own}` : ''}`;
    return done(
      { secret: own, address },
      { act: 'set the secret', subject: { kind: 'source', id, name: source.name } },
    );
  });
}

/** Lets who has the secret of before in no more. */
export const endFormer = (actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> =>
  inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source || !(await endFormerSecret(db, id))) return unknown('secret of before');
    return done(undefined, { act: 'ended the secret of before', subject: { kind: 'source', id, name: source.name } });
  });
