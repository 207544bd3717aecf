import { isoDay } from '../../core/isoTime.ts';
import { PROGRESS } from '../../contract/submissions.ts';
import { CAUSE_NAMES, DELIVERY_STATES } from '../../core/delivery/index.ts';
import { readConfig } from '../config.ts';
import { createContext, type Context } from '../context.ts';
import { createApp } from '../http/app.ts';
import { DIMENSIONS } from '../../core/insight/index.ts';
import { hashPassword } from '../security/passwords.ts';
import { seedPeople } from '../seed/seed.ts';
import { addAccount, readFact, writeFact } from '../store/accounts.ts';
import { rowsOf, type Store } from '../store/database.ts';
import { findSourceByPublicId } from '../store/sources.ts';
import { makeBusyDays } from './busyDays.ts';
import { migrateStore } from '../store/migrating.ts';
import { sql } from 'drizzle-orm';
import { startWorker } from '../work/worker.ts';
import { benchSetting, visitorEntries, type Setting } from './setting.ts';
import { takeSubmission } from '../intake/take.ts';

/** What is measured first: how much pages grow from there is what matters. */
const SMALL = 10_000;
/** So many events happen at forms on each of the last 28 days. */
const A_DAY = 1_000_000;
const TEMPLATES = 60;
const ASKED = 20;
const EMAIL = 'bench@pellam-ridge.example';
const PASSWORD = 'lantern hill comet';

/** Milliseconds, the 95th percentile, by what is asked for. */
type Figures = Record<string, number>;

/**
 * Prints how long every list, search, filter and page takes with so many people, and how much it grew since there were few. The
 * database is made once, and kept.
 */
export async function printPages(people: number): Promise<void> {
  const context = createContext(readConfig(process.env));
  const { store } = context;
  await migrateStore(store, context.config.root);
  const has = async () =>
    Number((await rowsOf<{ n: number }>(store.db, sql`SELECT COUNT(*) AS n FROM contacts`))[0]?.n);
  if ((await has()) === 0) {
    await makeTemplates(await benchSetting());
    await grow(store, SMALL - (await has()));
    await store.pool.query('CREATE TABLE bench_small (name VARCHAR(60) PRIMARY KEY, ms DOUBLE NOT NULL)');
    for (const [name, ms] of Object.entries(await measure(context)))
      await store.pool.query('INSERT INTO bench_small VALUES (?, ?)', [name, ms]);
  }
  await grow(store, people - (await has()));
  const small = new Map(
    (await rowsOf<{ name: string; ms: number }>(store.db, sql`SELECT name, ms FROM bench_small`)).map((row) => [
      row.name,
      row.ms,
    ]),
  );
  if ((await findSourceByPublicId(store.db, 'busy-0')) === null) {
    const { noted, counted } = await makeBusyDays(context, A_DAY, (made) => process.stderr.write(`\r${made} events `));
    console.log(
      `count    ${Math.round(noted)} events noted a second by one after the other, ${Math.round(counted)} counted`,
    );
  }
  const figures = await measure(context);
  console.log(`pages    95th percentile of ${ASKED}, with ${await has()} people (and with ${SMALL})`);
  for (const [name, ms] of Object.entries(figures).sort(([, one], [, other]) => other - one))
    console.log(`         ${ms.toFixed(1).padStart(8)} ms (${(small.get(name) ?? 0).toFixed(1)})  ${name}`);
}

async function grow(store: Store, count: number): Promise<void> {
  if (count <= 0) return;
  const began = Date.now();
  await seedPeople(store, count, (made) => {
    process.stderr.write(`\r${made} of ${count} made, ${Math.round((Date.now() - began) / 1000)} s `);
  });
  process.stderr.write('\n');
}

