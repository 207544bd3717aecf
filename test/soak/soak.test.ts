import autocannon from 'autocannon';
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { SourceView } from '../../src/contract/source.ts';
import { keptName, KEY_FIELD } from '../../src/core/forms/index.ts';
import type { FileValue } from '../../src/core/values/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { seededRandom } from '../../src/server/demo/people.ts';
import { expectRecounted } from '../world/counts.ts';
import { postsOf, sourceField } from '../world/fields.ts';
import { FiveServices } from '../world/fiveServices.ts';
import { fields } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { OwnDatabase } from '../world/ownDatabase.ts';
import { endProgram, eventually } from '../world/processes.ts';
import { OtherWork } from '../world/otherWork.ts';
import { ProgramClock } from '../world/programClock.ts';
import { SmallDisk } from '../world/smallDisk.ts';
import { BROWSER } from '../world/visitors.ts';
import { linkIn, TERN_KEY, World } from '../world/world.ts';

const MINUTES = Number(process.env.SOAK_MINUTES ?? 5);
const SEED = Number(process.env.SOAK_SEED ?? Math.floor(Math.random() * 1_000_000));
/** Whether other programs take the processors and the disk meanwhile. */
const IS_BUSY = process.env.SOAK_BUSY === '1';
const VISITORS = 8;
/** Posts a second of a client that nobody here wrote. */
const LOAD_A_SECOND = 15;
const DISK_MB = 700;
/** Memory that a program may hold in the end beyond what it held when it had hardly begun, in bytes. */
const MORE_MEMORY = 24 * 1024 * 1024;
const FILE_SIZE = 60_000;
const MINUTE = 60_000;

let world: World;
let operator: Operator;
let services: FiveServices;
let letter: SourceView;
let load: SourceView;
let database: OwnDatabase;
let second: ChildProcess;
/** A worker that nobody kills: what it holds in memory can be compared. */
let steady: ChildProcess;
const clock = new ProgramClock();
const disk = new SmallDisk(DISK_MB);
let others: OtherWork | null = null;
/** What goes wrong, and when, is by the seed alone: visitors have a chance of their own. */
const [ofTroubles, ofVisitors] = [seededRandom(SEED), seededRandom(SEED + 1)];
const below = (most: number) => Math.floor(ofTroubles() * most);
const belowOfVisitors = (most: number) => Math.floor(ofVisitors() * most);
const programs = () => [world.server, world.worker, second, steady];
const rest = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

beforeAll(async () => {
  console.log(
    `soak: ${MINUTES} minutes, seed ${SEED}${IS_BUSY ? ', beside other programs' : ''}${disk.isOwn ? '' : '; no full disk: this user may not mount one'}`,
  );
  database = await OwnDatabase.start(disk.folder);
  world = await World.start({ DATABASE_URL: database.url, ...clock.env });
  operator = await world.operator();
  services = await FiveServices.wire(world, operator);
  letter = await wireLetter();
  const email = sourceField('email', 'email', { required: true, keepAs: 'email' });
  load = await operator.source('Load', postsOf([email]));
  second = await world.oneMoreWorker();
  steady = await world.oneMoreWorker();
});
afterAll(async () => {
  await others?.stop();
  await Promise.all([second, steady].map((child) => endProgram(child)));
  await world.stop();
  services.receiver.stop();
  await database.stop();
  disk.stop();
  clock.stop();
});

/** A form with a file, to a list that people come to once they confirmed by mail. */
async function wireLetter(): Promise<SourceView> {
  const connection = await operator.connect(world.ternPost, TERN_KEY);
  const form = skyLetterForm(world.site);
  const source = await operator.form('Letter', {
    ...form,
    minimumSeconds: 0,
    fields: [...form.fields, sourceField('plan', 'file')],
  });
  await operator.route('Letter', skyLetterRoute(source.id, connection.id));
  return source;
}

/** How something comes in: as a browser posts it, as a program does, as the script on a page does, and with a file in pieces. */
const DOORS = ['page', 'program', 'script', 'file'] as const;
type Door = (typeof DOORS)[number];
interface Visit {
  door: Door;
  email: string;
  key: string;
  content: Buffer;
}

