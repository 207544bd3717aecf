import type { SendingCounts } from '../../contract/sendings.ts';
import type { Context } from '../context.ts';
import { runBeats } from './beats.ts';
import { countOutcomes, nextPart } from '../planning/backfillPart.ts';
import type { PlanningContexts } from '../planning/planningContexts.ts';
import type { PlannedAgain } from '../planning/planAgain.ts';
import { DUPLICATE_ENTRY, inTransaction, type Db } from '../store/database.ts';
import { findRoute } from '../store/routes.ts';
import { advanceSending, lockDueSending, moveSending, type SendingRecord } from '../store/sendings.ts';
import { collectActions, noChanges, storeActions } from '../planning/changes.ts';

const BEAT_MS = 1_000;
const MINUTE_MS = 60_000;
/** How many are planned in one transaction at most. */
const AT_ONCE = 25;

/** Sends what is there already, a part at each beat, at the pace that was set. One worker at a time has a sending. */
export const runBackfills = (context: Context, planningContexts: PlanningContexts): { stop(): Promise<void> } =>
  runBeats(context, BEAT_MS, 'sending', () => sendPart(context, planningContexts));

/** @returns whether there may be more to do at once */
async function sendPart(context: Context, planningContexts: PlanningContexts): Promise<boolean> {
  return inTransaction(
    context.store,
    async (db) => {
      const now = context.now();
      const sending = await lockDueSending(db, now);
      if (!sending) return false;
      const route = await findRoute(db, sending.routeId);
      if (!route?.live || route.state !== 'live') {
        // A route that is paused sends nothing: it goes on when somebody resumes both.
        await moveSending(db, sending.id, 'paused', now);
        return true;
      }
      const most = Math.max(1, Math.min(AT_ONCE, Math.round((sending.perMinute * BEAT_MS) / MINUTE_MS)));
      const part = { route, chosen: sending, after: sending.cursor, limit: most, doIt: true };
      const { outcomes, last, planned } = await nextPart(db, context, planningContexts, part);
      if (last === null) {
        await moveSending(db, sending.id, 'came to its end', now);
        return true;
      }
      await store(db, context, planned, now);
      await advanceSending(db, sending.id, {
        cursor: last,
        done: sending.done + outcomes.length,
        ...added(sending, countOutcomes(outcomes)),
        dueAt: now + Math.round((outcomes.length * MINUTE_MS) / sending.perMinute),
      });
      return true;
    },
    [DUPLICATE_ENTRY],
  );
}

const added = (before: SendingRecord, counts: SendingCounts): SendingCounts => ({
  sent: before.sent + counts.sent,
  held: before.held + counts.held,
  asked: before.asked + counts.asked,
  waiting: before.waiting + counts.waiting,
  leftOut: before.leftOut + counts.leftOut,
  notChosen: before.notChosen + counts.notChosen,
});

/** Stores what is still to be done of submissions that were planned once more. */
async function store(db: Db, context: Context, planned: PlannedAgain[], now: number): Promise<void> {
  const changes = noChanges();
  for (const { submission, plan, contactId } of planned) {
    if (contactId === null || plan === null) continue;
    collectActions(context, changes, { contactId, submissionId: submission.id }, plan, now);
    const evidence = { page: '', 'user agent': '', address: '' };
    for (const event of plan.consent)
      changes.consent.push({
        ...event,
        id: context.newId(),
        contactId,
        submissionId: submission.id,
        at: now,
        evidence,
      });
  }
  await storeActions(db, changes, now);
}
