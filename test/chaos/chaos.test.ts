import { plainLine } from '../../src/core/mapping/index.ts';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { DeliveryView } from '../../src/contract/deliveries.ts';
import type { Target } from '../../src/core/plan/index.ts';
import { bellTarget, enquiryTarget, schoolForm, schoolRoute } from '../../src/server/demo/documents.ts';
import type { BellbuoyState } from '../../src/standins/bellbuoy/app.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { RowbarnState } from '../../src/standins/rowbarn/state.ts';
import { sendJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { endProgram, eventually, ROOT } from '../world/processes.ts';
import { WebhookReceiver } from '../world/receiver.ts';
import { BELL, CAPSTAN, StandIn, ROWBARN, TERN_KEY, World } from '../world/world.ts';

/** People, and how often each asks; every submission goes to five connections. */
const PEOPLE = 250;
const TIMES = 4;
const DELIVERIES = PEOPLE * TIMES * 5;
const AT_ONCE = 10;

let world: World;
let operator: Operator;
let others: Awaited<ReturnType<World['others']>>;
let receiver: WebhookReceiver;
let database: OwnDatabase;
let second: ChildProcess;

beforeAll(async () => {
  database = await OwnDatabase.start();
  world = await World.start({ DATABASE_URL: database.url });
  operator = await world.operator();
  others = await world.others();
  receiver = await WebhookReceiver.start();
  second = await world.oneMoreWorker();
});
afterAll(async () => {
  await endProgram(second);
  await world.stop();
  receiver.stop();
  await database.stop();
});

/** A MariaDB of this test's own, which can be killed; whoever started it starts it again where it was. */
class OwnDatabase {
  readonly #folder = mkdtempSync('/tmp/iwashi-chaos-');
  #child: ChildProcess | null = null;
  url = '';
  #port = 3900;

  static async start(): Promise<OwnDatabase> {
    const database = new OwnDatabase();
    await database.begin();
    return database;
  }

  async begin(): Promise<void> {
    const script = `
      import { startDatabase } from ${JSON.stringify(path.join(ROOT, 'scripts/database.mjs'))};
      import { stopAll } from ${JSON.stringify(path.join(ROOT, 'scripts/processes.mjs'))};
      const { url, port, pid } = await startDatabase(process.argv[1], { port: Number(process.argv[2]) });
      process.send({ url, port });
      process.on('message', () => process.kill(pid(), 'SIGKILL'));
      process.on('SIGTERM', () => stopAll().then(() => process.exit(0)));
      process.on('disconnect', () => stopAll().then(() => process.exit(0)));
      setInterval(() => {}, 1000);`;
    this.#child = spawn(process.execPath, ['--input-type=module', '-e', script, this.#folder, String(this.#port)], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    const started = await new Promise<{ url: string; port: number }>((resolve, reject) => {
      this.#child?.once('message', resolve);
      this.#child?.once('exit', (code) => reject(new Error(`the database ended (${code})`)));
    });
    this.url = started.url;
    this.#port = started.port;
  }

  crash(): void {
    this.#child?.send('kill');
  }

  async stop(): Promise<void> {
    if (this.#child) await endProgram(this.#child);
    rmSync(this.#folder, { recursive: true, force: true });
  }
}

/** The five connections, in one route: upserts, signed records, rows, messages that cannot be asked for, and webhooks. */
async function wireAll(): Promise<{ source: Awaited<ReturnType<Operator['form']>>; targets: string[] }> {
  const ternPost = await operator.connect(world.ternPost, TERN_KEY);
  const capstan = await operator.connectTo('capstan', others.capstan.url, CAPSTAN);
  const rowbarn = await operator.connectTo('rowbarn', others.rowbarn.url, ROWBARN);
  await operator.grant(rowbarn.id);
  const bellbuoy = await operator.connectTo('bellbuoy', `${others.bellbuoy.url}${BELL}`, {});
  const webhook = await operator.connectTo('signed-webhook', receiver.url, { secret: receiver.secret });
  const source = await operator.form('Visits', { ...schoolForm(), minimumSeconds: 0 });
  const line = (to: string, field: string) =>
    plainLine({
      id: `l-${to}`,
      to,
      from: { kind: 'field' as const, field },
    });
  const plain = (target: Target, lines: Target['lines'], more: Partial<Target> = {}): Target => ({
    ...target,
    lines,
    ...more,
  });
  const document = schoolRoute(source.id, ternPost.id, [
    enquiryTarget(capstan.id),
    plain(bellTarget(rowbarn.id), [line('Email', 'email'), line('School', 'school'), line('Pupils', 'pupils')], {
      kind: 'visits',
    }),
    plain(bellTarget(bellbuoy.id), [
      plainLine({ id: 'l-text', to: 'text', from: { kind: 'text', text: '{email} {pupils}' } }),
    ]),
    plain(bellTarget(webhook.id), [line('pupils', 'pupils')]),
  ]);
  const [first, ...more] = document.targets;
  if (!first) throw new Error('no target');
  await operator.route('Visits', {
    ...document,
    mails: [],
    accepted: {},
    targets: [{ ...first, duplicates: 'update', lines: [...first.lines, line('has_telescope', 'pupils')] }, ...more],
  });
  return { source, targets: [ternPost, capstan, rowbarn, bellbuoy, webhook].map(({ id }) => id) };
}

it(`${DELIVERIES} deliveries to five failing services, with workers and the database killed: none lost, none twice, in order`, async () => {
  const { source } = await wireAll();
  const ternPost = new StandIn(world.ternPost);
  for (const standIn of [ternPost, others.capstan, others.rowbarn, others.bellbuoy]) {
    await standIn.faults({ kind: 'status', status: 500, share: 0.02 });
    await standIn.faults({ kind: 'drop', share: 0.01 });
    await standIn.faults({ kind: 'garbage', share: 0.005 });
    await standIn.faults({ kind: 'status', status: 429, share: 0.003 });
  }
  receiver.failing = 0.04;
  await others.bellbuoy.change<BellbuoyState>(() => ({ perMinute: 100_000 }));

  const accepted = new Set<string>();
  const email = (person: number) => `chaos${person}@hill.example`;
  const people = Array.from({ length: PEOPLE }, (_, person) => person);
  const visitor = async () => {
    for (let person = people.shift(); person !== undefined; person = people.shift()) {
      for (let time = 1; time <= TIMES; time += 1) {
        const values = {
          first: 'Mara',
          last: `Quill${person}`,
          email: email(person),
          school: `School ${person}`,
          pupils: String(time),
        };
        for (;;) {
          const response = await sendJson(source, values).catch(() => null);
          if (response?.status === 202) {
            accepted.add(((await response.json()) as { submission: string }).submission);
            break;
          }
          await new Promise((resolve) => setTimeout(resolve, 100));
        }
      }
    }
  };
  const visitors = Promise.all(Array.from({ length: AT_ONCE }, visitor));

  const open = async () => {
    const [row] = await world.rows<{ count: number }>(
      `SELECT (SELECT COUNT(*) FROM submissions WHERE state = 'received')
        + (SELECT COUNT(*) FROM deliveries WHERE state IN ('queued', 'sending', 'retrying')) AS count`,
    );
    return row?.count ?? 0;
  };
  const ended = async () => {
    const [row] = await world.rows<{ count: number }>(
      "SELECT COUNT(*) AS count FROM deliveries WHERE state = 'delivered'",
    );
    return row?.count ?? 0;
  };
  const until = (share: number) =>
    eventually(
      () => ended().catch(() => 0),
      (count) => count >= DELIVERIES * share,
      180_000,
    );

  // Kill a worker again and again, and the database once, while all of it goes on.
  for (const share of [0.1, 0.25, 0.55, 0.75]) {
    await until(share);
    await endProgram(second, 'SIGKILL');
    second = await world.oneMoreWorker();
    if (share === 0.25) {
      await world.kill('worker');
      await world.startWorker();
    }
    if (share === 0.55) database.crash();
  }
  await visitors;
  await Promise.all([ternPost, others.capstan, others.rowbarn, others.bellbuoy].map((standIn) => standIn.noFaults()));

  // What may have arrived or not waits for a person, who looks there and says which.
  const settle = async () => {
    const held = await world.rows<{ id: string; cause: string; intent: string }>(
      "SELECT id, cause, intent FROM deliveries WHERE state = 'held'",
    );
    const { messages } = await others.bellbuoy.inside<BellbuoyState>();
    for (const { id, cause, intent } of held) {
      const { fields } = JSON.parse(intent) as { fields: { text?: string } };
      const isThere = messages.some(({ text }) => text === fields.text);
      await operator.post(`/deliveries/${id}/${cause === 'unclear' && isThere ? 'arrived' : 'retry'}`);
    }
    return held.length;
  };
  await eventually(
    async () => (await settle()) + (await open()),
    (count) => count === 0,
    240_000,
  ).catch(async (error: unknown) => {
    // What is open, and what is known of the services, tells why.
    const left = await world.rows(
      "SELECT connection_id, state, cause, tries, due_at, lease_until, lease_owner FROM deliveries WHERE state NOT IN ('delivered', 'dropped')",
    );
    const health = await world.rows('SELECT * FROM connection_health');
    throw new Error(`${String(error)} at ${Date.now()}: ${JSON.stringify({ left, health })}`);
  });

  expect(accepted.size).toBe(PEOPLE * TIMES);
  const states = await world.rows<{ state: DeliveryView['state']; count: number }>(
    'SELECT state, COUNT(*) AS count FROM deliveries GROUP BY state',
  );
  expect(states.map(({ state, count }) => [state, count])).toEqual([['delivered', DELIVERIES]]);
  // The figures that were kept as deliveries arrived are the ones that are counted afterwards.
  expect(
    await world.rows(
      `SELECT day, route_id, source_id, connection_id, CAST(SUM(delivered) AS INT) AS count FROM delivery_counts
        GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4`,
    ),
  ).toEqual(
    await world.rows(
      `SELECT CAST(FLOOR(d.ended_at / 86400000) AS INT) AS day, d.route_id, s.source_id, d.connection_id, COUNT(*) AS count
        FROM deliveries d JOIN submissions s ON s.id = d.submission_id WHERE d.state = 'delivered'
        GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4`,
    ),
  );

  // Each person's four visits, in their order, once each, at every service.
  const expected = Array.from({ length: PEOPLE }, (_, person) =>
    Array.from({ length: TIMES }, (__, time) => `${email(person)} ${time + 1}`),
  );
  const perPerson = (found: string[]) =>
    Array.from({ length: PEOPLE }, (_, person) => found.filter((text) => text.startsWith(`${email(person)} `)));
  const { records } = await others.capstan.inside<CapstanState>();
  expect(perPerson(records.map(({ cells }) => `${cells.mail} ${cells.heads}`))).toEqual(expected);
  const rows = (await others.rowbarn.inside<RowbarnState>()).sheets.find(({ id }) => id === 'visits')?.rows ?? [];
  expect(perPerson(rows.map(({ cells }) => `${cells.Email} ${cells.Pupils}`))).toEqual(expected);
  const { messages } = await others.bellbuoy.inside<BellbuoyState>();
  expect(perPerson(messages.map(({ text }) => text))).toEqual(expected);
  expect(perPerson(receiver.taken.map(({ email: address, pupils }) => `${String(address)} ${String(pupils)}`))).toEqual(
    expected,
  );
  const members = await world.members();
  expect(members).toHaveLength(PEOPLE);
  expect(members.filter(({ fields }) => fields.has_telescope !== TIMES)).toEqual([]);
  expect(members.filter(({ changes }) => changes !== TIMES)).toEqual([]);
}, 400_000);
