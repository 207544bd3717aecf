import type { Result } from '../../../core/result.ts';
import { hintsOf, isGrantedByPerson, verifyEntered, type VerifiedAccess } from '../../connecting/adding.ts';
import { openCredentials } from '../../connecting/open.ts';
import { profileFor } from '../../connecting/profiles.ts';
import type { Credentials } from '../../connectors/access.ts';
import { openAddress, sealAddress } from '../../connecting/addresses.ts';
import type { Context } from '../../context.ts';
import { changeConnection, findConnection, moveConnection } from '../../store/connections.ts';
import { releaseRefused } from '../../store/deliveries.ts';
import { resetHealth } from '../../store/health.ts';
import { done, inCommand, unknown, type Act, type Actor, type Refusal } from '../command.ts';
import { notConnected } from './connect.ts';

/**
 * Changes name, address or credentials of a connection. New ones are verified before the old ones are let go.
 * @param input.credentials only the new ones
 */
export async function changeAccess(
  actor: Actor,
  context: Context,
  input: { id: string; name: string; baseUrl: string; credentials: Credentials },
): Promise<Result<void, Refusal>> {
  const { store, secrets, now } = context;
  const { id, name } = input;
  const before = await findConnection(store.db, id);
  if (!before) return unknown('connection');
  const profile = profileFor(before);
  const isSecretAddress = profile.authentication.kind === 'secret address';
  const kept = openAddress(context, before);
  // A secret address is never shown, so what comes back empty or redacted is the old one.
  const baseUrl = isSecretAddress && /^$|•/.test(input.baseUrl) ? kept : input.baseUrl.trim();
  const credentials = { ...openCredentials(context, before), ...input.credentials };
  const isNew = Object.keys(input.credentials).length > 0 || baseUrl !== kept;
  let verified: VerifiedAccess | null = null;
  if (isNew && !isGrantedByPerson(profile)) {
    verified = await verifyEntered(context, { profile, baseUrl, credentials });
    if (!verified.result.ok) return notConnected(verified.result, 'Nothing was changed: the new access does not work.');
  }
  return inCommand(context, actor, async (db) => {
    await changeConnection(db, id, { name });
    if (isNew)
      await changeConnection(db, id, {
        secret: secrets.seal(JSON.stringify(credentials)),
        hints: hintsOf(credentials),
        baseUrl: sealAddress(context, profile, baseUrl),
      });
    if (verified) {
      const { result, catalogue, tokens } = verified;
      await changeConnection(db, id, { tokens, verify: result, catalogue, catalogueAt: now() });
      // Entering credentials anew is no reason to go on where a person had paused it, nor before access is granted.
      if (before.state === 'refused') await moveConnection(db, id, 'found good');
      await resetHealth(db, id);
      // The next check goes on with the rest.
      if (await releaseRefused(db, id, now())) await changeConnection(db, id, { checkAt: now() });
    }
    const subject = { kind: 'connection', id, name } as const;
    const renamed: Act | null =
      name === before.name ? null : { act: 'renamed', subject, detail: `It was ${before.name}.` };
    return done(undefined, isNew ? { act: 'changed access', subject } : renamed);
  });
}
