import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Context } from '../../src/server/context.ts';
import { addConnection, findConnection } from '../../src/server/store/connections.ts';
import { findDelivery, markBegun, type DeliveryRecord } from '../../src/server/store/deliveries.ts';
import {
  claimDeliveries,
  DELIVERY_QUEUE,
  giveBack,
  MAIL_QUEUE,
  type Queue,
  type Share,
} from '../../src/server/store/queue.ts';
import { straightenTimes } from '../../src/server/store/straighten.ts';
import { ClockWatch } from '../../src/server/work/clockWatch.ts';
import { loadJobs, type Job } from '../../src/server/work/delivering.ts';
import { OutcomeWriter } from '../../src/server/work/outcomeWriter.ts';
import { runLanes } from '../../src/server/work/lanes.ts';
import { runLoop, type Loop } from '../../src/server/work/loop.ts';
import type { DeliveryState } from '../../src/core/delivery/index.ts';
import { ownContext } from '../world/context.ts';
import { eventually } from '../world/processes.ts';

let context: Context;
let number = 0;
const NOW = 1_000_000;
const OWNER = 'this-worker';

beforeAll(async () => {
  context = await ownContext();
});
afterAll(() => context.store.close());
beforeEach(async () => {
  for (const table of ['deliveries', 'attempts', 'connection_health'])
    await context.store.pool.query(`DELETE FROM ${table}`);
});

const idOf = (name: string) => name.padEnd(36, '-');

/** A delivery as a plan leaves it. */
async function planned(
  contact: string,
  more: { state?: DeliveryState; dueAt?: number; connection?: string } = {},
): Promise<string> {
  const id = idOf(`d${(number += 1)}`);
  const { state = 'queued', dueAt = NOW - 10, connection = 'c' } = more;
  await context.store.pool.query(
    `INSERT INTO deliveries (id, submission_id, contact_id, connection_id, route_id, route_version, target_id, intent,
      left_out, state, created_at, due_at) VALUES (?, ?, ?, ?, ?, 1, 0, '{}', '[]', ?, 0, ?)`,
    [id, idOf('s'), idOf(contact), idOf(connection), idOf('r'), state, dueAt],
  );
  return id;
}

const claim = async (more: Partial<Share> = {}, now = NOW, owner = OWNER) =>
  (
    await claimDeliveries(
      context.store,
      { connectionId: idOf('c'), most: 10, pace: null, tryingOut: false, ...more },
      now,
      { owner, until: now + 15_000, takesOver: true },
    )
  ).map(({ id }) => id);

const connected = (id: string) =>
  addConnection(context.store.db, {
    id,
    profile: 'tern-post',
    name: 'Tern Post',
    baseUrl: 'https://tern.example',
    secret: '',
    hints: {},
    tokens: null,
    state: 'active',
    verify: null,
    catalogue: null,
    catalogueAt: null,
    changes: [],
    changesAt: null,
    answerUntrueAt: null,
    checkAt: 0,
    createdAt: 0,
  });

describe('taking deliveries', () => {
  it('takes what is due, of this connection only', async () => {
    const due = await planned('a');
    await planned('b', { dueAt: NOW + 1 });
    await planned('c', { connection: 'other' });
    await planned('d', { state: 'waiting' });
    expect(await claim()).toEqual([due]);
    expect(await claim()).toEqual([]);
  });

  it.each(['queued', 'retrying', 'sending', 'held'] as const)(
    "takes nothing of a person whose earlier one is %s, and lets others' go on",
    async (state) => {
      await planned('a', { state, dueAt: NOW + 60_000 });
      await planned('a');
      const other = await planned('b');
      expect(await claim()).toEqual([other]);
    },
  );

  it('takes those that are tried again before those that are new, and each in the order in which they are due', async () => {
    const late = await planned('a', { dueAt: NOW - 1 });
    const early = await planned('b', { dueAt: NOW - 50 });
    const again = await planned('c', { state: 'retrying', dueAt: NOW - 5 });
    expect(await claim()).toEqual([again, early, late]);
  });

  it('takes over what another worker left behind, once its lease is over, and says so', async () => {
    const id = await planned('a');
    await claim({}, NOW, 'another');
    expect(await claim({}, NOW + 14_999)).toEqual([]);
    const taken = await claimDeliveries(
      context.store,
      { connectionId: idOf('c'), most: 1, pace: null, tryingOut: false },
      NOW + 15_001,
      { owner: OWNER, until: NOW + 30_000, takesOver: true },
    );
    expect(taken).toEqual([{ id, takenOver: true }]);
  });

  it('gives back what was not begun, as if it had never been taken', async () => {
    const id = await planned('a');
    await claim();
    await giveBack(context.store.db, [id], OWNER);
    expect(await findDelivery(context.store.db, id)).toMatchObject({ state: 'queued', tries: 0, leaseOwner: null });
    expect(await claim()).toEqual([id]);
  });

  it('lets one alone try whether a service is back', async () => {
    await planned('a');
    await planned('b');
    expect(await claim({ tryingOut: true })).toHaveLength(1);
    expect(await claim({ tryingOut: true })).toEqual([]);
  });
});