/** One try. @returns whether it was taken */
async function send({ door, email, key, content }: Visit): Promise<boolean> {
  const values = { ...services.visit(email, 'Quill', 1), [KEY_FIELD]: key };
  const { postUrl } = services.source;
  const origin = new URL(postUrl).origin;
  const from = { origin, 'user-agent': BROWSER, accept: 'text/html' };
  const post = (url: string, headers: Record<string, string>, body: BodyInit) =>
    fetch(url, { method: 'POST', redirect: 'manual', headers, body, signal: AbortSignal.timeout(20_000) });
  switch (door) {
    case 'page':
      return (await post(postUrl, from, new URLSearchParams(values))).status < 400;
    case 'program': {
      const headers = { origin, 'content-type': 'application/json', 'idempotency-key': key };
      return (await post(postUrl, headers, JSON.stringify(services.visit(email, 'Quill', 1)))).status === 202;
    }
    case 'script': {
      const seen = {
        form: postUrl.split('/').at(-1),
        showing: randomUUID(),
        page: `${world.site}/evenings`,
        referrer: '',
      };
      const body = JSON.stringify({ ...seen, events: [{ what: 'shown', question: '' }] });
      // What is told of a page may be lost; what was sent may not.
      await post(`${world.app}/place/seen`, { 'user-agent': BROWSER, 'content-type': 'text/plain' }, body).catch(
        () => null,
      );
      return (await post(`${postUrl}?as=part`, { ...from, accept: 'application/json' }, new URLSearchParams(values)))
        .ok;
    }
    case 'file':
      return sendWithFile(email, key, content);
    default:
      return door satisfies never;
  }
}

async function sendWithFile(email: string, key: string, content: Buffer): Promise<boolean> {
  const { site } = world;
  const begun = await fetch(`${letter.postUrl}/files`, {
    method: 'POST',
    headers: {
      origin: site,
      'upload-length': String(content.length),
      'upload-complete': '?0',
      'x-file-name': 'plan.bin',
    },
  });
  const at = begun.headers.get('location');
  if (!at) return false;
  let kept = '';
  for (let offset = 0; offset < content.length; offset += FILE_SIZE / 3) {
    const response = await fetch(at, {
      method: 'PATCH',
      headers: { origin: site, 'content-type': 'application/partial-upload', 'upload-offset': String(offset) },
      body: new Uint8Array(content.subarray(offset, offset + FILE_SIZE / 3)),
    });
    if (!response.ok) return false;
    kept = ((await response.json().catch(() => ({}))) as { kept?: string }).kept ?? '';
  }
  const body = new URLSearchParams({ ...fields(email), [KEY_FIELD]: key, [keptName('plan')]: kept });
  const headers = { origin: site, accept: 'application/json' };
  return (await fetch(letter.postUrl, { method: 'POST', headers, body })).status === 202;
}

/** Starts something as whoever watches over it does: again, where the database is away. */
async function startAgain<T>(start: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries += 1)
    try {
      return await start();
    } catch (error) {
      if (tries === 30) throw error;
      await rest(1_000);
    }
}

/** What is known of deliveries that went wrong. */
const tellOf = async (emails: string[]): Promise<unknown[]> =>
  emails.length === 0
    ? []
    : world.rows(
        `SELECT JSON_VALUE(s.field_values, '$.email') AS email, c.profile, d.tries, a.number, a.started_at, a.cause, a.exchanges
          FROM submissions s JOIN deliveries d ON d.submission_id = s.id JOIN connections c ON c.id = d.connection_id
          JOIN attempts a ON a.delivery_id = d.id WHERE JSON_VALUE(s.field_values, '$.email') IN (?) AND d.tries > 1
          ORDER BY 1, 2, 4`,
        [emails],
      );

