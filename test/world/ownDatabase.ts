import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import path from 'node:path';
import { endProgram, ROOT } from './processes.ts';

/** A MariaDB of a test's own, which can be killed; whoever started it starts it again where it was. */
export class OwnDatabase {
  readonly #folder: string;
  #child: ChildProcess | null = null;
  url = '';
  #port = 3900;

  readonly #isOwn: boolean;

  private constructor(folder: string | null) {
    this.#isOwn = folder === null;
    this.#folder = folder ?? mkdtempSync('/tmp/iwashi-own-');
  }

  /** @param folder where its tables are; null for one of its own */
  static async start(folder: string | null = null): Promise<OwnDatabase> {
    const database = new OwnDatabase(folder);
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
    // A disk of its own stays where it is: whoever made it takes it away.
    rmSync(path.join(this.#folder, 'mariadb'), { recursive: true, force: true });
    if (this.#isOwn) rmSync(this.#folder, { recursive: true, force: true });
  }
}
