import { mkdtempSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import type { ChildProcess } from 'node:child_process';
import { createConnection, type RowDataPacket } from 'mysql2/promise';
import type { Letter } from '../../src/standins/letterloft/app.ts';
import type { Member, TernPostState } from '../../src/standins/tern-post/state.ts';
import { Operator } from './operator.ts';
import { endProgram, freePort, ROOT, standing, startProgram } from './processes.ts';

export const TERN_KEY = 'tern-key-for-tests';

/** The admin addresses of a stand-in. */
export class StandIn {
  readonly url: string;
  constructor(url: string) {
    this.url = url;
  }

  async inside<State>(): Promise<State> {
    return (await (await fetch(`${this.url}/inside.json`)).json()) as State;
  }

  async change<State>(change: (state: State) => Partial<State>): Promise<void> {
    await fetch(`${this.url}/inside.json`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(change(await this.inside<State>())),
    });
  }

  async faults(fault: object): Promise<void> {
    const response = await fetch(`${this.url}/faults`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(fault),
    });
    if (!response.ok) throw new Error(await response.text());
  }

  async noFaults(): Promise<void> {
    await fetch(`${this.url}/faults`, { method: 'DELETE' });
  }
}

export const CAPSTAN = { key: 'cap-key-for-tests', secret: 'cap-secret-for-tests' };
export const ROWBARN = { clientId: 'app-for-tests', clientSecret: 'rowbarn-secret-for-tests' };
export const FOX_TOKEN = 'fox-token-for-tests';
export const BELL = '/ring/hook-for-tests';

/** A whole installation with its stand-ins, in a database of its own. */
export class World {
  app = '';
  site = '';
  mailbox = '';
  ternPost = '';
  firstLink = '';
  databaseUrl = '';
  env: Record<string, string> = {};
  readonly #children: ChildProcess[] = [];
  server: ChildProcess | null = null;
  worker: ChildProcess | null = null;

  /** @param more environment variables that differ from the usual ones */
  static async start(more: Record<string, string> = {}): Promise<World> {
    const world = new World();
    await world.#begin(more);
    return world;
  }

  async #begin(more: Record<string, string>): Promise<void> {
    this.databaseUrl = more.DATABASE_URL ?? (await ownDatabase());
    const [ternPost, letterloft, site] = await Promise.all([
      startProgram('standins/tern-post.js', [], { TERN_POST_KEY: TERN_KEY }),
      startProgram('standins/letterloft.js', [], {}),
      startProgram('standins/site.js', [], {}),
    ]);
    this.#children.push(ternPost.child, letterloft.child, site.child);
    this.ternPost = `http://127.0.0.1:${ternPost.ready.port}`;
    this.mailbox = `http://127.0.0.1:${letterloft.ready.port}`;
    this.site = `http://127.0.0.1:${site.ready.port}`;
    const port = await freePort();
    this.app = `http://127.0.0.1:${port}`;
    this.env = {
      DATABASE_URL: this.databaseUrl,
      IWASHI_SECRET_KEY: randomBytes(32).toString('base64'),
      IWASHI_ROOT: ROOT,
      IWASHI_PUBLIC_URL: this.app,
      PORT: String(port),
      SMTP_URL: `smtp://127.0.0.1:${letterloft.ready.smtpPort}`,
      MAIL_FROM: 'Pellam Ridge Observatory <letter@pellam-ridge.example>',
      IWASHI_ALLOW_PRIVATE_ADDRESSES: '1',
      IWASHI_LEASE_MS: '3000',
      IWASHI_SUBMISSIONS_PER_MINUTE: '100000',
      IWASHI_LOG: 'fatal',
      IWASHI_SHOP_ASK_SECONDS: '1',
      IWASHI_DROPS: mkdtempSync('/tmp/iwashi-drops-'),
      IWASHI_UPLOADS: mkdtempSync('/tmp/iwashi-uploads-'),
      IWASHI_FEEDS: mkdtempSync('/tmp/iwashi-feeds-'),
      ...more,
    };
    await this.startServer();
    await this.startWorker();
    standing.add(this.#howItStands);
  }

