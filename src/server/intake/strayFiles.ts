import { readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Context } from '../context.ts';
import { knownFiles } from '../store/uploads.ts';

/** A file of which nothing is noted after this time is none that somebody is still handing over. */
const STRAY_MS = 60 * 60_000;
/** Files are in folders by the last two letters of their names (`uploadPath`). */
const FOLDERS = 256;

/**
 * Files on the disk that nothing knows of: what was being written when the process ended. One folder at a time, so that however
 * many files there are, little is looked through at once.
 */
export class StrayFiles {
  readonly #context: Context;
  #next = 0;

  constructor(context: Context) {
    this.#context = context;
  }

  /** Clears the next folder. @returns how many files were removed */
  async clear(): Promise<number> {
    const { config, store, now } = this.#context;
    const folder = path.join(config.uploadFolder, this.#next.toString(16).padStart(2, '0'));
    this.#next = (this.#next + 1) % FOLDERS;
    const names = await readdir(folder).catch(() => []);
    const known = new Set(await knownFiles(store.db, names));
    let removed = 0;
    for (const name of names) {
      if (known.has(name)) continue;
      const file = await stat(path.join(folder, name)).catch(() => null);
      if (!file?.isFile() || file.mtimeMs > now() - STRAY_MS) continue;
      await rm(path.join(folder, name), { force: true });
      removed += 1;
    }
    return removed;
  }
}
