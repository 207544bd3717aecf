import type { VerifyResult } from '../../contract/connection.ts';
import { noteDelivered } from '../store/counting.ts';
import { CHANGED_THERE, type Fault } from '../../core/delivery/index.ts';
import { CATALOGUE_REST_MS, refuse } from '../connecting/checking.ts';
import type { Context } from '../context.ts';
import { changeConnection, checkSoon } from '../store/connections.ts';
import { inTransaction } from '../store/database.ts';
import { endTries } from '../store/deliveries.ts';
import { nextState, type FinishedAttempt } from './nextState.ts';

/** How long outcomes gather after several were stored, so that a busy lane stores them by few transactions. */
const GATHER_MS = 50;
/** How many outcomes are stored by one transaction at most. */
const MOST = 50;

interface Waiting {
  ended: FinishedAttempt;
  resolve: () => void;
  reject: (error: unknown) => void;
}

/**
 * Stores how tries ended. While one transaction is under way, those that end meanwhile gather, and are stored together by
 * the next: one alone waits for nothing, and many cost little more than one.
 */
export class OutcomeWriter {
  readonly #context: Context;
  #waiting: Waiting[] = [];
  #isStoring = false;

  constructor(context: Context) {
    this.#context = context;
  }

  /** Resolves once it is stored, or another worker turned out to have taken the delivery over. */
  store(ended: FinishedAttempt): Promise<void> {
    return new Promise((resolve, reject) => {
      this.#waiting.push({ ended, resolve, reject });
      if (!this.#isStoring) void this.#storeWaiting();
    });
  }

  async #storeWaiting(): Promise<void> {
    this.#isStoring = true;
    while (this.#waiting.length > 0) {
      // Those of one bundle end in the same moment.
      await new Promise((resolve) => setImmediate(resolve));
      const group = this.#waiting.splice(0, MOST);
      if (!(await this.#storeGroup(group))) for (const one of group) await this.#storeGroup([one]);
      if (group.length > 1 && group.length < MOST) await new Promise((resolve) => setTimeout(resolve, GATHER_MS));
    }
    this.#isStoring = false;
  }

  /** @returns false when it failed, and is to be tried one by one: one that cannot be stored holds up none of the others */
  async #storeGroup(group: Waiting[]): Promise<boolean> {
    try {
      await storeOutcomes(
        this.#context,
        group.map(({ ended }) => ended),
      );
      for (const { resolve } of group) resolve();
      return true;
    } catch (error) {
      const [only, ...others] = group;
      if (others.length > 0) return false;
      only?.reject(error);
      return true;
    }
  }
}

function storeOutcomes(context: Context, group: FinishedAttempt[]): Promise<void> {
  const now = context.now();
  const all = group.map((ended) => ({ ...ended, stored: nextState(ended, now) }));
  return inTransaction(context.store, async (db) => {
    const stillOurs = await endTries(
      db,
      all.map(({ stored }) => stored),
    );
    const ours = all.filter(({ stored }) => stillOurs.has(stored));
    // That something ends somewhere is no arrival of what a route sends.
    const arrived = ours.filter(
      ({ stored, delivery }) => stored.end.state === 'delivered' && delivery.intent.ends === null,
    );
    await noteDelivered(
      db,
      arrived.map(({ delivery }) => delivery.id),
      now,
    );
    const refused = new Map<string, Fault>();
    const changed = new Set<string>();
    for (const { delivery, ending } of ours) {
      if (ending.kind !== 'failed') continue;
      if (ending.fault.cause === 'credentials refused') refused.set(delivery.connectionId, ending.fault);
      if (ending.answerUntrue) await changeConnection(db, delivery.connectionId, { answerUntrueAt: now });
      if (CHANGED_THERE.includes(ending.fault.cause)) changed.add(delivery.connectionId);
    }
    await checkSoon(db, [...changed], CATALOGUE_REST_MS, now);
    for (const [connectionId, fault] of refused) await refuse(context, db, connectionId, refusal(fault, now));
  });
}

const refusal = ({ said }: Fault, now: number): VerifyResult => ({
  ok: false,
  about: 'service',
  refused: true,
  problem: `The service does not take our credentials any more${said === '' ? '.' : ` ("${said}").`}`,
  nextStep: 'Replace them, or switch them on again there. It is asked every minute; what is held goes on by itself.',
  at: new Date(now).toISOString(),
});
