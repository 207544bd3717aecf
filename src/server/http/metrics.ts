import { collectDefaultMetrics, Gauge, Registry } from 'prom-client';
import type { Context } from '../context.ts';
import { groupHeld } from '../store/activity.ts';
import { countDeliveries, readStatusFigures } from '../store/figures.ts';
import { readDisks } from '../watching/machine.ts';
import { WORKER_GONE_MS } from '../work/scheduled.ts';

/** Figures for Prometheus. What workers do is read from the database, so that one address tells of all of them. */
export function createMetrics({ store, now, config }: Context): Registry & { collectFigures: () => Promise<void> } {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry, prefix: 'iwashi_server_' });
  const gauge = (name: string, help: string, labelNames: string[] = []) =>
    new Gauge({ name: `iwashi_${name}`, help, labelNames, registers: [registry] });

  const deliveries = gauge('deliveries', 'Deliveries by state', ['state']);
  const held = gauge('held', 'Held deliveries by cause and connection', ['cause', 'connection']);
  const workers = gauge('workers', 'Workers that are alive');
  const waiting = gauge('waiting', 'Submissions, mails and deliveries that wait to be worked on');
  const last = gauge('last_delivery_timestamp_seconds', 'When something was delivered last; 0 for never');
  const oldest = gauge('oldest_waiting_seconds', 'For how long the oldest waiting submission or delivery has been due');
  const disks = gauge('disk_free_bytes', 'Room on the disks that are written to', ['holds']);

  const collect = async () => {
    const at = now();
    const figures = await readStatusFigures(store.db, at, WORKER_GONE_MS);
    workers.set(figures.workers);
    waiting.set(figures.waiting);
    last.set((figures.lastDeliveryAt ?? 0) / 1000);
    const { byState, oldestDueAt } = await countDeliveries(store.db);
    for (const { state, count } of byState) deliveries.set({ state }, count);
    oldest.set(oldestDueAt === null ? 0 : Math.max(0, at - oldestDueAt) / 1000);
    for (const { holds, freeBytes } of await readDisks(config)) disks.set({ holds }, freeBytes);
    held.reset();
    for (const { cause, connectionName, count } of await groupHeld(store.db))
      held.set({ cause, connection: connectionName }, count);
  };
  return Object.assign(registry, { collectFigures: collect });
}
