import type { Context } from '../context.ts';
import { MAIL_QUEUE, SUBMISSION_QUEUE } from '../store/queue.ts';
import { deliver, loadJobs, mostTogether, takeBundle } from './delivering.ts';
import { OutcomeWriter } from './outcomeWriter.ts';
import { PlanningContexts } from '../planning/planningContexts.ts';
import { runCounting } from './counting.ts';
import { runFeeds } from './feeding.ts';
import { runImports } from './importing.ts';
import { runLanes } from './lanes.ts';
import { runLoop } from './loop.ts';
import { ClockWatch } from './clockWatch.ts';
import { createMailer, sendMail } from './mailing.ts';
import { planAndStore } from './planning.ts';
import { runScheduled, type Task } from './scheduled.ts';
import { runChats } from './chats.ts';
import { runLapsing } from './lapsing.ts';
import { runShops } from './shops.ts';
import { runBackfills } from './backfilling.ts';

/** One group is planned while the next is read. */
const PLANNING = { atOnce: 2, together: 25 };
const MAILING = { atOnce: 4, together: 1 };

/**
 * One worker: plans submissions, sends mail, delivers, and does what is due by the clock.
 * @param tasks use cases whose time comes by the clock
 */
export function startWorker(context: Context, tasks: Task[]): { stop(): Promise<void> } {
  const owner = context.newId();
  const worker = { owner, clock: new ClockWatch(context.config.leaseMs, context.now) };
  const mailer = createMailer(context);
  const outcomeWriter = new OutcomeWriter(context);
  const planningContexts = new PlanningContexts(context.store);
  const parts = [
    runLoop(context, SUBMISSION_QUEUE, worker, PLANNING, (ids) => planAndStore(context, planningContexts, ids)),
    runLoop(context, MAIL_QUEUE, worker, MAILING, async ([id = ''], owner) => sendMail(context, mailer, { id, owner })),
    runLanes(context, worker, {
      load: (connectionId, taking) => loadJobs(context, connectionId, taking),
      together: mostTogether,
      takeBundle,
      deliver: (bundle) => deliver(context, bundle, outcomeWriter),
    }),
    runScheduled(context, worker, tasks),
    runCounting(context),
    runBackfills(context, planningContexts),
    runImports(context, owner, planningContexts),
    runFeeds(context),
    runShops(context),
    runLapsing(context),
    runChats(context),
  ];
  return {
    async stop() {
      await Promise.all(parts.map((part) => part.stop()));
      mailer.close();
    },
  };
}