  /** What waits in the database, and for whom: where something did not come, it is read off this why. */
  #howItStands = async (): Promise<string> => {
    const rows = await Promise.all([
      this.rows('SELECT state, cause, COUNT(*) AS count, MIN(due_at) AS due_at FROM deliveries GROUP BY state, cause'),
      this.rows('SELECT state, COUNT(*) AS count FROM submissions GROUP BY state'),
      this.rows('SELECT * FROM connection_health'),
      this.rows('SELECT id, state FROM connections'),
      this.rows(
        'SELECT id, time, state, LEFT(info, 300) AS info FROM information_schema.PROCESSLIST WHERE info IS NOT NULL',
      ),
    ]);
    return `At ${Date.now()}: ${JSON.stringify(rows)}`;
  };

  /** Puts HTML on the site: into the head of its pages, or where the form is on the page of the Sky letter. */
  put = (part: 'head' | 'form', html: string): Promise<Response> =>
    fetch(`${this.site}/${part}.html`, { method: 'PUT', body: html });

  /** Puts our script on every page of the site. @param attributes such as that the visitor agreed to something being stored */
  putScript = (attributes = ''): Promise<Response> =>
    this.put('head', `<script async ${attributes} src="${this.app}/place/script.js"></script>`);

  /** Puts a place for a form on the page of the Sky letter. */
  putPlace = ({ postUrl }: { postUrl: string }): Promise<Response> =>
    this.put('form', `<div data-iwashi-form="${postUrl.split('/').at(-1)}"></div>`);

  async startServer(): Promise<void> {
    const { child, ready } = await startProgram('server/main.js', ['serve'], this.env);
    this.server = child;
    this.firstLink = ready.firstLink ?? this.firstLink;
  }

  async startWorker(): Promise<void> {
    this.worker = await this.oneMoreWorker();
  }

  /** A worker beside the usual one; whoever starts it ends it. */
  async oneMoreWorker(): Promise<ChildProcess> {
    return (await startProgram('server/main.js', ['work'], this.env)).child;
  }

  async kill(what: 'server' | 'worker'): Promise<void> {
    const child = this[what];
    if (child) await endProgram(child, 'SIGKILL');
  }

  async stop(): Promise<void> {
    standing.delete(this.#howItStands);
    for (const child of [this.server, this.worker, ...this.#children]) if (child) await endProgram(child);
    for (const folder of [this.env.IWASHI_DROPS, this.env.IWASHI_UPLOADS, this.env.IWASHI_FEEDS])
      rmSync(folder ?? '', { recursive: true, force: true });
  }

  /** Starts one more stand-in. @returns its address */
  async standIn(
    name: 'capstan' | 'rowbarn' | 'bellbuoy' | 'fennel-fox',
    env: Record<string, string> = {},
  ): Promise<StandIn> {
    const { child, ready } = await startProgram(`standins/${name}.js`, [], env);
    this.#children.push(child);
    return new StandIn(`http://127.0.0.1:${ready.port}`);
  }

  /** Starts the other three, and says what lets an operator in. */
  async others() {
    return {
      capstan: await this.standIn('capstan', {
        CAPSTAN_KEY: 'cap-key-for-tests',
        CAPSTAN_SECRET: 'cap-secret-for-tests',
      }),
      rowbarn: await this.standIn('rowbarn', {
        ROWBARN_ID: 'app-for-tests',
        ROWBARN_SECRET: 'rowbarn-secret-for-tests',
        ROWBARN_RETURN: `${this.app}/api/connections/granted`,
      }),
      bellbuoy: await this.standIn('bellbuoy', { BELLBUOY_HOOK: 'hook-for-tests' }),
    };
  }

  /** An operator who came by the one-time link. */
  async operator(): Promise<Operator> {
    return Operator.first(this.app, this.firstLink.split('#')[1] ?? '');
  }

  async members(): Promise<Member[]> {
    return ((await (await fetch(`${this.ternPost}/inside.json`)).json()) as TernPostState).members;
  }

  async changeTernPost(
    change: Partial<TernPostState> | ((state: TernPostState) => Partial<TernPostState>),
  ): Promise<void> {
    const state = (await (await fetch(`${this.ternPost}/inside.json`)).json()) as TernPostState;
    const body = JSON.stringify(typeof change === 'function' ? change(state) : change);
    await fetch(`${this.ternPost}/inside.json`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body,
    });
  }

  async faults(fault: object): Promise<void> {
    const response = await fetch(`${this.ternPost}/faults`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(fault),
    });
    if (!response.ok) throw new Error(await response.text());
  }

  async noFaults(): Promise<void> {
    await fetch(`${this.ternPost}/faults`, { method: 'DELETE' });
  }

  async letters(to: string): Promise<Letter[]> {
    const { messages } = (await (await fetch(`${this.mailbox}/inside.json`)).json()) as { messages: Letter[] };
    return messages.filter((letter) => letter.to.toLowerCase().includes(to.toLowerCase()));
  }

  async rows<Row>(sql: string, values: unknown[] = []): Promise<Row[]> {
    const connection = await createConnection(this.databaseUrl);
    const [rows] = await connection.query<RowDataPacket[]>(sql, values);
    await connection.end();
    return rows as Row[];
  }
}

/** The link in a confirmation mail. */
export function linkIn(letter: Letter | undefined): string {
  const link = /https?:\/\/\S+\/confirm\/\S+/.exec(letter?.text ?? '')?.[0];
  if (!link) throw new Error('there is no link in the mail');
  return link;
}

/** An empty database. @returns its address */
export async function ownDatabase(): Promise<string> {
  const server = process.env.IWASHI_TEST_DATABASE;
  if (!server) throw new Error('run this through ./iwashi test, which starts a database');
  const name = `iwashi_test_${randomBytes(6).toString('hex')}`;
  const connection = await createConnection(server);
  await connection.query(`CREATE DATABASE \`${name}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  await connection.end();
  return server.replace(/\/[^/]*$/, `/${name}`);
}
