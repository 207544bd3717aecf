import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** State that a stand-in keeps in a file, so that a second start finds what the first one left. */
export class StateFile<State> {
  readonly #file: string | undefined;
  readonly #read: () => State;
  #timer: NodeJS.Timeout | null = null;

  constructor(file: string | undefined, read: () => State) {
    this.#file = file;
    this.#read = read;
  }

  load(): State | null {
    return this.#file && existsSync(this.#file) ? (JSON.parse(readFileSync(this.#file, 'utf8')) as State) : null;
  }

  /** Writes soon; several changes are written together. */
  changed(): void {
    if (this.#file) this.#timer ??= setTimeout(() => this.save(), 300);
  }

  save(): void {
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = null;
    if (!this.#file) return;
    mkdirSync(path.dirname(this.#file), { recursive: true });
    writeFileSync(`${this.#file}.new`, JSON.stringify(this.#read()));
    renameSync(`${this.#file}.new`, this.#file);
  }
}

/** Tells the command that started us that we are ready, and ends when it says so or is gone. */
export function ready(message: object, end: () => void | Promise<void>): void {
  const stop = () => void Promise.resolve(end()).finally(() => process.exit(0));
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
  process.once('disconnect', stop);
  process.send?.({ ready: true, ...message });
}
