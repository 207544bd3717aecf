import type { ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { eventually, ROOT } from './processes.ts';

/** The clock of programs under test, as one machine has one: it can jump while they run. */
export class ProgramClock {
  readonly #folder = mkdtempSync('/tmp/iwashi-clock-');
  /** What programs are started with that go by this clock. */
  readonly env: Record<string, string>;

  constructor() {
    writeFileSync(path.join(this.#folder, 'offset'), '0');
    const preload = pathToFileURL(path.join(ROOT, 'test/world/clock.mjs')).href;
    this.env = { TEST_CLOCK: this.#folder, NODE_OPTIONS: `--import=${preload}` };
  }

  /** Puts the clock to another time than the true one, for programs that run. @param ms later; less than 0 for earlier */
  async put(ms: number, programs: (ChildProcess | null)[]): Promise<void> {
    writeFileSync(path.join(this.#folder, 'offset'), String(ms));
    // One that was killed meanwhile begins by this clock.
    await Promise.all(programs.map((program) => this.heapOf(program).catch(() => 0)));
  }

  /** What a program holds in its memory, in bytes, once what is not needed any more is thrown away. */
  async heapOf(program: ChildProcess | null): Promise<number> {
    const pid = program?.pid;
    if (pid === undefined) throw new Error('it does not run');
    const file = path.join(this.#folder, `heap-${pid}`);
    rmSync(file, { force: true });
    process.kill(pid, 'SIGUSR2');
    await eventually(
      () => Promise.resolve(existsSync(file) && readFileSync(file, 'utf8') !== ''),
      (isThere) => isThere,
      10_000,
    );
    return Number(readFileSync(file, 'utf8'));
  }

  stop(): void {
    rmSync(this.#folder, { recursive: true, force: true });
  }
}
