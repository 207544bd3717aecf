import path from 'node:path';
import Piscina from 'piscina';
import { bad, good, type Result } from '../../core/result.ts';
import { BUDGETS, type Budget, type ReaderName, type Readers } from './readers.ts';

/** Reads what somebody else made, away from the thread that answers. */
export interface ReadingPool {
  /** @returns what was made of it, or why it could not be read within its budget, in words for whoever gave it */
  read<Name extends ReaderName>(name: Name, given: Readers[Name]['given']): Promise<Result<Readers[Name]['made']>>;
  close(): Promise<void>;
}

/** How many threads each pool has; one is always there, so that nobody waits for it to begin. */
const THREADS: Record<Budget['pool'], number> = { arrivals: 1, documents: 2 };
/** What a thread may use before it is ended, in megabytes. */
const MEMORY: Record<Budget['pool'], number> = { arrivals: 128, documents: 768 };
const READER_NAMES = Object.keys(BUDGETS) as ReaderName[];
/** So many may wait for a thread; whoever comes then is told to come again. */
const MOST_WAITING = 40;
const IDLE_MS = 30_000;
const WARM_MS = 15_000;

/** @param root where the built programs are */
export function createReadingPool(root: string, budgets: Record<ReaderName, Budget> = BUDGETS): ReadingPool {
  const pools = new Map<Budget['pool'], Lane>();
  const laneOf = (name: Budget['pool']): Lane => {
    const readers = READER_NAMES.filter((reader) => budgets[reader].pool === name);
    const lane = pools.get(name) ?? new Lane(root, THREADS[name], MEMORY[name], readers);
    pools.set(name, lane);
    return lane;
  };
  return {
    read: (name, given) => laneOf(budgets[name].pool).read(name, given, budgets[name]),
    close: async () => {
      await Promise.all([...pools.values()].map((lane) => lane.close()));
    },
  };
}

/** Threads that take one reading after the other. Time counts from when a reading begins, not from when it was asked for. */
class Lane {
  readonly #threads: Piscina;
  readonly #most: number;
  readonly #readers: ReaderName[];
  readonly #waiting: (() => void)[] = [];
  #warm: Promise<unknown>;
  #underWay = 0;

  constructor(root: string, most: number, megabytes: number, readers: ReaderName[]) {
    this.#most = most;
    this.#readers = readers;
    this.#threads = new Piscina({
      filename: path.join(root, 'dist/server/reading-thread.js'),
      minThreads: 1,
      maxThreads: most,
      idleTimeout: IDLE_MS,
      resourceLimits: { maxOldGenerationSizeMb: megabytes },
      // A thread has no use for our secrets.
      env: {},
    });
    // A thread that ends by its limits says so to whoever asked it, and here once more.
    this.#threads.on('error', () => {});
    this.#warm = this.#warmUp();
  }

  async read<Name extends ReaderName>(
    name: Name,
    given: Readers[Name]['given'],
    { what, milliseconds, next }: Budget,
  ): Promise<Result<Readers[Name]['made']>> {
    if (this.#underWay >= this.#most && this.#waiting.length >= MOST_WAITING)
      return bad(`So much is being read at the moment that ${what} has to wait. Try again in a minute.`);
    await this.#turn();
    await this.#warm;
    const limit = AbortSignal.timeout(milliseconds);
    try {
      return good((await this.#threads.run({ name, given }, { signal: limit })) as Readers[Name]['made']);
    } catch (error) {
      this.#warm = this.#warmUp();
      if (limit.aborted) return bad(`Reading ${what} takes longer than ${milliseconds / 1000} s. ${next}`);
      return bad(
        codeOf(error) === 'ERR_WORKER_OUT_OF_MEMORY'
          ? `Reading ${what} takes more memory than it may have. ${next}`
          : error instanceof RangeError
            ? `What stands in ${what} is nested too deeply, or too much of it. ${next}`
            : `Something in ${what} is such that it cannot be read. ${next}`,
      );
    } finally {
      this.#underWay -= 1;
      this.#waiting.shift()?.();
    }
  }

  /** Loads what the readers need, so that nobody's time counts for it who is read the first after a thread began. */
  #warmUp(): Promise<unknown> {
    // Where it takes longer than that, it goes on within the time of who is read first.
    return this.#threads.run({ warm: this.#readers }, { signal: AbortSignal.timeout(WARM_MS) }).catch(() => {});
  }

  #turn(): Promise<void> {
    this.#underWay += 1;
    if (this.#underWay <= this.#most) return Promise.resolve();
    return new Promise((resolve) => this.#waiting.push(resolve));
  }

  close(): Promise<void> {
    return this.#threads.destroy();
  }
}

const codeOf = (error: unknown): unknown =>
  typeof error === 'object' && error !== null && 'code' in error ? error.code : undefined;
