import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { promisify } from 'node:util';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { Operator } from '../world/operator.ts';
import { eventually, ROOT } from '../world/processes.ts';

interface Endpoints {
  app: string;
  site: string;
  mailbox: string;
  standins: Record<string, { url: string; apiKey: string }>;
  signIn: { email: string; password: string };
}

/** Making the demo data lives through some weeks; a busy machine takes its time for that. */
const DEMO_LIMIT_MS = 300_000;

const data = mkdtempSync('/tmp/iwashi-command-');
const endpointsFile = path.join(data, 'endpoints.json');
const iwashi = path.join(ROOT, 'iwashi');
const env = { ...process.env, IWASHI_DATA: data };
const run = promisify(execFile);

let running: ChildProcess | null = null;

// A test that failed on the way must not leave its demo to the next one.
afterEach(async () => {
  if (running && running.exitCode === null && running.signalCode === null) await endDemo(running);
  running = null;
});

afterAll(() => {
  for (const folder of [
    data,
    `/var/tmp/iwashi${data.replaceAll('/', '-')}`,
    `/var/tmp/iwashi${path.join(data, 'demo').replaceAll('/', '-')}`,
  ])
    rmSync(folder, { recursive: true, force: true });
});

/** Processes that have to do with our data folder. */
function ours(): string[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name) && Number(name) !== process.pid)
    .filter((pid) => {
      try {
        const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
        return (
          !command.includes('vitest') && `${command}${readFileSync(`/proc/${pid}/environ`, 'utf8')}`.includes(data)
        );
      } catch {
        return false;
      }
    });
}

async function startDemo(
  ...args: string[]
): Promise<{ child: ChildProcess; endpoints: Endpoints; output: () => string }> {
  const child = spawn(iwashi, ['demo', '--port', '5680', ...args], { env, stdio: ['ignore', 'pipe', 'pipe'] });
  running = child;
  const output: string[] = [];
  child.stdout.on('data', (part: Buffer) => output.push(part.toString()));
  child.stderr.on('data', (part: Buffer) => output.push(part.toString()));
  await eventually(
    () => Promise.resolve(output.join('')),
    (text) => text.includes('Ctrl-C ends') || child.exitCode !== null,
    DEMO_LIMIT_MS,
  );
  if (child.exitCode !== null) throw new Error(output.join(''));
  return {
    child,
    endpoints: JSON.parse(readFileSync(endpointsFile, 'utf8')) as Endpoints,
    output: () => output.join(''),
  };
}

async function endDemo(child: ChildProcess): Promise<void> {
  child.kill('SIGINT');
  await once(child, 'exit');
}

describe('./iwashi demo', { timeout: 2 * DEMO_LIMIT_MS }, () => {
  let first: { people: string[]; submissions: number };
  const look = async ({ app, signIn }: Endpoints) => {
    const operator = await Operator.signIn(app, signIn.email, signIn.password);
    const { rows } = await operator.get<{ rows: { email: string }[] }>('/people');
    return { people: rows.map(({ email }) => email), submissions: (await operator.submissions()).rows.length };
  };

  it('brings up everything, says where, and leaves no process behind', async () => {
    const { child, endpoints, output } = await startDemo();
    expect(output()).toContain(endpoints.signIn.email);
    for (const url of [
      `${endpoints.app}/readyz`,
      `${endpoints.site}/sky-letter`,
      endpoints.mailbox,
      endpoints.standins['tern-post']?.url ?? '',
    ])
      expect((await fetch(url)).status).toBe(200);
    expect(await (await fetch(`${endpoints.site}/sky-letter`)).text()).toContain(`${endpoints.app}/in/`);
    first = await look(endpoints);
    expect(first.people).toHaveLength(50);
    expect(ours().length).toBeGreaterThan(5);
    // A second command on the same data is refused, and does not disturb the first.
    await expect(run(iwashi, ['demo', '--port', '5780'], { env })).rejects.toThrow(/is using/);
    expect((await fetch(`${endpoints.app}/readyz`)).status).toBe(200);
    await endDemo(child);
    expect(ours()).toEqual([]);
    expect(existsSync(endpointsFile)).toBe(false);
  });

  it('finds its data again, takes other ports when some are busy, and ends orphans of a killed start', async () => {
    const { child, endpoints } = await startDemo();
    expect((await look(endpoints)).people).toEqual(first.people);
    child.kill('SIGKILL');
    await once(child, 'exit');
    // The server, the workers and the stand-ins notice; the database is ended by the next start.
    await eventually(
      () => Promise.resolve(ours()),
      (left) => left.length <= 1,
      20_000,
    );
    const again = await startDemo();
    expect((await look(again.endpoints)).people).toEqual(first.people);
    await endDemo(again.child);
    expect(ours()).toEqual([]);
  });

  it('starts a database again that was killed, and ends loudly when it does not stay up', async () => {
    const { child, endpoints, output } = await startDemo();
    const record = path.join(data, 'demo', 'database.json');
    const databaseNow = () => (JSON.parse(readFileSync(record, 'utf8')) as { pid: number }).pid;
    const killed = databaseNow();
    process.kill(killed, 'SIGKILL');
    await eventually(
      () => Promise.resolve(databaseNow()),
      (pid) => pid !== killed,
      20_000,
    );
    await eventually(
      () => fetch(`${endpoints.app}/readyz`),
      ({ status }) => status === 200,
      30_000,
    );
    expect((await look(endpoints)).people).toEqual(first.people);
    const ended = once(child, 'exit');
    const killing = setInterval(() => {
      try {
        process.kill(databaseNow(), 'SIGKILL');
      } catch {
        // It is not there at the moment.
      }
    }, 50);
    expect(await ended).toEqual([1, null]);
    clearInterval(killing);
    expect(output()).toContain('cannot be kept running: it ended');
    expect(ours()).toEqual([]);
  });

  it('makes the same people anew with --fresh', async () => {
    const { child, endpoints } = await startDemo('--fresh');
    expect((await look(endpoints)).people).toEqual(first.people);
    await endDemo(child);
  });
});

describe('mistakes at the keyboard', () => {
  const failing = async (...args: string[]) => {
    try {
      await run(iwashi, args, { env });
    } catch (error) {
      return (error as { stderr: string }).stderr;
    }
    throw new Error('it was not refused');
  };
  it('are explained', async () => {
    expect(await failing('dance')).toContain('there is no "dance"');
    expect(await failing('demo', '--port', 'x')).toContain('--port takes a number');
    expect(await failing('test', 'nothing')).toContain('Parts: check, unit');
    expect(await failing('start')).toContain('set SMTP_URL and MAIL_FROM first');
    expect(await failing('work')).toContain('set SMTP_URL');
  });
});
