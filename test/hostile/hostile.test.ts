import { readdirSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportView } from '../../src/contract/imports.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { SOURCE_FORMAT, type FileDocument } from '../../src/core/intake/index.ts';
import type { ReaderName } from '../../src/server/reading/readers.ts';
import { formOf, postsOf, sourceField } from '../world/fields.ts';
import {
  hostileCss,
  hostileDescriptions,
  hostileFiles,
  hostileForms,
  hostileHtml,
  hostileJson,
  hostileLines,
  hostileParts,
  hostileXml,
  HOSTILE_PATHS,
  PARTS_TYPE,
  type Hostile,
} from '../world/hostile.ts';
import type { Operator } from '../world/operator.ts';
import { eventually, processesOf } from '../world/processes.ts';
import { World } from '../world/world.ts';

let world: World;
let operator: Operator;
let form: SourceView;
let posts: SourceView;
let paths: SourceView;
let files: SourceView;
const failures: unknown[] = [];

beforeAll(async () => {
  world = await World.start({ IWASHI_LOG: 'error' });
  operator = await world.operator();
  const email = sourceField('email', 'email', { keepAs: 'email' });
  form = await operator.form('Form', formOf([email, sourceField('plan', 'file'), sourceField('note')]));
  posts = await operator.source('Posts', postsOf([sourceField('email', 'email', { path: '$.email' })]));
  const looking = HOSTILE_PATHS.map((one, at) => sourceField(`p${at}`, 'text', { path: one }));
  paths = await operator.source('Paths', postsOf([email, ...looking]));
  const document: FileDocument = {
    format: SOURCE_FORMAT,
    kind: 'file',
    fields: [email],
    statement: '',
    trust: 'usual',
  };
  files = await operator.source('Files', document);
});
afterAll(() => world.stop());

