import type { Context } from '../context.ts';
import { claim, renewLease, type Queue } from '../store/queue.ts';

const IDLE_MS = 150;
/** After the database failed to answer, before it is asked again. */
const TROUBLE_MS = 1_000;

export interface Loop {
  /** Takes nothing new, and waits for what is under way. */
  stop(): Promise<void>;
}

export type Handle = (id: string, owner: string, takenOver: boolean) => Promise<void>;

/** How many rows are taken at once, for each that is handled at a time: a claim costs as much for many as for one. */
const TAKEN_AHEAD = 4;

/** Takes rows of a queue and handles up to `concurrency` of them at a time, keeping their leases while it does. */
export function runLoop(context: Context, queue: Queue, owner: string, concurrency: number, handle: Handle): Loop {
  const { store, now, log, config } = context;
  const taken: { id: string; takenOver: boolean }[] = [];
  const underWay = new Map<string, Promise<void>>();
  let stopped = false;
  const lease = () => ({ owner, until: now() + config.leaseMs });

  const renewal = setInterval(() => {
    const ids = [...underWay.keys(), ...taken.map(({ id }) => id)];
    renewLease(store.db, queue, ids, lease()).catch((error: unknown) => log.warn({ err: error }, 'lease not renewed'));
  }, config.leaseMs / 3);

  const start = ({ id, takenOver }: { id: string; takenOver: boolean }) => {
    const run = handle(id, owner, takenOver)
      // The lease runs out, and another try is made.
      .catch((error: unknown) => log.error({ err: error, queue: queue.table, id }, 'work failed'))
      .finally(() => underWay.delete(id));
    underWay.set(id, run);
  };

  /** Hands on what was taken, as far as there is room. */
  const startTaken = () => {
    while (underWay.size < concurrency) {
      const next = taken.shift();
      if (!next) return;
      start(next);
    }
  };

  const ended = (async () => {
    while (!stopped) {
      try {
        if (taken.length === 0) taken.push(...(await claim(store, queue, concurrency * TAKEN_AHEAD, now(), lease())));
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
