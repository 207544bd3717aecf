import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { endProgram } from './processes.ts';

/** Computes without a pause, and has the disk write every now and then. */
const WORK = `
  const { createHash, randomBytes } = require('node:crypto');
  const { openSync, writeSync, fsyncSync } = require('node:fs');
  const file = openSync(process.argv[1] + '/' + process.pid, 'w');
  const some = randomBytes(4_000_000);
  for (let round = 0; ; round += 1) {
    createHash('sha512').update(some).digest();
    if (round % 40 === 0) { writeSync(file, some, 0, some.length, 0); fsyncSync(file); }
  }`;

/** Other programs of the machine, which take the processors and the disk as their own. */
export class OtherWork {
  readonly #folder = mkdtempSync('/tmp/iwashi-busy-');
  readonly #programs: ChildProcess[];

  /** @param each how many for each processor */
  constructor(each: number) {
    this.#programs = Array.from({ length: Math.round(each * availableParallelism()) }, () =>
      spawn(process.execPath, ['-e', WORK, this.#folder], { stdio: 'ignore', env: {} }),
    );
  }

  async stop(): Promise<void> {
    await Promise.all(this.#programs.map((program) => endProgram(program, 'SIGKILL')));
    rmSync(this.#folder, { recursive: true, force: true });
  }
}
