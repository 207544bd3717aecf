import type { Profile } from '../../contract/profile/index.ts';
import { CAUSES, isTryingOut, type Cause } from '../../core/delivery/index.ts';
import { atOnce, requestsEach } from '../connectors/access.ts';
import { findShippedProfile } from '../connectors/registry.ts';
import type { Context } from '../context.ts';
import { noteOutcome } from '../store/health.ts';
import {
  claimDeliveries,
  DELIVERY_QUEUE,
  dueConnections,
  giveBack,
  renewLease,
  type DueConnection,
} from '../store/queue.ts';
import type { Loop } from './loop.ts';

/** How a try ended, as far as it concerns everything else that is to go to the same connection. */
export interface Outcome {
  cause: Cause | null;
  said: string;
  waitMs: number | null;
}

/** How taken deliveries are made ready, and how one is tried. */
export interface Delivering<Job extends { delivery: { id: string } }> {
  load: (connectionId: string, taken: { id: string; takenOver: boolean }[]) => Promise<Job[]>;
  deliver: (job: Job, owner: string) => Promise<Outcome>;
}

const IDLE_MS = 150;
/** After the database failed to answer, before it is asked again. */
const TROUBLE_MS = 1_000;
/** How many deliveries are taken at once for each that is under way: a claim costs as much for many as for one. */
const TAKEN_AHEAD = 4;

interface Lane<Job> {
  taken: Job[];
  underWay: Map<string, Promise<void>>;
  atOnce: number;
  /** Whether something failed there since it last went well. */
  troubled: boolean;
}

/**
 * Takes deliveries, each connection in a lane of its own: a service that is slow or out of order fills its own lane only,
 * and the others keep their speed.
 */
export function runLanes<Job extends { delivery: { id: string } }>(
  context: Context,
  owner: string,
  { load, deliver }: Delivering<Job>,
): Loop {
  const { store, now, log, config } = context;
  const lanes = new Map<string, Lane<Job>>();
  let stopped = false;
  /** Whether a lane ran empty since the last look. */
  let isWoken = false;
  let endRest = () => {};
  const wake = () => {
    isWoken = true;
    endRest();
  };
  const lease = () => ({ owner, until: now() + config.leaseMs });

  const renewal = setInterval(() => {
    const ids = [...lanes.values()].flatMap(({ taken, underWay }) => [
      ...underWay.keys(),
      ...taken.map(({ delivery }) => delivery.id),
    ]);
    renewLease(store.db, DELIVERY_QUEUE, ids, lease()).catch((error: unknown) =>
      log.warn({ err: error }, 'lease not renewed'),
    );
  }, config.leaseMs / 3);

  const startTaken = (connectionId: string, lane: Lane<Job>) => {
    while (lane.underWay.size < lane.atOnce) {
      const job = lane.taken.shift();
      if (!job) return;
      const { id } = job.delivery;
      const run = deliver(job, owner)
        .then((outcome) => learn(connectionId, lane, outcome))
        // The lease runs out, and another try is made.
        .catch((error: unknown) => log.error({ err: error, id }, 'delivering failed'))
        .finally(() => {
          lane.underWay.delete(id);
          startTaken(connectionId, lane);
          if (lane.taken.length === 0) wake();
        });
      lane.underWay.set(id, run);
    }
  };

  /** What one try says about the service is noted for all workers; what was taken for a troubled one is given back. */
  async function learn(connectionId: string, lane: Lane<Job>, outcome: Outcome): Promise<void> {
    const { cause, waitMs } = outcome;
    const isService = cause !== null && (CAUSES[cause].action === 'retry' || cause === 'credentials refused');
    if (cause === null && waitMs === null && !lane.troubled) return;
    lane.troubled = isService;
    await noteOutcome(store.db, connectionId, outcome, now(), Math.random());
    if (isService || waitMs !== null) await letGo(lane);
  }

  const letGo = (lane: Lane<Job>): Promise<void> =>
    giveBack(
      store.db,
      lane.taken.splice(0).map(({ delivery }) => delivery.id),
      owner,
    ).catch((error: unknown) => log.warn({ err: error }, 'not given back: the lease runs out'));

  async function fill(connection: DueConnection): Promise<number> {
    const profile = findShippedProfile(connection.profile) ?? ownProfile(connection);
    if (!profile) return 0;
    const lane = lanes.get(connection.id) ?? {
      taken: [],
      underWay: new Map<string, Promise<void>>(),
      atOnce: 1,
      troubled: false,
    };
    lanes.set(connection.id, lane);
    lane.atOnce = atOnce(profile);
    lane.troubled ||= connection.failures > 0;
    // What is at hand is sent before more is taken: other workers take their share.
    if (lane.taken.length > 0 || lane.underWay.size >= lane.atOnce) return 0;
    const { perSecond, burst } = profile.limits;
    const taken = await claimDeliveries(
      store,
      {
        connectionId: connection.id,
        most: lane.atOnce * TAKEN_AHEAD,
        pace:
          perSecond === undefined
            ? null
            : { perSecond, burst: burst ?? Math.ceil(perSecond), requestsEach: requestsEach(profile) },
        tryingOut: isTryingOut({ failures: connection.failures, restUntil: 0 }),
      },
      now(),
      lease(),
    );
    lane.taken.push(...(await load(connection.id, taken)));
    startTaken(connection.id, lane);
    return taken.length;
  }

  const ended = (async () => {
    while (!stopped) {
      try {
        const due = await dueConnections(store.db, now());
        const counts = await Promise.all(due.map(fill));
        if (counts.every((count) => count === 0)) await rest(IDLE_MS);
        else await rest(0);
      } catch (error) {
        log.error({ err: error }, 'deliveries not readable');
        await rest(TROUBLE_MS);
      }
    }
  })();

  /** Waits, unless a lane ran empty meanwhile. */
  function rest(ms: number): Promise<void> {
    if (isWoken) ms = 0;
    return new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, ms);
      endRest = () => {
        clearTimeout(timer);
        resolve();
      };
    }).finally(() => (isWoken = false));
  }

  return {
    async stop() {
      stopped = true;
      wake();
      await ended;
      for (const lane of lanes.values()) {
        await letGo(lane);
        await Promise.all(lane.underWay.values());
      }
      clearInterval(renewal);
    },
  };
}

const ownProfile = ({ ownProfile: document }: DueConnection): Profile | null =>
  (typeof document === 'string' ? JSON.parse(document) : document) as Profile | null;
