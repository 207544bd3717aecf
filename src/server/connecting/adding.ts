import type { VerifyResult } from '../../contract/connection.ts';
import type { CredentialName, Profile } from '../../contract/profile/index.ts';
import type { Credentials } from '../connectors/access.ts';
import { mask } from '../connectors/http.ts';
import { clientTokens } from '../connectors/oauth.ts';
import { verifyConnection, type Verified } from '../connectors/verifying/verify.ts';
import type { Context } from '../context.ts';
import { addConnection } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { sealAddress } from './addresses.ts';
import { nextCheckAt } from './checking.ts';
import { partsFor, sealTokens } from './open.ts';

/** A connection as somebody enters it. */
export interface Entered {
  profile: Profile;
  name: string;
  baseUrl: string;
  credentials: Credentials;
}

export type VerifiedAccess = Verified & {
  /** Encrypted, where the service handed some out. */
  tokens: string | null;
};

export const isGrantedByPerson = ({ authentication: { kind } }: Profile): boolean =>
  kind === 'OAuth, granted by a person';

/** Verifies access that is not saved. Where a client gets tokens in its own name, they are got first. */
export async function verifyEntered(
  context: Context,
  { profile, baseUrl, credentials }: Omit<Entered, 'name'>,
): Promise<VerifiedAccess> {
  const { send, now } = context;
  const access = { profile, baseUrl, credentials, pool: 'not saved' };
  if (profile.authentication.kind !== 'OAuth, by client')
    return { ...(await verifyConnection(partsFor(context, access))), tokens: null };
  const reply = await clientTokens(send, access, now());
  if (!reply.ok) return { result: tokenRefusal(profile, reply, now()), catalogue: null, tokens: null };
  const verified = await verifyConnection(partsFor(context, { ...access, token: reply.tokens.access }));
  return { ...verified, tokens: sealTokens(context, reply.tokens) };
}

/**
 * Saves a connection that was verified, or one to which access has still to be granted.
 * @param verified null when nothing can be verified before access is granted
 * @returns its id
 */
export async function saveConnection(
  context: Context,
  db: Db,
  { profile, name, baseUrl, credentials }: Entered,
  verified: VerifiedAccess | null,
): Promise<string> {
  const { secrets, newId, now } = context;
  const id = newId();
  await addConnection(db, {
    id,
    profile: profile.id,
    name,
    baseUrl: sealAddress(context, profile, baseUrl),
    secret: secrets.seal(JSON.stringify(credentials)),
    hints: hintsOf(credentials),
    tokens: verified?.tokens ?? null,
    state: verified ? 'active' : 'ungranted',
    verify: verified?.result ?? null,
    catalogue: verified?.catalogue ?? null,
    catalogueAt: verified ? now() : null,
    changes: [],
    changesAt: null,
    answerUntrueAt: null,
    checkAt: nextCheckAt('active', now()),
    createdAt: now(),
  });
  return id;
}

/** What is no secret, and the ends of what is, by which people tell credentials apart. */
export const hintsOf = (credentials: Credentials): Partial<Record<CredentialName, string>> =>
  Object.fromEntries(
    Object.entries(credentials).map(([name, value]) => [
      name,
      name === 'user' || name === 'clientId' ? value : mask(value),
    ]),
  );

const tokenRefusal = (
  { name }: Profile,
  { said, refused }: { said: string; refused: boolean },
  now: number,
): VerifyResult => ({
  ok: false,
  about: refused ? 'clientSecret' : 'baseUrl',
  refused,
  problem: `${name} gives no access: ${said}`,
  nextStep: refused ? 'Copy the client id and the client secret again.' : 'Check the address.',
  at: new Date(now).toISOString(),
});
