import type { Context } from '../context.ts';
import { MAIL_QUEUE, SUBMISSION_QUEUE } from '../store/queue.ts';
import { deliver, loadJobs } from './delivering.ts';
import { LiveWirings } from './liveWiring.ts';
import { runLanes } from './lanes.ts';
import { runLoop } from './loop.ts';
import { createMailer, sendMail } from './mailing.ts';
import { planAndStore } from './planning.ts';
import { runScheduled } from './scheduled.ts';

/** One worker: plans submissions, sends mail, delivers, and does what is due by the clock. */
export function startWorker(context: Context): { stop(): Promise<void> } {
  const owner = context.newId();
  const { concurrency } = context.config;
  const mailer = createMailer(context);
  const wirings = new LiveWirings(context.store);
  const parts = [
    runLoop(context, SUBMISSION_QUEUE, owner, concurrency, (id) => planAndStore(context, wirings, id)),
    runLoop(context, MAIL_QUEUE, owner, 4, (id) => sendMail(context, mailer, id)),
    runLanes(context, owner, {
      load: (connectionId, taken) => loadJobs(context, connectionId, taken),
      deliver: (job) => deliver(context, job, owner),
    }),
    runScheduled(context, owner),
  ];
  return {
    async stop() {
      await Promise.all(parts.map((part) => part.stop()));
      mailer.close();
    },
  };
}
