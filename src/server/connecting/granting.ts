import type { GrantNotice, VerifyResult } from '../../contract/connection.ts';
import type { Access } from '../connectors/access.ts';
import { openAddress } from './addresses.ts';
import { authorisationUrl, newState, newVerifier, redeemCode } from '../connectors/oauth.ts';
import type { Context } from '../context.ts';
import { bad, good, type Result } from '../../core/result.ts';
import { sha256 } from '../security/tokens.ts';
import { changeConnection, findConnection, type ConnectionRecord } from '../store/connections.ts';
import { inTransaction, nothingAlongside, type Alongside } from '../store/database.ts';
import { addGrantRequest, takeGrantRequest } from '../store/grants.ts';
import { checkConnection } from './checking.ts';
import { openCredentials, sealTokens } from './open.ts';
import { profileFor } from './profiles.ts';

/** How long a person has to grant access in the other system's window. */
const GRANT_MS = 15 * 60_000;

/** Where the other system's window sends people back to; it has to be registered there. */
export const returnUrl = ({ config }: Context): string => `${config.publicUrl}/api/connections/granted`;

/** What went wrong where access was to be granted. */
export interface GrantTrouble {
  connectionId: string | null;
  /** Which notice of the interface says so; '' where the connection itself does. */
  notice: GrantNotice | '';
}

/** Begins to ask for access. @returns the address of the other system's window */
export async function beginGrant(
  context: Context,
  connection: ConnectionRecord,
  accountId: string,
  alongside = nothingAlongside,
): Promise<string> {
  const { store, secrets, now } = context;
  const state = newState();
  const verifier = newVerifier();
  await inTransaction(store, async (db) => {
    await addGrantRequest(db, {
      stateHash: sha256(state),
      connectionId: connection.id,
      accountId,
      verifier: secrets.seal(verifier),
      expiresAt: now() + GRANT_MS,
    });
    await alongside(db);
  });
  return authorisationUrl(accessOf(context, connection), { state, verifier, returnUrl: returnUrl(context) });
}

/**
 * Ends it with what the window sent back: tokens are got and kept, and the connection is verified. Why there are none is kept with a
 * connection that has no access yet; one that has some goes on with it.
 * @param accountId who is signed in; access that somebody else asked for is not taken
 * @returns the connection's id, or what went wrong, with the id where it is known
 */
export async function endGrant(
  context: Context,
  cameBack: URL,
  accountId: string,
  alongside: (connection: ConnectionRecord) => Alongside = () => nothingAlongside,
): Promise<Result<string, GrantTrouble>> {
  const { store, secrets, send, now } = context;
  const state = cameBack.searchParams.get('state') ?? '';
  const request = await takeGrantRequest(store.db, sha256(state), now());
  const connection = request && (await findConnection(store.db, request.connectionId));
  if (!request || !connection || request.accountId !== accountId) return bad({ connectionId: null, notice: 'used' });
  const reply = await redeemCode(
    send,
    accessOf(context, connection),
    { state, verifier: secrets.open(request.verifier), returnUrl: returnUrl(context), cameBack },
    now(),
  );
  if (!reply.ok) {
    if (connection.state !== 'ungranted') return bad({ connectionId: connection.id, notice: 'refused' });
    const problem = `${profileFor(connection).name} did not grant access: ${reply.said}`;
    const verify: VerifyResult = {
      ok: false,
      about: 'service',
      refused: true,
      problem,
      nextStep: 'Grant access again.',
      at: new Date(now()).toISOString(),
    };
    await changeConnection(store.db, connection.id, { verify });
    return bad({ connectionId: connection.id, notice: '' });
  }
  const tokens = sealTokens(context, reply.tokens);
  await changeConnection(store.db, connection.id, { tokens });
  await checkConnection(context, { ...connection, tokens }, true, alongside(connection));
  return good(connection.id);
}

const accessOf = (context: Context, connection: ConnectionRecord): Access => ({
  profile: profileFor(connection),
  baseUrl: openAddress(context, connection),
  credentials: openCredentials(context, connection),
  pool: connection.id,
});
