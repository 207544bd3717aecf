import type { Context } from '../context.ts';
import { touchedSince } from '../store/chats.ts';

const EVERY_MS = 500;
/** What was written while it was looked for, and by a clock that is a little behind, is not missed. */
const OVERLAP_MS = 3_000;

/**
 * Tells those who follow conversations that something may have happened in one: one question to the database for all of them, as long as
 * anybody follows any. Whoever is told looks for themselves; to be told twice does no harm.
 */
export class ChatWatch {
  readonly #context: Pick<Context, 'store' | 'now' | 'log'>;
  readonly #followers = new Map<string, Set<() => void>>();
  #timer: NodeJS.Timeout | null = null;
  #asked = 0;
  /** What was told of within the overlap. */
  #told = new Map<string, string>();

  constructor(context: Pick<Context, 'store' | 'now' | 'log'>) {
    this.#context = context;
  }

  /** @param id of a conversation; '' for any of them @returns what ends it */
  follow(id: string, told: () => void): () => void {
    const own = this.#followers.get(id) ?? new Set();
    own.add(told);
    this.#followers.set(id, own);
    if (!this.#timer) {
      this.#asked = this.#context.now();
      this.#timer = setInterval(() => void this.#look(), EVERY_MS).unref();
    }
    return () => {
      own.delete(told);
      if (own.size === 0) this.#followers.delete(id);
      if (this.#followers.size > 0 || !this.#timer) return;
      clearInterval(this.#timer);
      this.#timer = null;
    };
  }

  async #look(): Promise<void> {
    const since = this.#asked - OVERLAP_MS;
    this.#asked = this.#context.now();
    try {
      const touched = await touchedSince(this.#context.store.db, since);
      const changed = [...touched].filter(([id, mark]) => this.#told.get(id) !== mark).map(([id]) => id);
      this.#told = touched;
      for (const id of changed) for (const told of this.#followers.get(id) ?? []) told();
      if (changed.length > 0) for (const told of this.#followers.get('') ?? []) told();
    } catch (error) {
      this.#context.log.warn({ err: error }, 'conversations could not be looked at');
    }
  }
}
