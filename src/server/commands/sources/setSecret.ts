import { randomBytes } from 'node:crypto';
import type { SecretView } from '../../../contract/webhook.ts';
import { isPosted, type PostedDocument } from '../../../core/intake/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { isSigningSecret } from '../../connectors/code/index.ts';
import { findSource } from '../../store/sources.ts';
import { setSourceSecret } from '../../store/webhooks.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

const SECRET_BYTES = 32;

/** Standard Webhooks 1.0, "Symmetric keys": 24 to 64 bytes in base64, after whsec_ (from memory). */
const madeFor = (by: PostedDocument['proof']['by']): string =>
  by === 'standard webhooks'
    ? `whsec_${randomBytes(SECRET_BYTES).toString('base64')}`
    : randomBytes(SECRET_BYTES).toString('base64url');

/**
 * Sets the secret by which whoever sends to an address is known, or makes one. What knew the one before is not let in any more.
 * @param secret '' for one that is made here
 */
export async function setSecret(
  actor: Actor,
  context: Context,
  { id, secret }: { id: string; secret: string },
): Promise<Result<SecretView, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source || !isPosted(source.draft)) return unknown('source');
    const { by } = source.draft.proof;
    const own = secret === '' ? madeFor(by) : secret.trim();
    const at = [{ pointer: '/secret', detail: 'A secret of Standard Webhooks is base64, mostly after whsec_.' }];
    if (by === 'standard webhooks' && !isSigningSecret(own))
      return refused('invalid', 'invalid', 'This is no secret of Standard Webhooks.', at);
    if (by === 'path' && !/^[\w.~-]+$/.test(own))
      return refused('invalid', 'invalid', 'This cannot stand in an address.', [
        { pointer: '/secret', detail: 'In an address, a secret has letters, digits, and . _ ~ - alone.' },
      ]);
    await setSourceSecret(db, id, context.secrets.seal(own), context.now());
    const address = `${context.config.publicUrl}/in/${source.publicId}${by === 'path' ? `/${own}` : ''}`;
    return done(
      { secret: own, address },
      { act: 'set the secret', subject: { kind: 'source', id, name: source.name } },
    );
  });
}