/** While something is done, the server is asked whether it is well, again and again. */
async function besides(work: () => Promise<void>): Promise<number[]> {
  const waits: number[] = [];
  let isOver = false;
  const asking = (async () => {
    while (!isOver) {
      const began = performance.now();
      const answer = await fetch(`${world.app}/healthz`);
      await answer.text();
      waits.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  await work().finally(() => (isOver = true));
  await asking;
  return waits.sort((one, other) => one - other);
}

/** How long an answer takes while nothing hostile is there: the machine may be busy with something else. */
let usual = 0;
beforeAll(async () => {
  const waits = await besides(() => new Promise((resolve) => setTimeout(resolve, 2_000)));
  usual = waits[Math.floor(waits.length * 0.9)] ?? 0;
});

/** Nobody waits behind what is hostile: nearly every answer comes at once, and none takes as long as such a thing would. */
function expectQuick(waits: number[]): void {
  expect(waits.length).toBeGreaterThan(0);
  expect(waits[Math.floor(waits.length * 0.9)]).toBeLessThan(250 + 10 * usual);
  expect(waits.at(-1)).toBeLessThan(2_500 + 10 * usual);
}

/** What a process uses, with those that it began, in megabytes. */
async function memoryOf(pid = 0): Promise<number> {
  const all = await Promise.all(
    [pid, ...processesOf(pid)].map((id) => readFile(`/proc/${id}/status`, 'utf8').catch(() => '')),
  );
  return all.reduce((sum, status) => sum + Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024, 0);
}
const openFilesOf = (pid: number | undefined): number => readdirSync(`/proc/${pid}/fd`, { withFileTypes: true }).length;
const keptFiles = async (): Promise<string[]> =>
  (await readdir(world.env.IWASHI_UPLOADS ?? '', { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile())
    .map((entry) => entry.name);

/** Sends each, and expects an answer that is no fault of ours. */
async function feed(cases: Hostile[], send: (one: Hostile) => Promise<Response>): Promise<void> {
  for (const one of cases) {
    const answer = await send(one).catch((error: unknown) => {
      throw new Error(`no answer to "${one.name}"`, { cause: error });
    });
    await answer.text();
    if (answer.status >= 500) failures.push([answer.url, one.name, answer.status]);
    expect(answer.status, `${one.name} at ${answer.url}`).toBeLessThan(500);
  }
}

const post = (url: string, type: string) => (one: Hostile) =>
  fetch(url, { method: 'POST', headers: { 'content-type': type, accept: 'application/json' }, body: one.body });
const ask = (address: string, body: (text: string) => object) => (one: Hostile) =>
  operator.send('POST', address, body(String(one.body)));

/** What anybody can send, without being asked who they are. */
const OPEN_DOORS: [what: string, send: () => (one: Hostile) => Promise<Response>, cases: () => Hostile[]][] = [
  ['a form', () => post(form.postUrl, 'application/x-www-form-urlencoded'), hostileForms],
  ['a form with files', () => post(form.postUrl, PARTS_TYPE), () => hostileParts('plan')],
  ['a form as JSON', () => post(form.postUrl, 'application/json'), () => hostileJson((value) => `{"email":${value}}`)],
  ['a webhook', () => post(posts.postUrl, 'application/json'), () => hostileJson((value) => `{"email":${value}}`)],
  ['a webhook of lines', () => post(posts.postUrl, 'application/x-ndjson'), () => hostileJson()],
  ['a webhook of entries', () => post(posts.postUrl, 'application/x-www-form-urlencoded'), hostileForms],
  ['a webhook of parts', () => post(posts.postUrl, PARTS_TYPE), () => hostileParts('plan')],
  ['a webhook of XML', () => post(posts.postUrl, 'application/xml'), hostileXml],
  [
    'a webhook with hostile paths',
    () => post(paths.postUrl, 'application/json'),
    () => [
      ...hostileJson(),
      {
        name: 'many texts',
        body: JSON.stringify({ items: Array.from({ length: 4_000 }, () => ({ a: 'a'.repeat(40) })) }),
      },
      { name: 'many lists', body: JSON.stringify(nested(9, 3)) },
    ],
  ],
  [
    'the beginning of a chat',
    () => post(`${world.app}/chat/${form.id}`, 'text/plain'),
    () => hostileJson((value) => `{"page":${value}}`),
  ],
  [
    'a line in a chat',
    () => post(`${world.app}/chat/${form.id}/say`, 'text/plain'),
    () => hostileJson((value) => `{"id":"12345678","said":${value}}`),
  ],
  ['a file in a chat', () => post(`${world.app}/chat/${form.id}/file`, PARTS_TYPE), () => hostileParts('file')],
  [
    'a sign-in',
    () => post(`${world.app}/api/session`, 'application/json'),
    () => hostileJson((value) => `{"email":${value},"password":${value}}`),
  ],
  ['what was seen', () => post(`${world.app}/place/seen`, 'text/plain'), () => hostileJson()],
  ['a notice', () => post(`${world.app}/notices/nobody`, 'application/json'), () => hostileJson()],
];

function nested(deep: number, wide: number): unknown {
  return deep === 0 ? 'a' : Array.from({ length: wide }, () => nested(deep - 1, wide));
}

describe('what anybody can send', () => {
  it.each(OPEN_DOORS)('to %s ends nothing, and keeps nobody waiting', async (_, send, cases) => {
    const pid = world.server?.pid;
    expectQuick(await besides(() => feed(cases(), send())));
    expect(world.server?.pid).toBe(pid);
    expect(world.server?.exitCode).toBeNull();
  });

  it('leaves no file and no open file behind, and no memory that grows', async () => {
    const pid = world.server?.pid;
    const before = { memory: await memoryOf(pid), open: openFilesOf(pid) };
    for (let round = 0; round < 3; round += 1) await feed(hostileParts('plan'), post(form.postUrl, PARTS_TYPE));
    await eventually(
      () => Promise.resolve(openFilesOf(pid)),
      (open) => open <= before.open + 10,
    );
    expect(await memoryOf(pid)).toBeLessThan(before.memory + 120);
    const known = await world.rows<{ id: string }>('SELECT id FROM uploads');
    expect(new Set(await keptFiles())).toEqual(new Set(known.map(({ id }) => id)));
  });
});

/** What operators hand over that somebody else made: by which reader of the pool. A reader that is missing here is an error of types. */
const READERS: Record<
  Exclude<ReaderName, 'xml' | 'layout' | 'firstRows' | 'sheets' | 'wholeRows'>,
  () => Promise<void>
> = {
  description: () =>
    feed(
      hostileDescriptions(),
      ask('/profiles/openapi', (text) => ({ text, url: '', choice: null })),
    ),
  curl: () =>
    feed(
      hostileLines(),
      ask('/profiles/curl', (line) => ({ line })),
    ),
  forms: () =>
    feed(
      hostileHtml(),
      ask('/sources/forms-found', (html) => ({ html, url: '' })),
    ),
  look: () =>
    feed(
      hostileCss(),
      ask('/themes/found', (css) => ({ css, url: '' })),
    ),
  sheetNames: () => pagesOf(hostileHtml(), (url) => ask('/themes/found', () => ({ css: '', url }))),
  page: () => pagesOf(hostileHtml(), (url) => ask('/sources/shown-page', () => ({ url }))),
};

/** Pages are fetched where they are: from the site, which has each of them in turn. */
async function pagesOf(cases: Hostile[], send: (url: string) => (one: Hostile) => Promise<Response>): Promise<void> {
  for (const one of cases) {
    await world.put('form', String(one.body));
    await feed([one], send(`${world.site}/sky-letter`));
  }
  await world.put('form', '');
}

describe('what somebody gave to an operator', () => {
  it.each(Object.entries(READERS))('%s: is read within its budget', async (_, read) =>
    expectQuick(await besides(read)),
  );
});

it('files that are brought are judged within their budgets, can be cancelled and deleted, and hold up nobody', async () => {
  const worker = world.worker?.pid;
  const brought = hostileFiles();
  // To make them takes longer than connections are kept: those that ended meanwhile are noticed first.
  await new Promise((resolve) => setTimeout(resolve, 100));
  const waits = await besides(async () => {
    for (const { name, body } of brought) {
      const file = await operator
        .bring<ImportView>(`/sources/${files.id}/imports`, name, body)
        .catch((error: unknown) => {
          throw new Error(`"${name}" could not be brought`, { cause: error });
        });
      const judged = await eventually(
        () => operator.get<ImportView[]>(`/sources/${files.id}/imports`),
        (all) => !['judging', 'fetching'].includes(all.find(({ id }) => id === file.id)?.state ?? ''),
        100_000,
      );
      const found = judged.find(({ id }) => id === file.id);
      const rows = await operator.send('GET', `/sources/${files.id}/imports/${file.id}/rows`);
      expect([name, [200, 422].includes(rows.status)]).toEqual([name, true]);
      // Whoever brought it is told what is too much, and what to do.
      if (found?.state === 'unreadable') expect(found.problem.length).toBeGreaterThan(20);
      expect((await operator.send('DELETE', `/sources/${files.id}/imports/${file.id}`)).status).toBe(204);
    }
  });
  expectQuick(waits);
  expect(world.worker?.pid).toBe(worker);
  expect(world.worker?.exitCode).toBeNull();
  expect(await memoryOf(worker)).toBeLessThan(900);
});

describe('a connection that breaks', () => {
  const requests = (): [what: string, head: string, body: string][] => {
    const at = new URL(form.postUrl).pathname;
    const head = (address: string, type: string, length: number) =>
      `POST ${address} HTTP/1.1\r\nHost: ${new URL(world.app).host}\r\nContent-Type: ${type}\r\nContent-Length: ${length}\r\nAccept: application/json\r\n\r\n`;
    const long = 'x'.repeat(9_000);
    const bodies: [string, string, string, string][] = [
      ['a form', at, 'application/x-www-form-urlencoded', `email=a%40hill.example&note=${long}`],
      ['JSON', at, 'application/json', JSON.stringify({ email: 'a@hill.example', note: long })],
      [
        'parts',
        at,
        PARTS_TYPE,
        `--hostile7\r\nContent-Disposition: form-data; name="plan"; filename="a.txt"\r\n\r\n${long}\r\n--hostile7--\r\n`,
      ],
      ['XML', new URL(posts.postUrl).pathname, 'application/xml', `<a><email>${long}</email></a>`],
      ['the beginning of a chat', `/chat/${form.id}`, 'text/plain', JSON.stringify({ page: long })],
      [
        'a file in a chat',
        `/chat/${form.id}/file`,
        PARTS_TYPE,
        `--hostile7\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n\r\n${long}`,
      ],
      ['a sign-in', '/api/session', 'application/json', JSON.stringify({ email: long, password: long })],
    ];
    return bodies.map(([what, address, type, body]) => [what, head(address, type, body.length), body]);
  };

  it('after every thousand bytes of each kind of request ends nothing and leaves nothing', async () => {
    const pid = world.server?.pid;
    const open = openFilesOf(pid);
    for (const [, head, body] of requests())
      for (let at = 0; at <= body.length; at += 1_000) await cutAfter(`${head}${body.slice(0, at)}`);
    await eventually(
      () => Promise.resolve(openFilesOf(pid)),
      (now) => now <= open + 5,
    );
    expect(world.server?.exitCode).toBeNull();
    const known = await world.rows<{ id: string }>('SELECT id FROM uploads');
    const stray = await eventually(
      async () => (await keptFiles()).filter((name) => !known.some(({ id }) => id === name)),
      (names) => names.length === 0,
    );
    expect(stray).toEqual([]);
  });

  /** Sends a part of a request and closes the connection in its middle. */
  function cutAfter(text: string): Promise<void> {
    return new Promise((resolve, reject) => {
      const { port } = new URL(world.app);
      const socket = connect(Number(port), '127.0.0.1', () =>
        socket.write(text, () => setTimeout(() => socket.resetAndDestroy(), 15)),
      );
      socket.on('error', reject).on('close', () => resolve());
    });
  }
});

const MINUTES = Number(process.env.HOSTILE_MINUTES ?? 0);

describe.runIf(MINUTES > 0)('for as long as somebody asked', () => {
  it(
    'the whole family is sent again and again: nobody waits, nothing grows, nothing ends',
    { timeout: MINUTES * 60_000 + 300_000 },
    async () => {
      const [server, worker] = [world.server?.pid, world.worker?.pid];
      const until = performance.now() + MINUTES * 60_000;
      const rounds: { waits: number[]; memory: number; open: number }[] = [];
      while (performance.now() < until) {
        const waits = await besides(async () => {
          for (const [, send, cases] of OPEN_DOORS) await feed(cases(), send());
          for (const read of Object.values(READERS)) await read();
        });
        rounds.push({ waits, memory: await memoryOf(server), open: openFilesOf(server) });
        const at = (share: number) => waits[Math.floor((waits.length - 1) * share)]?.toFixed(0);
        console.log(
          `round ${rounds.length}: ${waits.length} health checks, median ${at(0.5)} ms, nine of ten under ${at(0.9)} ms, longest ${at(1)} ms; ` +
            `${rounds.at(-1)?.memory.toFixed(0)} MB, ${rounds.at(-1)?.open} open files`,
        );
        expect([world.server?.pid, world.server?.exitCode, world.worker?.pid, world.worker?.exitCode]).toEqual([
          server,
          null,
          worker,
          null,
        ]);
      }
      for (const { waits } of rounds) expectQuick(waits);
      // The first rounds fill what is kept warm.
      const settled = Math.max(...rounds.slice(0, 3).map(({ memory }) => memory));
      expect(rounds.at(-1)?.memory).toBeLessThan(settled + 150);
      expect(rounds.at(-1)?.open).toBeLessThan((rounds[0]?.open ?? 0) + 50);
    },
  );
});

it('said 5xx of nothing', () => expect(failures).toEqual([]));
