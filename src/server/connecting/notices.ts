import type { Profile } from '../../contract/profile/index.ts';
import type { Fault } from '../../core/delivery/index.ts';
import { isGenuine, readNotices, type Notice } from '../connectors/notices.ts';
import type { Context } from '../context.ts';
import { newToken, sha256 } from '../security/tokens.ts';
import { findConnection, type ConnectionRecord } from '../store/connections.ts';
import { inTransaction, nothingAlongside, type Db } from '../store/database.ts';
import {
  addNotice,
  addNoticeAddress,
  findNoticeAddress,
  markProven,
  noticeAddressOf,
  purposesSent,
  removeNoticeAddress,
  setRegistered,
} from '../store/notices.ts';
import { readKnownPerson } from '../store/people/index.ts';
import { connectorFor, openAccess, partsFor } from './open.ts';
import { profileFor } from './profiles.ts';
import { withdraw } from './withdrawing.ts';

/** Has another system tell us what happens there: registers an address of ours at it. @returns what went wrong; null for nothing */
export async function startNotices(
  context: Context,
  connection: ConnectionRecord,
  alongside = nothingAlongside,
): Promise<Fault | null> {
  const { store, secrets, config, now } = context;
  if (await noticeAddressOf(store.db, connection.id)) return null;
  const opened = await openAccess(context, connection);
  if (!opened.ok) return opened.fault;
  const token = newToken();
  // Stored first: the other system may try it before it has answered us.
  await addNoticeAddress(store.db, { connectionId: connection.id, tokenHash: sha256(token), now: now() });
  const connector = connectorFor(partsFor(context, opened.value));
  const registered = await connector.register(`${config.publicUrl}/notices/${token}`, newToken());
  if (!registered.ok) {
    await removeNoticeAddress(store.db, connection.id);
    return registered.fault;
  }
  const { remoteId, secret } = registered.value;
  await inTransaction(store, async (db) => {
    await setRegistered(db, connection.id, { remoteId, secret: secrets.seal(secret) });
    await alongside(db);
  });
  return null;
}

/** Takes our address away at the other system. It is forgotten here in any case, so that nothing more is taken from there. */
export async function stopNotices(
  context: Context,
  connection: ConnectionRecord,
  alongside = nothingAlongside,
): Promise<Fault | null> {
  const { store } = context;
  const address = await noticeAddressOf(store.db, connection.id);
  if (!address) return null;
  await inTransaction(store, async (db) => {
    await removeNoticeAddress(db, connection.id);
    await alongside(db);
  });
  if (address.remoteId === null) return null;
  const opened = await openAccess(context, connection);
  if (!opened.ok) return opened.fault;
  const reply = await connectorFor(partsFor(context, opened.value)).unregister(address.remoteId);
  return reply.ok ? null : reply.fault;
}

/** What became of a request that claims to come from another system. */
export type Taken = 'taken' | 'unknown address' | 'not ready' | 'not genuine' | 'not readable';

/** Takes what another system tells us, each notice once. */
export async function takeNotices(
  context: Context,
  token: string,
  { header, body }: { header: (name: string) => string; body: string },
): Promise<Taken> {
  const { store, secrets, now } = context;
  const address = await findNoticeAddress(store.db, sha256(token));
  const connection = address && (await findConnection(store.db, address.connectionId));
  if (!connection) return 'unknown address';
  if (address.secret === null) return 'not ready';
  const { webhooks } = profileFor(connection);
  if (!webhooks) return 'unknown address';
  if (!isGenuine(webhooks, { header, body, secret: secrets.open(address.secret), now: now() })) return 'not genuine';
  const parsed = parse(body);
  if (parsed === undefined) return 'not readable';
  const notices = readNotices(webhooks, parsed, now());
  await inTransaction(store, async (db) => {
    await markProven(db, connection.id, now());
    for (const notice of notices) if (notice.meaning !== 'trial') await apply(context, db, connection, notice);
  });
  return 'taken';
}

/** Notes what happened, and what it means for the person's consent. */
async function apply(context: Context, db: Db, connection: ConnectionRecord, notice: Notice): Promise<void> {
  const { newId, now } = context;
  const { contact } = await readKnownPerson(db, { keys: [{ kind: 'email', value: notice.email }], name: '' });
  const { remoteId, kind, meaning, at } = notice;
  const about = { connectionId: connection.id, remoteId: sha256(remoteId), kind, meaning };
  const isNew = await addNotice(db, { ...about, id: newId(), contactId: contact?.id ?? null, at, receivedAt: now() });
  if (!isNew || !contact || meaning !== 'unsubscribed') return;
  await withdraw(context, db, {
    contactId: contact.id,
    purposes: await purposesSent(db, contact.id, connection.id),
    at,
    wording: `Unsubscribed in ${profileFor(connection).name}.`,
    evidence: { 'told by': connection.name, event: kind, 'its id': remoteId.slice(0, 100) },
  });
}

const parse = (text: string): unknown => {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
};

/** Whether a kind of service can tell us what happens there. */
export const tellsNotices = ({ webhooks }: Profile): boolean => webhooks !== undefined;