describe('the pace of a service', () => {
  const pace = (more: object) => ({ perSecond: 10, burst: 10, together: 1, perTry: 2, perPerson: 0, ...more });
  const many = (count: number) => Promise.all(Array.from({ length: count }, (_, index) => planned(`p${index}`)));

  it('is kept together by all workers, and fills again with time', async () => {
    await many(12);
    expect(await claim({ pace: pace({}) }, NOW, 'one')).toHaveLength(5);
    expect(await claim({ pace: pace({}) }, NOW, 'two')).toEqual([]);
    expect(await claim({ pace: pace({}) }, NOW + 400, 'two')).toHaveLength(2);
    // Spent by a clock that was an hour ahead: it stands still for as long as it takes to fill, and no longer.
    await context.store.pool.query('UPDATE connection_health SET budget_full_at = ?', [NOW + 3_600_000]);
    expect(await claim({ pace: pace({}) }, NOW + 1_000, 'two')).toEqual([]);
    expect((await claim({ pace: pace({}) }, NOW + 1_800, 'two')).length).toBeGreaterThan(0);
  });

  it('goes further where several go by one request', async () => {
    await many(30);
    expect(await claim({ most: 40, pace: pace({ together: 5 }) })).toHaveLength(25);
  });

  it('counts what each person needs besides', async () => {
    await many(30);
    expect(await claim({ most: 40, pace: pace({ together: 5, perPerson: 1 }) })).toHaveLength(6);
  });
});

const ended = (delivery: DeliveryRecord, outcome: string) => ({
  delivery,
  ending: { kind: 'delivered' as const, rows: [], provedBy: 'look' as const, outcome },
  startedAt: NOW,
  exchanges: [],
});

describe('storing how tries ended', () => {
  async function taken(count: number): Promise<DeliveryRecord[]> {
    const ids = await Promise.all(Array.from({ length: count }, (_, index) => planned(`q${index}`)));
    await claim({ most: count });
    const found = await Promise.all(ids.map((id) => findDelivery(context.store.db, id)));
    return found.flatMap((delivery) => delivery ?? []);
  }
  const stateOf = async ({ id }: DeliveryRecord) => (await findDelivery(context.store.db, id))?.state;

  it('stores many, each with its try', async () => {
    const deliveries = await taken(60);
    const endings = new OutcomeWriter(context);
    await Promise.all(deliveries.map((delivery) => endings.store(ended(delivery, `end of ${delivery.id}`.trim()))));
    expect(await Promise.all(deliveries.map(stateOf))).toEqual(Array(60).fill('delivered'));
    const [rows] = await context.store.pool.query('SELECT delivery_id, number, outcome FROM attempts');
    expect(rows).toHaveLength(60);
    for (const row of rows as { delivery_id: string; number: number; outcome: string }[])
      expect(row).toMatchObject({ number: 1, outcome: `end of ${row.delivery_id}` });
  });

  it('notes of a service whose answer was not true that its answers are not relied on', async () => {
    const [delivery] = await taken(1);
    if (!delivery) throw new Error('one was expected');
    await connected(delivery.connectionId);
    const fault = { cause: 'differs after sending' as const, said: '', waitMs: null };
    const ending = { kind: 'failed' as const, fault, answerUntrue: true };
    await new OutcomeWriter(context).store({ ...ended(delivery, ''), ending });
    expect((await findConnection(context.store.db, delivery.connectionId))?.answerUntrueAt).toBeGreaterThan(0);
  });

  it('stores the others when one of them cannot be stored', async () => {
    const deliveries = await taken(4);
    const endings = new OutcomeWriter(context);
    const outcomes = await Promise.allSettled(
      deliveries.map((delivery, index) =>
        endings.store(ended(delivery, index === 2 ? 'longer than any outcome may be '.repeat(9) : 'delivered')),
      ),
    );
    expect(outcomes.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'fulfilled']);
    expect(await Promise.all(deliveries.map(stateOf))).toEqual(['delivered', 'delivered', 'sending', 'delivered']);
  });

  it('stores nothing of what another worker took over meanwhile', async () => {
    const [mine, lost] = await taken(2);
    if (!mine || !lost) throw new Error('two were expected');
    await context.store.pool.query('UPDATE deliveries SET lease_owner = ? WHERE id = ?', ['another', lost.id]);
    const endings = new OutcomeWriter(context);
    await Promise.all([mine, lost].map((delivery) => endings.store(ended(delivery, 'delivered'))));
    expect(await Promise.all([mine, lost].map(stateOf))).toEqual(['delivered', 'sending']);
    const [rows] = await context.store.pool.query('SELECT delivery_id FROM attempts');
    expect(rows).toEqual([{ delivery_id: mine.id }]);
  });
});

