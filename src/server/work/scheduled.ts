import { eq, lt } from 'drizzle-orm';
import { CATALOGUE_REST_MS, checkConnection, nextCheckAt } from '../connecting/checking.ts';
import type { Context } from '../context.ts';
import { PARTIAL_FORM_DAYS } from '../intake/partialForms.ts';
import { StrayFiles } from '../intake/strayFiles.ts';
import { clearLooseUploads } from '../intake/uploads.ts';
import { CHANGED_THERE } from '../../core/delivery/index.ts';
import { connectionsToCheck, takeCheck, type ConnectionRecord } from '../store/connections.ts';
import { dropUnconfirmedMails, forgetMailboxDays } from '../store/mails.ts';
import { dropExpiredSessions } from '../store/accounts.ts';
import { markExpired, overdueConfirmations } from '../store/confirmations.ts';
import { inTransaction } from '../store/database.ts';
import { dropUnconfirmed, forgetOldExchanges, wasHeldSince } from '../store/deliveries.ts';
import { DAY_MS } from '../store/figures.ts';
import { deleteOldPartialForms } from '../store/partialForms.ts';
import { straightenTimes } from '../store/straighten.ts';
import { forgetNoted } from '../store/webhooks.ts';
import { learnShapes } from './learning.ts';
import type { Worker } from './loop.ts';
import { addConsentEvents, fillSearchWords } from '../store/people/index.ts';
import { workers } from '../store/schema/index.ts';

const BEAT_MS = 5_000;
/** How many old attempts lose their requests and answers at each beat: never a long statement. */
const FORGOTTEN_AT_ONCE = 500;
/** How many shares of people get their search words at each beat, who were there before words were kept. */
const FILLED_A_BEAT = 20;
/** How many files that belong to nothing are cleared away at each beat. */
const LOOSE_AT_ONCE = 50;
/** A worker that has not been seen for this long is taken for gone. */
export const WORKER_GONE_MS = 15_000;

/** Something else that is done at each beat: use cases whose time has come. */
export type Task = (context: Context) => Promise<void>;

/** What a worker does by the clock: says that it is alive, and ends what nobody confirmed in time. */
export function runScheduled(context: Context, { owner, clock }: Worker, tasks: Task[]): { stop(): Promise<void> } {
  const { store, now, log, config } = context;
  let running = Promise.resolve();
  const strays = new StrayFiles(context);
  const beat = async () => {
    await clock.afterJump(() => straightenTimes(store, now(), config.leaseMs));
    await store.db
      .insert(workers)
      .values({ id: owner, seenAt: now() })
      .onDuplicateKeyUpdate({ set: { seenAt: now() } });
    await store.db.delete(workers).where(lt(workers.seenAt, now() - 10 * WORKER_GONE_MS));
    await eachByItself(log, [
      ['ending sessions', () => dropExpiredSessions(store.db, now())],
      ['ending confirmations', () => expireConfirmations(context)],
      ...tasks.map((task) => [task.name, () => task(context)] as const),
      ['learning what payloads look like', () => learnShapes(context)],
      ['forgetting arrivals', () => forgetNoted(store.db, FORGOTTEN_AT_ONCE)],
      ['checking connections', () => checkConnections(context)],
      [
        'filling search words',
        async () => {
          for (let share = 0; share < FILLED_A_BEAT; share += 1) if (await fillSearchWords(store)) break;
        },
      ],
      ['clearing loose files', () => clearLooseUploads(context, LOOSE_AT_ONCE)],
      ['clearing stray files', () => strays.clear()],
      [
        'forgetting forms left half filled in',
        () => deleteOldPartialForms(store.db, now() - PARTIAL_FORM_DAYS * DAY_MS, FORGOTTEN_AT_ONCE),
      ],
      ['forgetting mails a day', () => forgetMailboxDays(store.db, Math.floor(now() / DAY_MS) - 1)],
      [
        'forgetting exchanges',
        () => forgetOldExchanges(store.db, now() - config.attemptDays * DAY_MS, FORGOTTEN_AT_ONCE),
      ],
    ]);
  };
  const run = () => {
    running = running.then(beat).catch((error: unknown) => log.error({ err: error }, 'scheduled work failed'));
  };
  run();
  const timer = setInterval(run, BEAT_MS);
  return {
    async stop() {
      clearInterval(timer);
      await running;
      await store.db
        .delete(workers)
        .where(eq(workers.id, owner))
        .catch(() => {});
    },
  };
}

/** Does one thing after the other; one that fails is logged by its name, and keeps none of the others from being done. */
export async function eachByItself(
  log: Pick<Context['log'], 'error'>,
  tasks: (readonly [name: string, task: () => Promise<unknown>])[],
): Promise<void> {
  for (const [name, task] of tasks)
    await task().catch((error: unknown) => log.error({ err: error, task: name }, 'scheduled work failed'));
}

/** Ends confirmations whose time is over: an event in the ledger, and what waited for them is dropped. */
export async function expireConfirmations({ store, now, newId }: Context): Promise<void> {
  for (const { id, contactId, submissionId, purposes, mail } of await overdueConfirmations(store.db, now())) {
    await inTransaction(store, async (db) => {
      if (!(await markExpired(db, id))) return;
      await addConsentEvents(
        db,
        purposes.map((purpose) => ({
          id: newId(),
          contactId,
          submissionId,
          purpose,
          channel: 'email',
          kind: 'expired',
          at: now(),
          wording: mail.subject,
          evidence: {},
        })),
      );
      await dropUnconfirmed(db, id, now());
      await dropUnconfirmedMails(db, id);
    });
  }
}

/** Verifies the connections whose time has come, one worker each: is a key still good, is a refused one good again? */
async function checkConnections(context: Context): Promise<void> {
  const { store, now } = context;
  const due = await connectionsToCheck(store.db, now());
  const checks = due.map((connection) => [connection.id, () => checkOne(context, connection)] as const);
  await eachByItself(context.log, checks);
}

async function checkOne(context: Context, connection: ConnectionRecord): Promise<void> {
  const { store, now } = context;
  const state = connection.state === 'refused' ? 'refused' : 'active';
  if (!(await takeCheck(store.db, connection, nextCheckAt(state, now())))) return;
  await checkConnection(context, connection, state === 'refused' || (await mayHaveChanged(context, connection)));
}

/** What a service offers is fetched anew after this time, though nobody asked. */
const CATALOGUE_AGE_MS = 6 * 60 * 60_000;

/** Whether the service may offer something else than we know: it is long ago, or a delivery was refused for it. */
async function mayHaveChanged({ store, now }: Context, { id, catalogueAt }: ConnectionRecord): Promise<boolean> {
  const age = now() - (catalogueAt ?? 0);
  if (age < CATALOGUE_REST_MS) return false;
  return age > CATALOGUE_AGE_MS || (await wasHeldSince(store.db, id, CHANGED_THERE, catalogueAt ?? 0));
}