/** What is known of mails that nobody confirmed. */
const mailsTo = (emails: string[]): Promise<unknown[]> =>
  world.rows(
    `SELECT JSON_VALUE(s.field_values, '$.email') AS email, s.state, m.state AS mail, m.error, m.tries, m.due_at, m.lease_until
      FROM submissions s LEFT JOIN mails m ON m.submission_id = s.id WHERE JSON_VALUE(s.field_values, '$.email') IN (?)`,
    [emails],
  );

const TROUBLES = ['server', 'worker', 'second worker', 'database', 'clock', 'disk', 'slow', 'half answers'] as const;

/** One thing that goes wrong, and is over when this is. */
async function trouble(): Promise<string> {
  const what = TROUBLES[below(TROUBLES.length)] ?? 'server';
  switch (what) {
    case 'server':
      await world.kill('server');
      await startAgain(() => world.startServer());
      break;
    case 'worker':
      await world.kill('worker');
      await startAgain(() => world.startWorker());
      break;
    case 'second worker':
      await endProgram(second, 'SIGKILL');
      second = await startAgain(() => world.oneMoreWorker());
      break;
    case 'database':
      database.crash();
      // It is started again at most five times a minute.
      await rest(12_000);
      break;
    case 'clock':
      // Far jumps have tests of their own: what was asked before one and is looked for after it may be judged by no clock.
      await clock.put(below(90_000) - 45_000, programs());
      break;
    case 'disk':
      if (!disk.isOwn) break;
      disk.fill();
      await rest(4_000);
      disk.free();
      break;
    case 'slow':
      await services.worsen(below(4), { kind: 'slow', next: 10, delay: 4_000 });
      break;
    case 'half answers':
      await services.worsen(below(4), { kind: 'half', next: 5 });
      break;
    default:
      what satisfies never;
  }
  return what;
}