describe('a worker that lost what it had taken, and took it once more', () => {
  /** Whether each try that came to sending was let through. */
  async function begun(queue: Queue, work: (context: Context, tried: (owner: string) => Promise<void>) => Loop) {
    const owners: string[] = [];
    let go = () => {};
    const gate = new Promise<void>((resolve) => (go = resolve));
    const loop = work({ ...context, now: () => NOW }, async (owner) => {
      owners.push(owner);
      await gate;
    });
    await eventually(
      () => Promise.resolve(owners.length),
      (count) => count === 1,
    );
    // The database was away, say, for longer than the lease lasts.
    await context.store.pool.query(`UPDATE ${queue.table} SET lease_until = ?`, [NOW - 1]);
    await eventually(
      () => Promise.resolve(owners.length),
      (count) => count === 2,
    );
    go();
    await loop.stop();
    return new Set(owners).size;
  }
  const worker = { owner: OWNER, clock: new ClockWatch(15_000, () => performance.now()) };

  it('sends it once', async () => {
    await context.store.pool.query('DELETE FROM connections');
    await connected(idOf('c'));
    const id = await planned('a');
    const sent: boolean[] = [];
    await begun(DELIVERY_QUEUE, (ofTest, tried) =>
      runLanes<Job>(ofTest, worker, {
        load: (connectionId, taking) => loadJobs(ofTest, connectionId, taking),
        together: () => 1,
        takeBundle: (jobs) => jobs.splice(0, 1),
        deliver: async ([job]) => {
          if (!job) throw new Error('one was expected');
          await tried(job.delivery.leaseOwner ?? '');
          sent.push(await markBegun(context.store.db, job.delivery, NOW));
          return { outcome: null, stored: new OutcomeWriter(context).store(ended(job.delivery, 'delivered')) };
        },
      }),
    );
    expect(sent.sort()).toEqual([false, true]);
    const [rows] = await context.store.pool.query('SELECT outcome FROM attempts WHERE delivery_id = ?', [id]);
    expect(rows).toEqual([{ outcome: 'delivered' }]);
  });

  it('has its mail by one taking', async () => {
    await context.store.pool.query('DELETE FROM mails');
    await context.store.pool.query(
      `INSERT INTO mails (id, kind, submission_id, contact_id, route_id, sent_to, subject, text, state, created_at, due_at)
        VALUES (?, 'answer', ?, ?, ?, '[]', '', '', 'queued', 0, 0)`,
      [idOf('m'), idOf('s'), idOf('a'), idOf('r')],
    );
    const owners = await begun(MAIL_QUEUE, (ofTest, tried) =>
      runLoop(ofTest, MAIL_QUEUE, worker, { atOnce: 4, together: 1 }, (_, owner) => tried(owner)),
    );
    expect(owners).toBe(2);
  });
});

describe('times that a clock told which was ahead', () => {
  const dueAt = async (id: string) => (await findDelivery(context.store.db, id))?.dueAt;
  const MINUTE = 60_000;

  it('are put right, and no others', async () => {
    const queued = await planned('a', { dueAt: NOW + 60 * MINUTE });
    const apart = await planned('b', { dueAt: NOW + MINUTE });
    const retrying = await planned('c', { state: 'retrying', dueAt: NOW + 60 * MINUTE });
    const soon = await planned('d', { state: 'retrying', dueAt: NOW + 15 * MINUTE });
    const shownLate = await planned('e', { state: 'retrying', dueAt: NOW + 60 * MINUTE });
    await context.store.pool.query("UPDATE deliveries SET cause = 'not seen yet' WHERE id = ?", [shownLate]);
    const sending = await planned('f', { state: 'sending' });
    await context.store.pool.query('UPDATE deliveries SET lease_until = ? WHERE id = ?', [NOW + 60 * MINUTE, sending]);
    await straightenTimes(context.store, NOW, 15_000);
    expect(await Promise.all([queued, apart, retrying, soon, shownLate].map(dueAt))).toEqual([
      NOW,
      NOW + MINUTE,
      NOW,
      NOW + 15 * MINUTE,
      NOW + 60 * MINUTE,
    ]);
    expect((await findDelivery(context.store.db, sending))?.leaseUntil).toBe(NOW + 15_000);
  });
});
