import type { Profile, Shop } from '../../contract/profile/index.ts';
import type { Fault } from '../../core/delivery/index.ts';
import { eventKindsIn, shopAsPosts, type ShopDocument } from '../../core/intake/index.ts';
import type { Line } from '../connectors/call.ts';
import type { CodeParts } from '../connectors/code/index.ts';
import type { Reply } from '../connectors/connector.ts';
import { readChanges, type Happened } from '../connectors/shop.ts';
import type { Next } from '../connectors/paging.ts';
import type { Context } from '../context.ts';
import { takeSubmission, whyNot, type Taken } from '../intake/take.ts';
import { findConnection, type ConnectionRecord } from '../store/connections.ts';
import type { SourceRecord } from '../store/sources.ts';
import { noteArrival } from '../store/webhooks.ts';
import { openAccess, partsFor } from './open.ts';
import { profileFor } from './profiles.ts';

/** A shop that is connected, and can be asked. */
export interface OpenShop {
  connection: ConnectionRecord;
  profile: Profile;
  shop: Shop;
  line: CodeParts;
}

/** Opens the connection of a shop. */
export async function openShop(context: Context, connectionId: string): Promise<Reply<OpenShop>> {
  const connection = await findConnection(context.store.db, connectionId);
  if (!connection) return unavailable('The connection was removed.');
  const profile = profileFor(connection);
  const { shop } = profile;
  if (!shop) return unavailable(`${profile.name} is not described as a shop.`);
  if (connection.state === 'paused') return unavailable('The connection is paused.');
  const opened = await openAccess(context, connection);
  if (!opened.ok) return opened;
  return { ok: true, value: { connection, profile, shop, line: partsFor(context, opened.value) } };
}

const unavailable = (said: string): Reply<never> => ({
  ok: false,
  fault: { cause: 'unavailable', said, waitMs: null } satisfies Fault,
});

/** A fault as people read it. */
export const saidOf = ({ said, cause }: Fault): string => (said === '' ? cause : said).slice(0, 300);

/** What became of one thing that happened in a shop. */
export type TakenAs = 'taken' | 'came before' | 'ignored' | 'not taken';

/**
 * Takes one thing that happened in a shop, however it was learnt of: once, by its id. What cannot be taken is kept to be looked at, and
 * is not asked for again.
 */
export async function takeShopEvent(context: Context, source: SourceRecord, json: unknown): Promise<TakenAs> {
  const document = source.live as ShopDocument;
  const taken = await takeSubmission(context, {
    sourceId: source.id,
    sourceVersion: source.liveVersion ?? 0,
    document,
    contentType: 'application/json',
    payload: { kind: 'json', json, files: [] },
    headers: {},
    idempotencyKey: null,
    known: {},
    shownAt: null,
  });
  if (!taken.ok) {
    await note(context, source, json, { outcome: 'not valid', why: whyNot(taken) });
    return 'not taken';
  }
  if (taken.ids.length === 0) {
    const kinds = eventKindsIn(shopAsPosts(document), json).join(', ');
    await note(context, source, json, { outcome: 'ignored', why: `Events of this kind are ignored: ${kinds}.` });
    return 'ignored';
  }
  return cameBefore(taken) ? 'came before' : 'taken';
}

const cameBefore = ({ repeated, ids }: Extract<Taken, { ok: true }>): boolean => repeated.length === ids.length;

async function note(
  { store, newId, now, log }: Context,
  { id: sourceId }: SourceRecord,
  json: unknown,
  { outcome, why }: { outcome: 'not valid' | 'ignored' | 'sample'; why: string },
): Promise<void> {
  await noteArrival(store.db, {
    id: newId(),
    sourceId,
    receivedAt: now(),
    outcome,
    why: why.slice(0, 300),
    contentType: 'application/json',
    headers: {},
    body: JSON.stringify(json),
    submissions: [],
  }).catch((error: unknown) => log.warn({ err: error }, 'what a shop told could not be noted'));
}

/** Keeps something that happened as an example. */
export const keepExample = (context: Context, source: SourceRecord, json: unknown): Promise<void> =>
  note(context, source, json, { outcome: 'sample', why: '' });

/** So many pages of what happened are read at a time. */
const PAGES_TOGETHER = 20;

/** Everything that happened after a position, as far as it is read at once. @returns also whether there is more */
export async function changesAfter(
  line: Line,
  changes: NonNullable<Shop['changes']>,
  after: string,
): Promise<Reply<{ happened: Happened[]; more: boolean }>> {
  const happened: Happened[] = [];
  let next: Next | null = null;
  for (let page = 0; page < PAGES_TOGETHER; page += 1) {
    const reply: Awaited<ReturnType<typeof readChanges>> = await readChanges(line, changes, after, { next, page });
    if (!reply.ok) return reply;
    happened.push(...reply.value.happened);
    next = reply.value.next;
    if (next === null) return { ok: true, value: { happened, more: false } };
  }
  return { ok: true, value: { happened, more: true } };
}
