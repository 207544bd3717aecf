import { asksIn, deliveriesIn, onceMore, planSubmission, type KnownPerson, type Plan } from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import { addConfirmations } from '../store/confirmations.ts';
import { DUPLICATE_ENTRY, inTransaction, type Db } from '../store/database.ts';
import { addDeliveries } from '../store/deliveries.ts';
import { addMails } from '../store/mails.ts';
import { addConsentEvents, NOBODY, readKnownPeople, saidOfSelf } from '../store/people/index.ts';
import { findRoute, type RouteRecord } from '../store/routes.ts';
import {
  advanceSending,
  lockDueSending,
  moveSending,
  nextReceived,
  sentBefore,
  type SendingRecord,
} from '../store/sendings.ts';
import { visitOf, type SubmissionRecord } from '../store/submissions.ts';
import { NO_WIRING, type LiveWirings } from './liveWiring.ts';
import { collectActions, noChanges } from './planning.ts';

const BEAT_MS = 1_000;
const MINUTE_MS = 60_000;
/** How many are planned in one transaction at most. */
const AT_ONCE = 25;

/** What becomes of one submission that is sent again. */
export type SendingOutcome = 'sent' | 'held' | 'asked' | 'left out';

/** Sends what is there already, a part at each beat, at the pace that was set. One worker at a time has a sending. */
export function runSendings(context: Context, wirings: LiveWirings): { stop(): Promise<void> } {
  let running = Promise.resolve();
  let stopped = false;
  const beat = async () => {
    while (!stopped && (await sendPart(context, wirings)));
  };
  const run = () => {
    running = running.then(beat).catch((error: unknown) => context.log.error({ err: error }, 'sending failed'));
  };
  const timer = setInterval(run, BEAT_MS);
  return {
    async stop() {
      stopped = true;
      clearInterval(timer);
      await running;
    },
  };
}

/** @returns whether there may be more to do at once */
async function sendPart(context: Context, wirings: LiveWirings): Promise<boolean> {
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
      const next = await nextReceived(db, receivedOf(sending, route), sending.cursor, most);
      const last = next.at(-1);
      if (!last) {
        await moveSending(db, sending.id, 'came to its end', now);
        return true;
      }
      const outcomes = await sendTogether(db, context, wirings, { route, submissions: next, now });
      const of = (outcome: SendingOutcome) => outcomes.filter((one) => one === outcome).length;
      await advanceSending(db, sending.id, {
        cursor: last.id,
        done: sending.done + next.length,
        sent: sending.sent + of('sent'),
        held: sending.held + of('held'),
        asked: sending.asked + of('asked'),
        leftOut: sending.leftOut + of('left out'),
        dueAt: now + Math.round((next.length * MINUTE_MS) / sending.perMinute),
      });
      return true;
    },
    [DUPLICATE_ENTRY],
  );
}

export const receivedOf = ({ since, until }: Pick<SendingRecord, 'since' | 'until'>, { live, draft }: RouteRecord) => ({
  sourceIds: (live ?? draft).sourceIds,
  since,
  until,
});

async function sendTogether(
  db: Db,
  context: Context,
  wirings: LiveWirings,
  { route, submissions, now }: { route: RouteRecord; submissions: SubmissionRecord[]; now: number },
): Promise<SendingOutcome[]> {
  const planned = await planAgain(db, wirings, { route, submissions, now, lock: true });
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
  await addConsentEvents(db, changes.consent);
  await addConfirmations(db, changes.confirmations);
  await addMails(db, changes.mails, now);
  await addDeliveries(db, changes.deliveries, now);
  return planned.map(({ outcome }) => outcome);
}

interface PlannedAgain {
  submission: SubmissionRecord;
  /** What is still to be done of it; null for nothing. */
  plan: Plan | null;
  contactId: string | null;
  outcome: SendingOutcome;
}

/**
 * Plans submissions that are there once more, by one route. What the route sent before is not sent again; nobody who was asked
 * to confirm is asked a second time; and no mail goes out but that.
 */
export async function planAgain(
  db: Db,
  wirings: LiveWirings,
  {
    route,
    submissions,
    now,
    lock,
  }: { route: RouteRecord; submissions: SubmissionRecord[]; now: number; lock: boolean },
): Promise<PlannedAgain[]> {
  const before = await sentBefore(
    db,
    route.id,
    submissions.map(({ id }) => id),
  );
  const documents = await Promise.all(submissions.map((one) => wirings.source(one.sourceId, one.sourceVersion)));
  const said = submissions.map((one, index) => saidOfSelf(documents[index]?.fields ?? [], one.values, one.sourceId));
  const people = await readKnownPeople(db, said, { lock, answersSince: null });
  const wiringOf = await wirings.ofAll(submissions.map(({ sourceId }) => sourceId));
  const here = new Set<string>();
  const plans: PlannedAgain[] = [];
  for (const [index, submission] of submissions.entries()) {
    const document = documents[index];
    const known: KnownPerson = people[index] ?? NOBODY;
    const contactId = submission.contactId ?? known.contact?.id ?? null;
    if (!document || document.kind === 'notices' || contactId === null || before.has(submission.id) || !route.live) {
      plans.push({ submission, plan: null, contactId, outcome: 'left out' });
      continue;
    }
    const { catalogues, knowledge } = wiringOf.get(submission.sourceId) ?? NO_WIRING;
    const plan = planSubmission({
      fields: document.fields,
      statement: document.statement,
      trust: document.trust,
      values: submission.values,
      keys: said[index]?.keys ?? [],
      visit: visitOf(submission),
      routes: [{ id: route.id, name: route.name, version: route.liveVersion ?? 0, document: route.live }],
      catalogues,
      knowledge,
      known,
      now,
    });
    const left = onceMore(plan, known, (purpose) => here.has(`${contactId} ${purpose}`));
    for (const { purposes } of asksIn(left)) for (const one of purposes) here.add(`${contactId} ${one}`);
    plans.push({ submission, plan: left, contactId, outcome: outcomeOf(left) });
  }
  return plans;
}

function outcomeOf(plan: Plan): SendingOutcome {
  const deliveries = deliveriesIn(plan);
  if (asksIn(plan).length > 0) return 'asked';
  if (deliveries.some(({ held }) => held !== null)) return 'held';
  return deliveries.length > 0 ? 'sent' : 'left out';
}
