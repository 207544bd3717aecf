import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Profile } from '../../contract/profile/index.ts';
import type { Fault } from '../../core/delivery/index.ts';
import { needsToken, type Access, type Credentials } from '../connectors/access.ts';
import { createCodeConnector, type CodeParts } from '../connectors/code/index.ts';
import type { Connector, Reply } from '../connectors/connector.ts';
import { createConnector } from '../connectors/engine.ts';
import { clientTokens, isStale, refreshTokens, type TokenReply, type Tokens } from '../connectors/oauth.ts';
import type { Context } from '../context.ts';
import { changeConnection, lockTokens, type ConnectionRecord } from '../store/connections.ts';
import { inTransaction } from '../store/database.ts';
import { openAddress } from './addresses.ts';
import { profileFor } from './profiles.ts';

/** Records that were read for many deliveries together are opened once. */
const opened = new WeakMap<Pick<ConnectionRecord, 'secret'>, Credentials>();

/** The credentials of a connection in clear. */
export function openCredentials({ secrets }: Context, record: Pick<ConnectionRecord, 'secret'>): Credentials {
  const credentials = opened.get(record) ?? (JSON.parse(secrets.open(record.secret)) as Credentials);
  opened.set(record, credentials);
  return credentials;
}

/** What a connector needs, for an access that is open. */
export const partsFor = (context: Context, access: Access, record: ExchangeView[] = []): CodeParts => ({
  send: context.send,
  now: context.now,
  dropFolder: context.config.dropFolder,
  allowPrivate: context.config.allowPrivateAddresses,
  access,
  record,
});

export const connectorFor = (parts: CodeParts): Connector =>
  parts.access.profile.speaks === 'http'
    ? createConnector(parts.send, parts.access, parts.now, parts.record)
    : createCodeConnector(parts);

/**
 * Opens a connection: its credentials in clear, and an access token that is still good where one is needed.
 * @param renew get a new token even if the old one looks good: the service refused it
 */
export async function openAccess(
  context: Context,
  connection: ConnectionRecord,
  renew: { refused: string } | null = null,
): Promise<Reply<Access>> {
  const profile = profileFor(connection);
  const { id } = connection;
  const access: Access = {
    profile,
    baseUrl: openAddress(context, connection),
    credentials: openCredentials(context, connection),
    pool: id,
  };
  if (!needsToken(profile)) return { ok: true, value: access };
  const tokens = readTokens(context, connection.tokens);
  if (tokens && !isStale(tokens, context.now()) && tokens.access !== renew?.refused)
    return { ok: true, value: { ...access, token: tokens.access } };
  const renewed = await renewTokens(context, id, access, renew);
  return renewed.ok
    ? { ok: true, value: { ...access, token: renewed.tokens.access } }
    : { ok: false, fault: faultOf(renewed, profile) };
}

export const readTokens = ({ secrets }: Context, sealed: string | null): Tokens | null =>
  sealed === null ? null : (JSON.parse(secrets.open(sealed)) as Tokens);

export const sealTokens = ({ secrets }: Context, tokens: Tokens): string => secrets.seal(JSON.stringify(tokens));

/** Renews tokens once, however many workers find them stale: the row is locked, and the second finds them new. */
function renewTokens(
  context: Context,
  id: string,
  access: Access,
  renew: { refused: string } | null,
): Promise<TokenReply> {
  const { store, send, now } = context;
  return inTransaction(store, async (db): Promise<TokenReply> => {
    const held = readTokens(context, await lockTokens(db, id));
    if (held && !isStale(held, now()) && held.access !== renew?.refused) return { ok: true, tokens: held };
    const reply = await askForTokens(send, access, held, now());
    if (reply.ok) await changeConnection(db, id, { tokens: sealTokens(context, reply.tokens) });
    return reply;
  });
}

function askForTokens(send: Context['send'], access: Access, held: Tokens | null, now: number): Promise<TokenReply> {
  if (access.profile.authentication.kind === 'OAuth, by client') return clientTokens(send, access, now);
  if (held?.refresh) return refreshTokens(send, access, held.refresh, now);
  return Promise.resolve({ ok: false, refused: true, said: 'Access was not granted, or has ended.' });
}

const faultOf = (reply: Extract<TokenReply, { ok: false }>, { name }: Profile): Fault => ({
  cause: reply.refused ? 'credentials refused' : 'unavailable',
  said: reply.refused ? `${name} gives no new access: ${reply.said}` : `The token address of ${name}: ${reply.said}`,
  waitMs: null,
});
