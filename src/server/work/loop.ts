import type { Context } from '../context.ts';
import type { ClockWatch } from './clockWatch.ts';
import { claim, renewLease, type Queue } from '../store/queue.ts';

const IDLE_MS = 150;
/** After the database failed to answer, before it is asked again. */
const TROUBLE_MS = 1_000;

export interface Loop {
  /** Takes nothing new, and waits for what is under way. */
  stop(): Promise<void>;
}

/** Who works, and by which clock. */
export interface Worker {
  owner: string;
  clock: ClockWatch;
}

/** @param owner the taking by which they are at hand */
export type Handle = (ids: string[], owner: string) => Promise<void>;

/** How many rows are taken at once, for each that is handled at a time: a claim costs as much for many as for one. */
const TAKEN_AHEAD = 4;

/** How many rows are handled at a time, and how many of them by one call. */
export interface Share {
  atOnce: number;
  together: number;
}

/** Takes rows of a queue and handles them, as far as there is room, keeping their leases while it does. */
export function runLoop(
  context: Context,
  queue: Queue,
  { clock }: Worker,
  { atOnce, together }: Share,
  handle: Handle,
): Loop {
  const { store, now, log, config, newId } = context;
  const taken: string[] = [];
  /** By which taking they were taken: more is taken only once none is left. */
  let owner = newId();
  const underWay = new Map<{ ids: string[]; owner: string }, Promise<void>>();
  let stopped = false;
  const leaseUntil = () => now() + config.leaseMs;

  const renewal = setInterval(() => {
    const handled = [...underWay.keys()];
    const held = {
      ids: [...handled.flatMap(({ ids }) => ids), ...taken],
      owners: [...new Set([...handled.map((one) => one.owner), owner])],
    };
    renewLease(store.db, queue, held, leaseUntil()).catch((error: unknown) =>
      log.warn({ err: error }, 'lease not renewed'),
    );
  }, config.leaseMs / 3);

  const start = (ids: string[]) => {
    const key = { ids, owner };
    const run = handle(ids, owner)
      // The lease runs out, and another try is made.
      .catch((error: unknown) => log.error({ err: error, queue: queue.table, ids }, 'work failed'))
      .finally(() => underWay.delete(key));
    underWay.set(key, run);
  };

  /** Hands on what was taken, as far as there is room. */
  const startTaken = () => {
    while (underWay.size < atOnce && taken.length > 0) start(taken.splice(0, together));
  };

  async function takeDue(): Promise<string[]> {
    owner = newId();
    const lease = { owner, until: leaseUntil(), takesOver: !clock.isUnsure() };
    const rows = await claim(store, queue, Math.max(TAKEN_AHEAD, together) * atOnce, now(), lease);
    return rows.map(({ id }) => id);
  }

  const ended = (async () => {
    while (!stopped) {
      try {
        if (taken.length === 0) taken.push(...(await takeDue()));
        const isIdle = taken.length === 0;
        startTaken();
        if (isIdle) await pause(IDLE_MS);
        else if (taken.length > 0) await Promise.race(underWay.values());
      } catch (error) {
        log.error({ err: error, queue: queue.table }, 'queue not readable');
        await pause(TROUBLE_MS);
      }
    }
    while (taken.length > 0) {
      startTaken();
      await Promise.race(underWay.values());
    }
  })();

  return {
    async stop() {
      stopped = true;
      await ended;
      await Promise.all(underWay.values());
      clearInterval(renewal);
    },
  };
}

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));
