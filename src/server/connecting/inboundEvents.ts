import type { Profile, Webhooks } from '../../contract/profile/index.ts';
import type { Fault } from '../../core/delivery/index.ts';
import { jsonOf, noticesDocument, readJson } from '../../core/intake/index.ts';
import { isGenuine } from '../connectors/inboundEvents.ts';
import type { Context } from '../context.ts';
import { newToken, sha256 } from '../security/tokens.ts';
import { findConnection, type ConnectionRecord } from '../store/connections.ts';
import { takeSubmission } from '../intake/take.ts';
import { DUPLICATE_ENTRY, inTransaction, nothingAlongside } from '../store/database.ts';
import { noteHeard, shopOfConnection } from '../store/shops.ts';
import { keepExample, takeShopEvent } from './shops.ts';
import { addSource, findAnySource, findSource, publishSource, saveSourceDraft } from '../store/sources.ts';
import {
  addInboundEventAddress,
  findInboundEventAddress,
  markProven,
  inboundEventAddressOf,
  removeInboundEventAddress,
  setRegistered,
} from '../store/inboundEvents.ts';
import { connectorFor, openAccess, partsFor } from './open.ts';
import { profileFor } from './profiles.ts';

/** Has another system tell us what happens there: registers an address of ours at it. @returns what went wrong; null for nothing */
export async function startInboundEvents(
  context: Context,
  connection: ConnectionRecord,
  alongside = nothingAlongside,
): Promise<Fault | null> {
  const { store, secrets, config, now } = context;
  if (await inboundEventAddressOf(store.db, connection.id)) return null;
  const opened = await openAccess(context, connection);
  if (!opened.ok) return opened.fault;
  const token = newToken();
  // Stored first: the other system may try it before it has answered us.
  await addInboundEventAddress(store.db, { connectionId: connection.id, tokenHash: sha256(token), now: now() });
  const connector = connectorFor(partsFor(context, opened.value));
  const registered = await connector.register(`${config.publicUrl}/notices/${token}`, newToken());
  if (!registered.ok) {
    await removeInboundEventAddress(store.db, connection.id);
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
export async function stopInboundEvents(
  context: Context,
  connection: ConnectionRecord,
  alongside = nothingAlongside,
): Promise<Fault | null> {
  const { store } = context;
  const address = await inboundEventAddressOf(store.db, connection.id);
  if (!address) return null;
  await inTransaction(store, async (db) => {
    await removeInboundEventAddress(db, connection.id);
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

/** Takes what another system tells us: each event is a submission, and what follows on it is the workers' business. */
export async function takeInboundEvents(
  context: Context,
  token: string,
  { header, body }: { header: (name: string) => string; body: Uint8Array },
): Promise<Taken> {
  const { store, secrets, now } = context;
  const address = await findInboundEventAddress(store.db, sha256(token));
  const connection = address && (await findConnection(store.db, address.connectionId));
  if (!connection) return 'unknown address';
  if (address.secret === null) return 'not ready';
  const { webhooks } = profileFor(connection);
  if (!webhooks) return 'unknown address';
  if (!isGenuine(webhooks, { header, body, secret: secrets.open(address.secret), now: now() })) return 'not genuine';
  const read = readJson(new TextDecoder().decode(body));
  if (!read.ok) return 'not readable';
  const parsed = jsonOf(read.value);
  await markProven(store.db, connection.id, now());
  const shop = await shopOfConnection(store.db, connection.id);
  if (shop !== null) return takeFromShop(context, shop, parsed);
  const source = await sourceOf(context, connection, webhooks);
  const taken = await takeSubmission(context, {
    ...source,
    contentType: 'application/json',
    payload: { kind: 'json', json: parsed, files: [] },
    headers: {},
    idempotencyKey: null,
    known: {},
    shownAt: null,
  });
  return taken.ok ? 'taken' : 'not readable';
}

/** Takes what a shop tells that is a source: as an example until it is published, and later where it is paused. */
async function takeFromShop(context: Context, sourceId: string, json: unknown): Promise<Taken> {
  const { store, now } = context;
  const source = await findSource(store.db, sourceId);
  if (!source) return 'unknown address';
  if (source.live === null) await keepExample(context, source, json);
  else if (source.state !== 'live') return 'not ready';
  else await takeShopEvent(context, source, json);
  await noteHeard(store.db, sourceId, now());
  return 'taken';
}

/** The source of what a connection tells; made when it is first needed, and anew when its profile tells things in another way. */
async function sourceOf(context: Context, { id, name }: ConnectionRecord, webhooks: Webhooks) {
  const { store, newId, now } = context;
  const { events, id: eventId, kind, email, at, means } = webhooks;
  const reads = { ...(events ? { events } : {}), id: eventId, kind, email, ...(at ? { at } : {}), means };
  const document = noticesDocument(id, reads);
  const publicId = `t-${id}`;
  const known = await findAnySource(store.db, publicId);
  if (known?.live && known.liveVersion !== null && JSON.stringify(known.live) === JSON.stringify(document))
    return { sourceId: known.id, sourceVersion: known.liveVersion, document };
  await inTransaction(
    store,
    async (db) => {
      const there = await findAnySource(db, publicId);
      const sourceId = there?.id ?? newId();
      if (there) await saveSourceDraft(db, sourceId, document, null, now());
      else await addSource(db, { id: sourceId, publicId, name: `What ${name} tells`, draft: document, now: now() });
      await publishSource(db, { id: sourceId, liveVersion: there?.liveVersion ?? null, draft: document }, now());
    },
    // Two that are told at the same time: the second finds it made.
    [DUPLICATE_ENTRY],
  );
  const made = await findAnySource(store.db, publicId);
  if (!made || made.liveVersion === null) throw new Error('the source of notices is missing');
  return { sourceId: made.id, sourceVersion: made.liveVersion, document };
}

/** Whether a kind of service can tell us what happens there. */
export const sendsInboundEvents = ({ webhooks }: Profile): boolean => webhooks !== undefined;