it(
  `${MINUTES} minutes of everything at once: all that was taken is accounted for, none of it twice, and memory is flat`,
  async () => {
    const visits: Visit[] = [];
    const end = Date.now() + MINUTES * MINUTE;
    await services.fail();
    const heldBefore = await clock.heapOf(steady);
    if (IS_BUSY) others = new OtherWork(1);

    const visitor = async () => {
      while (Date.now() < end) {
        const door = DOORS[belowOfVisitors(DOORS.length)] ?? 'page';
        const email = `soak${visits.length}@hill.example`;
        const visit = { door, email, key: randomUUID(), content: randomBytes(FILE_SIZE) };
        visits.push(visit);
        while (!(await send(visit).catch(() => false))) await rest(200);
        await rest(belowOfVisitors(1_200));
      }
    };
    const happened: Record<string, number> = {};
    const troubles = async () => {
      while (Date.now() < end - 5_000) {
        await rest(2_000 + below(3_000));
        const what = await trouble();
        happened[what] = (happened[what] ?? 0) + 1;
      }
    };
    // Who wants the letter confirms it, again and again until that was answered.
    const confirmed = new Set<string>();
    const confirming = async (until: () => boolean) => {
      while (!until()) {
        const open = visits.filter(({ door, email }) => door === 'file' && !confirmed.has(email));
        const mails = new Map((await world.letters('')).map((mail) => [mail.to, mail]));
        for (const { email } of open) {
          const mail = mails.get(email);
          if (!mail) continue;
          const answer = await fetch(linkIn(mail), { method: 'POST' }).catch(() => null);
          if (answer?.ok) confirmed.add(email);
        }
        await rest(1_000);
      }
    };
    const loaded = autocannon({
      url: load.postUrl,
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'load-[<id>]@hill.example' }),
      idReplacement: true,
      connections: 2,
      overallRate: LOAD_A_SECOND,
      duration: MINUTES * 60,
    });
    let isOver = false;
    const confirms = confirming(() => isOver);
    await Promise.all([...Array.from({ length: VISITORS }, visitor), troubles()]);
    await services.recover();
    const { '2xx': answered, requests } = await loaded;
    await clock.put(0, programs());
    const letters = visits.filter(({ door }) => door === 'file');
    await eventually(
      () => Promise.resolve(confirmed.size),
      (count) => count === letters.length,
      IS_BUSY ? 240_000 : 120_000,
    ).catch(async (error: unknown) => {
      const missing = letters.filter(({ email }) => !confirmed.has(email)).map(({ email }) => email);
      throw new Error(`${String(error)}: ${JSON.stringify(await mailsTo(missing.slice(0, 5)))}`);
    });
    isOver = true;
    await confirms;
    await services.settled(IS_BUSY ? 480_000 : 240_000);
    await others?.stop();

    const taken = await world.rows<{ email: string; file: Partial<FileValue> | null; state: string }>(
      `SELECT JSON_VALUE(field_values, '$.email') AS email, JSON_QUERY(field_values, '$.plan') AS file, state
      FROM submissions WHERE source_id <> ? ORDER BY id`,
      [load.id],
    );
    // Whoever is not told that it was taken cannot know; whoever is told can rely on it.
    const [{ kept, people } = { kept: 0, people: 0 }] = await world.rows<{ kept: number; people: number }>(
      `SELECT COUNT(*) AS kept, COUNT(DISTINCT JSON_VALUE(field_values, '$.email')) AS people FROM submissions
      WHERE source_id = ? AND state = 'planned'`,
      [load.id],
    );
    expect(kept).toBeGreaterThanOrEqual(answered);
    expect(kept).toBeLessThanOrEqual(requests.sent);
    expect(people).toBe(kept);

    expect(taken.map(({ email }) => email).sort()).toEqual(visits.map(({ email }) => email).sort());
    expect([...new Set(taken.map(({ state }) => state))]).toEqual(['planned']);
    const deliveries = await world.rows<{ state: string; count: number }>(
      'SELECT state, COUNT(*) AS count FROM deliveries GROUP BY state',
    );
    const toFive = visits.filter(({ door }) => door !== 'file').map(({ email }) => email);
    expect(deliveries).toEqual([{ state: 'delivered', count: toFive.length * 5 + letters.length }]);
    for (const [service, found] of Object.entries(await services.there())) {
      const times = new Map<string, number>();
      for (const one of found) times.set(one, (times.get(one) ?? 0) + 1);
      const wrong = toFive.filter((email) => times.get(`${email} 1`) !== 1);
      const told = await tellOf(wrong.slice(0, 3));
      expect({ service, wrong, all: found.length, told }).toEqual({ service, wrong: [], all: toFive.length, told: [] });
    }
    const members = await world.members();
    expect(members.map(({ email }) => email).sort()).toEqual(visits.map(({ email }) => email).sort());
    for (const { email, content } of letters) {
      const name = taken.find((one) => one.email === email)?.file?.file ?? '';
      const stored = readFileSync(path.join(world.env.IWASHI_UPLOADS ?? '', name.slice(-2), name));
      expect(createHash('sha256').update(stored).digest('hex')).toBe(
        createHash('sha256').update(content).digest('hex'),
      );
    }
    await eventually(
      () => world.rows<{ count: number }>('SELECT COUNT(*) AS count FROM form_events WHERE counted_by IS NULL'),
      ([row]) => row?.count === 0,
    );
    await expectRecounted(world);

    // Of the server there is no earlier figure, since it was killed: one that has just begun is as good.
    const heldNow = await clock.heapOf(steady);
    const serverNow = await clock.heapOf(world.server);
    await world.kill('server');
    await world.startServer();
    const serverNew = await clock.heapOf(world.server);
    const mb = (bytes: number) => (bytes / 1024 / 1024).toFixed(1);
    console.log(
      `soak: ${visits.length} visits and ${kept} of a load of ${requests.sent} (${answered} answered), ${JSON.stringify(happened)}; a worker held ${mb(heldBefore)} MB and ${mb(heldNow)} MB, the server ${mb(serverNew)} MB new and ${mb(serverNow)} MB`,
    );
    expect(heldNow - heldBefore).toBeLessThan(MORE_MEMORY);
    expect(serverNow - serverNew).toBeLessThan(MORE_MEMORY);
  },
  MINUTES * MINUTE + 600_000,
);
