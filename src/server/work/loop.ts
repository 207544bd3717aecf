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

/** Takes rows of a queue and handles up to `concurrency` of them at a time, keeping their leases while it does. */
export function runLoop(context: Context, queue: Queue, owner: string, concurrency: number, handle: Handle): Loop {
  const { store, now, log, config } = context;
  const underWay = new Map<string, Promise<void>>();
  let stopped = false;
  const lease = () => ({ owner, until: now() + config.leaseMs });

  const renewal = setInterval(() => {
    renewLease(store.db, queue, [...underWay.keys()], lease()).catch((error: unknown) =>
      log.warn({ err: error }, 'lease not renewed'),
    );
  }, config.leaseMs / 3);

  const start = (id: string, takenOver: boolean) => {
    const run = handle(id, owner, takenOver)
      // The lease runs out, and another try is made.
      .catch((error: unknown) => log.error({ err: error, queue: queue.table, id }, 'work failed'))
      .finally(() => underWay.delete(id));
    underWay.set(id, run);
  };

  const ended = (async () => {
    while (!stopped) {
      const free = concurrency - underWay.size;
      try {
        const taken = free > 0 ? await claim(store, queue, free, now(), lease()) : [];
        taken.forEach(({ id, takenOver }) => start(id, takenOver));
        if (taken.length === 0) await Promise.race([pause(IDLE_MS), ...(free === 0 ? underWay.values() : [])]);
      } catch (error) {
        log.error({ err: error, queue: queue.table }, 'queue not readable');
        await pause(TROUBLE_MS);
      }
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
