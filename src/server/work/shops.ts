import type { ShopDocument } from '../../core/intake/index.ts';
import { changesAfter, openShop, saidOf, takeShopEvent } from '../connecting/shops.ts';
import type { Context } from '../context.ts';
import { endAsking, takeShop, type ShopRecord } from '../store/shops.ts';
import { findSource, firstPublishedAt } from '../store/sources.ts';
import { runBeats } from './beats.ts';

const BEAT_MS = 1_000;
/** For so long a shop is a worker's that said nothing of it. */
const LEASE_MS = 60_000;
/** What is younger may still be on its way by itself: it is taken, but not counted as missed. */
const ON_ITS_WAY_MS = 30_000;

/** Asks shops what happened there, should they not have told it: each every so often, one worker at a time. */
export const runShops = (context: Context): { stop(): Promise<void> } =>
  runBeats(context, BEAT_MS, 'asking a shop', async () => {
    const shop = await takeShop(context.store.db, context.now(), LEASE_MS);
    if (!shop) return false;
    await askOne(context, shop);
    return true;
  });

/** Takes what happened in a shop since it was last asked. What was told before is known by its id. */
async function askOne(context: Context, { sourceId, position }: ShopRecord): Promise<void> {
  const { store, now, config } = context;
  const end = (part: { position: string; problem: string; missed: number; soon?: boolean }) => {
    const { soon = false, ...rest } = part;
    return endAsking(store.db, sourceId, { ...rest, now: now(), dueAt: soon ? now() : now() + config.shopAskMs });
  };
  const source = await findSource(store.db, sourceId);
  const since = await firstPublishedAt(store.db, sourceId);
  if (source?.live?.kind !== 'shop' || since === null) return end({ position, problem: '', missed: 0 });
  const { connectionId } = source.live satisfies ShopDocument;
  const opened = await openShop(context, connectionId);
  if (!opened.ok) return end({ position, problem: saidOf(opened.fault), missed: 0 });
  const { shop, line } = opened.value;
  if (!shop.changes) return end({ position, problem: '', missed: 0 });
  const reply = await changesAfter(line, shop.changes, position);
  if (!reply.ok) return end({ position, problem: saidOf(reply.fault), missed: 0 });
  let [last, missed] = [position, 0];
  for (const { json, position: at, at: happenedAt } of reply.value.happened) {
    // What was before the shop was a source is its customers' past, which is fetched apart.
    if (happenedAt === null || happenedAt >= since) {
      const told = await takeShopEvent(context, source, json);
      if (told === 'taken' && happenedAt !== null && happenedAt < now() - ON_ITS_WAY_MS) missed += 1;
    }
    if (at !== '') last = at;
  }
  await end({ position: last, problem: '', missed, soon: reply.value.more });
}
