import type { Profile } from '../../contract/profile/index.ts';
import { CAUSES, isTryingOut, type Cause } from '../../core/delivery/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import { atOnce, requestsOf } from '../connectors/access.ts';
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
import type { Loop, Worker } from './loop.ts';

/** How a try ended, as far as it concerns everything else that is to go to the same connection. */
export interface Outcome {
  cause: Cause | null;
  said: string;
  waitMs: number | null;
}

/** A try that is over. */
export interface Tried {
  /** null when the service was not asked anything. */
  outcome: Outcome | null;
  /** Resolves once how it ended is stored. */
  stored: Promise<void>;
}

/** What was taken at once. */
export interface Taking {
  owner: string;
  taken: { id: string; takenOver: boolean }[];
}

/** A delivery at hand, and the taking by which it is. */
interface AtHand {
  delivery: { id: string; leaseOwner: string | null };
}

/** How taken deliveries are made ready, and how one is tried. */
export interface Delivering<Job extends AtHand> {
  load: (connectionId: string, taking: Taking) => Promise<Job[]>;
  /** How many of a connection go by one try. */
  together: (profile: Profile) => number;
  /** Takes out of those at hand what is tried next, together. */
  takeBundle: (jobs: Job[], most: number) => Job[];
  deliver: (bundle: Job[]) => Promise<Tried>;
}

const IDLE_MS = 150;
/** After the database failed to answer, before it is asked again. */
const TROUBLE_MS = 1_000;
/** How many deliveries are taken at once for each that is under way: a claim costs as much for many as for one. */
const TAKEN_AHEAD = 8;
/** How many tries may be over and not stored yet, for each that may be under way. */
const UNSTORED = 8;
/** The same where many go by one request. */
const BUNDLES_AHEAD = 4;

interface Lane<Job> {
  taken: Job[];
  /** How many tries are being made. */
  busy: number;
  /** Tries that are not stored yet, by what they try. */
  underWay: Map<Job[], Promise<void>>;
  together: number;
  atOnce: number;
  /** Whether something failed there since it last went well. */
  troubled: boolean;
}

/**
 * Takes deliveries, each connection in a lane of its own: a service that is slow or out of order fills its own lane only,
 * and the others keep their speed.
 */
