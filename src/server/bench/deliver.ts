import { Agent, request } from 'undici';
import { moveConnection } from '../store/connections.ts';
import { startWorker } from '../work/worker.ts';
import { atOnce } from '../connectors/access.ts';
import { profileOf } from '../connectors/registry.ts';
import { compare, perSecond, type Comparison } from './compare.ts';
import { acceptMany, benchSetting, visitorEntries } from './setting.ts';

const COUNT = 2000;
const ROUNDS = 3;

const ONE_BY_ONE = 'bench-one-by-one';

/** Accepted to delivered: planned, written, read back, compared, all of it stored. */
export const benchPath = () => measure(ONE_BY_ONE, 'accepted');
/** Planned to delivered, one by one, as most services take people. */
export const benchDeliver = () => measure(ONE_BY_ONE, 'planned');
/** The same, several people by one request, as the profile of Tern Post says. */
export const benchBatch = () => measure('tern-post', 'planned');

/** Against a bare loop at equal concurrency: read a row, make the one request, update the row. */
async function measure(profile: string, from: 'accepted' | 'planned'): Promise<Comparison> {
  const setting = await benchSetting();
  const { context, ternPost, connectionId } = setting;
  const { pool } = context.store;
  const concurrency = atOnce(profileOf('tern-post'));
  await pool.query('UPDATE connections SET profile = ? WHERE id = ?', [profile, connectionId]);
  await pool.query('CREATE TABLE IF NOT EXISTS bench_loop (id INT PRIMARY KEY, body TEXT NOT NULL, done INT NOT NULL)');
  const dispatcher = new Agent({ connections: concurrency });
  const forget = () =>
    fetch(`${ternPost.url}/inside.json`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: '{"members":[]}',
    });

  async function noneOf(rows: string): Promise<void> {
    for (;;) {
      const [found] = await pool.query(`SELECT 1 FROM ${rows} LIMIT 1`);
      if ((found as unknown[]).length === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  async function iwashi(): Promise<number> {
    await forget();
    await acceptMany(setting, COUNT);
    await moveConnection(context.store.db, connectionId, from === 'planned' ? 'paused' : 'resumed');
    let started = performance.now();
    const worker = startWorker(context, []);
    if (from === 'planned') {
      await noneOf("submissions WHERE state = 'received'");
      await moveConnection(context.store.db, connectionId, 'resumed');
      started = performance.now();
    }
    await noneOf("submissions WHERE state = 'received'");
    await noneOf("deliveries WHERE state IN ('queued', 'sending', 'retrying', 'held', 'waiting')");
    const speed = (COUNT * 1000) / (performance.now() - started);
    await worker.stop();
    return speed;
  }

  async function reference(): Promise<number> {
    await forget();
    await pool.query('DELETE FROM bench_loop');
    for (let index = 0; index < COUNT; index += 1) {
      const fields = Object.fromEntries(visitorEntries());
      const body = JSON.stringify({
        email: fields.email,
        fields: { given: 'Mara', family: 'Quill', signup_page: 'sky-letter', has_telescope: 1 },
        lists: ['L-100'],
        groups: ['G-110'],
        tags: ['newsletter'],
      });
      await pool.execute('INSERT INTO bench_loop VALUES (?, ?, 0)', [index, body]);
    }
    return perSecond(COUNT, concurrency, async (index) => {
      const [rows] = await pool.execute('SELECT body FROM bench_loop WHERE id = ?', [index]);
      const { body } = (rows as { body: string }[])[0] ?? { body: '' };
      const response = await request(`${ternPost.url}/v1/members`, {
        method: 'PUT',
        dispatcher,
        headers: { 'content-type': 'application/json', 'x-tern-key': ternPost.key },
        body,
      });
      await response.body.dump();
      await pool.execute('UPDATE bench_loop SET done = 1 WHERE id = ?', [index]);
    });
  }

  const comparison = await compare('a second', ROUNDS, { iwashi, reference });
  await dispatcher.close();
  return comparison;
}
