import type { ShopView } from '../../contract/shops.ts';
import { isoTime } from '../../core/isoTime.ts';
import type { ShopDocument } from '../../core/intake/index.ts';
import { profileFor } from '../connecting/profiles.ts';
import type { Context } from '../context.ts';
import { findConnection } from '../store/connections.ts';
import { readLastReceived } from '../store/counting.ts';
import { countBySource, DAY_MS, HOUR_MS } from '../store/figures.ts';
import { findShop } from '../store/shops.ts';
import type { SourceRecord } from '../store/sources.ts';
import { rhythmsOf, silences } from './silence.ts';

const RHYTHM_DAYS = 28;
/** What is younger than this has no usual day yet. */
const LEAST_DAYS = 3;

/** How a shop that is a source stands, by what is known here. */
export async function shopView(context: Context, source: SourceRecord, document: ShopDocument): Promise<ShopView> {
  const { store, now, config } = context;
  const thisHour = Math.floor(now() / HOUR_MS) * HOUR_MS;
  const [connection, shop, last, today, month, silent, hour, rhythms] = await Promise.all([
    findConnection(store.db, document.connectionId),
    findShop(store.db, source.id),
    readLastReceived(store.db, [source.id]),
    countBySource(store.db, now() - DAY_MS),
    countBySource(store.db, now() - RHYTHM_DAYS * DAY_MS),
    silences(context, [source]),
    countBySource(store.db, thisHour),
    rhythmsOf(store.db, [source.id], now()),
  ]);
  const described = connection ? profileFor(connection).shop : undefined;
  const days = Math.min(RHYTHM_DAYS, (now() - source.createdAt) / DAY_MS);
  const silence = silent.get(source.id);
  const usual = rhythms.get(source.id)?.[new Date(now()).getUTCHours()];
  return {
    connection: connection && { id: connection.id, name: connection.name, state: connection.state },
    lastAt: isoTime(last.get(source.id) ?? null),
    heardAt: isoTime(shop?.heardAt ?? null),
    askedAt: isoTime(shop?.askedAt ?? null),
    askedEverySeconds: described?.changes ? config.shopAskMs / 1000 : 0,
    problem: shop?.problem ?? '',
    missed: shop?.missed ?? 0,
    missedAt: isoTime(shop?.missedAt ?? null),
    today: today.get(source.id) ?? 0,
    usualADay: days < LEAST_DAYS ? null : Math.round(((month.get(source.id) ?? 0) / days) * 10) / 10,
    thisHour: hour.get(source.id) ?? 0,
    usualThisHour: usual === undefined || days < LEAST_DAYS ? null : Math.round(usual * 10) / 10,
    silentSince: silence ? new Date(silence.since).toISOString() : null,
    kinds: described?.kinds ?? {},
    canFetchCustomers: described?.customers !== undefined,
  };
}
