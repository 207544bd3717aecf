import { Agent, request } from 'undici';
import { startWorker } from '../work/worker.ts';
import { compare, perSecond, type Comparison } from './compare.ts';
import { acceptMany, benchSetting, visitorEntries } from './setting.ts';

const COUNT = 300;
const ROUNDS = 3;

/** Accepted to delivered (planned, written, read back, compared, all of it stored) against a bare loop: read a row, make the one request, update the row. */
export async function benchDeliver(): Promise<Comparison> {
  const setting = await benchSetting();
  const { context, ternPost } = setting;
  const { pool } = context.store;
  const { concurrency } = context.config;
  await pool.query('CREATE TABLE IF NOT EXISTS bench_loop (id INT PRIMARY KEY, body TEXT NOT NULL, done INT NOT NULL)');
  const dispatcher = new Agent({ connections: concurrency });
  const forget = () =>
    fetch(`${ternPost.url}/inside.json`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: '{"members":[]}',
    });

  async function iwashi(): Promise<number> {
    await forget();
    await acceptMany(setting, COUNT);
    const started = performance.now();
    const worker = startWorker(context);
    for (;;) {
      const [rows] = await pool.query(
        "SELECT (SELECT COUNT(*) FROM submissions WHERE state = 'received') + (SELECT COUNT(*) FROM deliveries WHERE state <> 'delivered') AS open",
      );
      if ((rows as { open: number }[])[0]?.open === 0) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
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
