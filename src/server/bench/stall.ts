import { createServer } from 'node:http';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { startWorker } from '../work/worker.ts';
import { profileOf } from '../connectors/registry.ts';
import { saveConnection } from '../connecting/adding.ts';
import { moveConnection, findConnection } from '../store/connections.ts';
import { addRoute, moveRoute, findRoute, publishRoute } from '../store/routes.ts';
import { skyLetterRoute } from '../demo/documents.ts';
import { compare, type Comparison } from './compare.ts';
import { acceptMany, benchSetting } from './setting.ts';

const COUNT = 300;
const ROUNDS = 3;

/**
 * The speed of a good destination while another one stalls (it takes requests and never answers), against its speed when
 * nothing else is to be delivered.
 */
export async function benchStall(): Promise<Comparison> {
  const setting = await benchSetting();
  const { context, source, ternPost, connectionId } = setting;
  const { store, now, newId } = context;

  const stalled = createServer(() => {});
  stalled.listen(0, '127.0.0.1');
  await once(stalled, 'listening');
  const port = (stalled.address() as AddressInfo).port;
  const good = await findConnection(store.db, connectionId);
  const entered = {
    profile: profileOf('tern-post'),
    name: 'Stalled',
    baseUrl: `http://127.0.0.1:${port}`,
    credentials: { key: ternPost.key },
  };
  const stalledId = await saveConnection(context, store.db, entered, {
    result: { ok: true, account: 'Stalled', lists: 0, groups: 0, tags: 0, fields: 0, kinds: 0, at: '' },
    catalogue: good?.catalogue ?? null,
    tokens: null,
  });
  const routeId = newId();
  const wired = skyLetterRoute(source.id, stalledId);
  const draft = { ...wired, consent: { ...wired.consent, confirmedBy: { by: 'nobody' as const } } };
  await addRoute(store.db, { id: routeId, name: 'Stalled', draft, now: now() });
  const route = await findRoute(store.db, routeId);
  if (route) await publishRoute(store.db, route, now());

  async function measure(withStalled: boolean): Promise<number> {
    // Paused, its deliveries are planned all the same: only the sending differs.
    await moveConnection(store.db, stalledId, withStalled ? 'resumed' : 'paused');
    await acceptMany(setting, COUNT);
    const started = performance.now();
    const worker = startWorker(context, []);
    for (;;) {
      const [rows] = await store.pool.query(
        `SELECT (SELECT COUNT(*) FROM submissions WHERE state = 'received')
          + (SELECT COUNT(*) FROM deliveries WHERE state <> 'delivered' AND connection_id = ?) AS open`,
        [connectionId],
      );
      if ((rows as { open: number }[])[0]?.open === 0) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    const speed = (COUNT * 1000) / (performance.now() - started);
    stalled.closeAllConnections();
    await worker.stop();
    await store.pool.query('DELETE FROM deliveries WHERE connection_id = ?', [stalledId]);
    return speed;
  }

  const comparison = await compare('a second', ROUNDS, {
    iwashi: () => measure(true),
    reference: () => measure(false),
  });
  await moveRoute(store.db, routeId, 'paused');
  stalled.close();
  return comparison;
}