/** Some people whose history can be multiplied: it went through everything. */
async function makeTemplates({ context, source }: Setting): Promise<void> {
  for (let at = 0; at < TEMPLATES; at += 1)
    await takeSubmission(context, {
      sourceId: source.id,
      sourceVersion: 1,
      document: source.live ?? source.draft,
      contentType: '',
      payload: {
        kind: 'entries',
        entries: [
          ...visitorEntries().filter(([name]) => name !== 'name'),
          ['name', `Oona Duskwater${at}`],
          ['form_page', `https://bench.example/stories/${at % 7}?utm_campaign=c${at % 5}`],
        ],
        files: [],
      },
      headers: { 'user-agent': at % 2 ? 'Mozilla/5.0 (Linux; Android 14; Mobile)' : 'Mozilla/5.0 (X11; Linux x86_64)' },
      idempotencyKey: null,
      known: {},
      shownAt: null,
    });
  const worker = startWorker(context, []);
  const { pool } = context.store;
  for (;;) {
    const [left] = await pool.query(
      "SELECT id FROM submissions WHERE state = 'received' UNION SELECT id FROM deliveries WHERE state NOT IN ('delivered', 'dropped') LIMIT 1",
    );
    if ((left as unknown[]).length === 0) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  await worker.stop();
}

async function measure(context: Context): Promise<Figures> {
  const { store, newId, now } = context;
  const app = createApp(context, 1_000_000);
  if ((await readFact(store.db, 'bench account')) === null) {
    await addAccount(store.db, {
      id: newId(),
      email: EMAIL,
      name: 'Bench',
      passwordHash: await hashPassword(PASSWORD),
      createdAt: now(),
    });
    await writeFact(store.db, 'bench account', 'yes');
  }
  const server = { incoming: { socket: { remoteAddress: '127.0.0.1', remotePort: 1, remoteFamily: 'IPv4' } } };
  const ask = (path: string, init: RequestInit = {}) =>
    app.request(`http://127.0.0.1${path}`, init, server) as Promise<Response>;
  const signedIn = await ask('/api/session', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: EMAIL, password: PASSWORD }),
  });
  const cookie = (signedIn.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  const [person] = await rowsOf<{ id: string; email: string; name: string }>(
    store.db,
    sql`SELECT id, email, name FROM contacts ORDER BY id LIMIT 1 OFFSET 5000`,
  );
  const [some] = await rowsOf<{ submission: string; connection: string; source: string }>(
    store.db,
    sql`SELECT s.id AS submission, d.connection_id AS connection, s.source_id AS source
      FROM submissions s JOIN deliveries d ON d.submission_id = s.id WHERE s.contact_id = ${person?.id ?? ''} LIMIT 1`,
  );
  const busy = await findSourceByPublicId(store.db, 'busy-0');
  const rare = encodeURIComponent(person?.email ?? '');
  const day = 24 * 3_600_000;
  const paths: Record<string, string> = {
    overview: '/overview',
    'status line': '/status',
    sources: '/sources',
    routes: '/routes',
    connections: '/connections',
    'lines of sources': '/sources/lines',
    'lines of routes': '/routes/lines',
    'lines of connections': '/connections/lines',
    'a source': `/sources/${some?.source}`,
    'what stops without a source': `/sources/${some?.source}/stops`,
    'samples of a source': `/sources/${some?.source}/samples`,
    'known samples of a source': `/sources/${some?.source}/known-samples`,
    ...Object.fromEntries(
      ['ways', 'pages', 'silence', 'set-aside', 'variants'].map((what) => [
        `${what} of a source`,
        `/sources/${some?.source}/${what}`,
      ]),
    ),
    ...Object.fromEntries(DIMENSIONS.map((by) => [`insight by ${by}`, `/insight?by=${by}`])),
    'insight of a source': `/insight?by=page&source=${busy?.id ?? some?.source}`,
    'insight by the hour': `/insight?by=page&per=hour`,
    'insight of a year': `/insight?by=page&per=week&from=${isoDay(now() - 364 * day)}&to=${isoDay(now())}`,
    'insight in India': '/insight?by=page&zone=Asia/Kolkata',
    'places of a person': `/people/${person?.id}/places`,
    'a connection': `/connections/${some?.connection}`,
    'notices of a connection': `/connections/${some?.connection}/notices`,
    changes: '/changes',
    held: '/deliveries/held',
    submissions: '/submissions?',
    'submissions of a source': `/submissions?source=${some?.source}`,
    'submissions of one address': `/submissions?text=${rare}`,
    'submissions of a common beginning': '/submissions?text=a',
    'submissions of a common domain': '/submissions?text=hilltop.example',
    'submissions of two words': `/submissions?text=${encodeURIComponent(person?.name ?? '')}`,
    'submissions of nobody': '/submissions?text=zzzzqqq',
    'submissions of a page': `/submissions?page=${encodeURIComponent('https://bench.example/stories/3')}`,
    'submissions of a campaign': '/submissions?campaign=c2',
    'submissions by telephone': '/submissions?device=phone',
    'submissions by television': '/submissions?device=television',
    'submissions of a placement': '/submissions?placement=nowhere',
    'submissions of a week': `/submissions?from=${now() - 30 * day}&to=${now() - 23 * day}`,
    ...Object.fromEntries(
      PROGRESS.map((progress) => [`submissions ${progress}`, `/submissions?progress=${encodeURIComponent(progress)}`]),
    ),
    'submissions completed, by campaign': '/submissions?reached=completed&by=campaign&value=c2',
    deliveries: '/deliveries?',
    ...Object.fromEntries(DELIVERY_STATES.map((state) => [`deliveries ${state}`, `/deliveries?state=${state}`])),
    'deliveries of a cause': `/deliveries?cause=${encodeURIComponent(CAUSE_NAMES[0])}`,
    'deliveries of a connection': `/deliveries?connection=${some?.connection}`,
    'deliveries of one address': `/deliveries?text=${rare}`,
    'deliveries of a common beginning': '/deliveries?text=a',
    people: '/people?',
    'people by one address': `/people?text=${rare}`,
    'people by a common beginning': '/people?text=a',
    'people by a domain': '/people?text=hilltop.example',
    'people by a part that is rare': `/people?text=${encodeURIComponent((person?.name ?? '').split(' ')[1]?.slice(0, 12) ?? '')}`,
    'people by two common words': '/people?text=mara%20hilltop',
    'people by nothing that there is': '/people?text=zzzzqqq',
    person: `/people/${person?.id}`,
    trail: `/submissions/${some?.submission}`,
  };
  const figures: Figures = {};
  for (const [name, path] of Object.entries(paths)) {
    const took: number[] = [];
    for (let at = 0; at < ASKED + 2; at += 1) {
      const began = performance.now();
      const response = await ask(`/api${path}`, { headers: { cookie } });
      await response.text();
      if (!response.ok) throw new Error(`${path} answered ${response.status}`);
      // The first two find what is asked for in no cache.
      if (at >= 2) took.push(performance.now() - began);
    }
    took.sort((one, other) => one - other);
    figures[name] = took[Math.floor(0.95 * took.length)] ?? 0;
  }
  return figures;
}