export function runLanes<Job extends AtHand>(
  context: Context,
  { clock }: Worker,
  { load, together, takeBundle, deliver }: Delivering<Job>,
): Loop {
  const { store, now, log, config, newId } = context;
  const lanes = new Map<string, Lane<Job>>();
  let stopped = false;
  /** Whether a lane ran empty since the last look. */
  let isWoken = false;
  let endRest = () => {};
  const wake = () => {
    isWoken = true;
    endRest();
  };
  const leaseUntil = () => now() + config.leaseMs;

  const renewal = setInterval(() => {
    const held = heldOf(
      [...lanes.values()].flatMap(({ taken, underWay }) => [...[...underWay.keys()].flat(), ...taken]),
    );
    renewLease(store.db, DELIVERY_QUEUE, held, leaseUntil()).catch((error: unknown) =>
      log.warn({ err: error }, 'lease not renewed'),
    );
  }, config.leaseMs / 3);

  const startTaken = (connectionId: string, lane: Lane<Job>) => {
    while (lane.busy < lane.atOnce && lane.underWay.size < lane.atOnce * UNSTORED) {
      const bundle = takeBundle(lane.taken, lane.together);
      if (bundle.length === 0) break;
      const run = tryBundle(connectionId, lane, bundle)
        // The lease runs out, and another try is made.
        .catch((error: unknown) => log.error({ err: error, ids: heldOf(bundle).ids }, 'delivering failed'))
        .finally(() => {
          lane.underWay.delete(bundle);
          startTaken(connectionId, lane);
        });
      lane.underWay.set(bundle, run);
    }
    if (lane.taken.length < leastAtHand(lane)) wake();
  };

  /** The next request goes out while the end of this one is being stored, unless there is trouble. */
  async function tryBundle(connectionId: string, lane: Lane<Job>, bundle: Job[]): Promise<void> {
    lane.busy += 1;
    let stored: Promise<void> | undefined;
    try {
      const tried = await deliver(bundle);
      ({ stored } = tried);
      stored.catch(() => {}); // reported below
      // What holds up everything there is stored before anything else is taken.
      if (tried.outcome && isTrouble(tried.outcome)) await stored;
      if (tried.outcome) await learn(connectionId, lane, tried.outcome);
    } finally {
      lane.busy -= 1;
      startTaken(connectionId, lane);
    }
    await stored;
  }

  /** What one try says about the service is noted for all workers; what was taken for a troubled one is given back. */
  async function learn(connectionId: string, lane: Lane<Job>, outcome: Outcome): Promise<void> {
    const { cause, waitMs } = outcome;
    const isService = isTrouble(outcome);
    if (cause === null && waitMs === null && !lane.troubled) return;
    lane.troubled = isService;
    await noteOutcome(store, connectionId, outcome, now(), Math.random());
    if (isService || waitMs !== null) await letGo(lane);
  }

  async function letGo(lane: Lane<Job>): Promise<void> {
    const byOwner = groupBy(lane.taken.splice(0), ({ delivery }) => delivery.leaseOwner ?? '');
    for (const [owner, jobs] of byOwner)
      await giveBack(store.db, heldOf(jobs).ids, owner).catch((error: unknown) =>
        log.warn({ err: error }, 'not given back: the lease runs out'),
      );
  }

  async function fill(connection: DueConnection): Promise<number> {
    const profile = findShippedProfile(connection.profile) ?? ownProfile(connection);
    if (!profile) return 0;
    const lane = lanes.get(connection.id) ?? {
      taken: [],
      busy: 0,
      underWay: new Map<Job[], Promise<void>>(),
      atOnce: 1,
      together: 1,
      troubled: false,
    };
    lanes.set(connection.id, lane);
    lane.atOnce = atOnce(profile);
    lane.together = together(profile);
    lane.troubled ||= connection.failures > 0;
    // What is at hand is sent before more is taken: other workers take their share.
    if (lane.taken.length >= leastAtHand(lane)) return 0;
    const { perSecond, burst } = profile.limits;
    const owner = newId();
    const taken = await claimDeliveries(
      store,
      {
        connectionId: connection.id,
        most: Math.max(lane.atOnce * TAKEN_AHEAD, lane.together * BUNDLES_AHEAD),
        pace:
          perSecond === undefined
            ? null
            : {
                perSecond,
                burst: burst ?? Math.ceil(perSecond),
                ...requestsOf(profile),
                together: lane.together,
              },
        tryingOut: isTryingOut({ failures: connection.failures, restUntil: 0 }),
      },
      now(),
      { owner, until: leaseUntil(), takesOver: !clock.isUnsure() },
    );
    lane.taken.push(...(await load(connection.id, { taken, owner })));
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

const heldOf = (jobs: AtHand[]) => ({
  ids: jobs.map(({ delivery }) => delivery.id),
  owners: [...new Set(jobs.map(({ delivery }) => delivery.leaseOwner ?? ''))],
});

/** Whether it concerns all that goes to the same service. */
const isTrouble = ({ cause }: Outcome): boolean =>
  cause !== null && (CAUSES[cause].action === 'retry' || cause === 'credentials refused');

/** From how few at hand on more is taken, so that no request has to wait for the taking. */
const leastAtHand = ({ atOnce, together }: Lane<unknown>): number =>
  Math.max((atOnce * TAKEN_AHEAD) / 2, (together * BUNDLES_AHEAD) / 2);

const ownProfile = ({ ownProfile: document }: DueConnection): Profile | null =>
  (typeof document === 'string' ? JSON.parse(document) : document) as Profile | null;
