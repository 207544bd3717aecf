import { saidPartsOf } from '../../core/intake/index.ts';
import type { Context } from '../context.ts';
import type { Condition } from '../../core/conditions/index.ts';
import {
  NOBODY,
  asksIn,
  deliveriesIn,
  matchesSelection,
  isOfPeople,
  onceMore,
  planSubmission,
  type KnownPerson,
  type Plan,
} from '../../core/plan/index.ts';
import type { Db } from '../store/database.ts';
import { readKnowledge } from '../store/knowledge.ts';
import { readKnownPeople, identityClaims } from '../store/people/index.ts';
import type { RouteRecord } from '../store/routes.ts';
import { sentBefore } from '../store/sendings.ts';
import { visitWithSign } from '../intake/visitors.ts';
import type { SubmissionRecord } from '../store/submissions.ts';
import { importedIn, importsOf } from './imported.ts';
import { NO_CONTEXT, type PlanningContexts } from './planningContexts.ts';
import { shownTo } from './shown.ts';

/** What becomes of one submission that is sent again. */
export type SendingOutcome = 'sent' | 'held' | 'asked' | 'waiting' | 'left out' | 'not chosen';

export interface PlannedAgain {
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
  context: Pick<Context, 'config' | 'now'>,
  db: Db,
  planningContexts: PlanningContexts,
  {
    route,
    submissions,
    when,
    lock,
  }: {
    route: RouteRecord;
    submissions: SubmissionRecord[];
    /** For whom; null for everybody. */
    when: Condition | null;
    lock: boolean;
  },
): Promise<PlannedAgain[]> {
  const now = context.now();
  const before = await sentBefore(
    db,
    route.id,
    submissions.map(({ id }) => id),
  );
  const documents = await Promise.all(
    submissions.map((one) => planningContexts.source(one.sourceId, one.sourceVersion)),
  );
  const said = submissions.map((one, index) =>
    identityClaims(documents[index]?.fields ?? [], one.values, one.sourceId),
  );
  const people = await readKnownPeople(db, said, { lock, answersSince: null });
  const planningContextOf = await planningContexts.ofAll(submissions.map(({ sourceId }) => sourceId));
  const asked = isOfPeople(when) ? await readKnowledge(db) : null;
  const importOf = await importsOf(
    db,
    submissions.flatMap((submission, index) => {
      const document = documents[index];
      return document ? [{ submission, document }] : [];
    }),
  );
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
    const { catalogues, knowledge } = planningContextOf.get(submission.sourceId) ?? NO_CONTEXT;
    const { fields, statement, trust } = document;
    const { words: shown } = await shownTo(planningContexts, document, submission);
    const visit = visitWithSign(context, submission);
    const imported = importedIn(document, importOf(submission, document));
    const tells = saidPartsOf(document);
    const about = { shown, fields, statement, trust, imported, tells, values: submission.values, visit, known, now };
    if (!matchesSelection(when, { ...about, knowledge: asked ?? knowledge })) {
      plans.push({ submission, plan: null, contactId, outcome: 'not chosen' });
      continue;
    }
    const plan = planSubmission({
      ...about,
      keys: said[index]?.keys ?? [],
      routes: [{ id: route.id, name: route.name, version: route.liveVersion ?? 0, document: route.live }],
      catalogues,
      knowledge,
    });
    const left = onceMore(plan, known, (purpose) => here.has(`${contactId} ${purpose}`));
    for (const { purposes } of asksIn(left)) for (const one of purposes) here.add(`${contactId} ${one}`);
    plans.push({ submission, plan: left, contactId, outcome: outcomeOf(left) });
  }
  return plans;
}

function outcomeOf(plan: Plan): SendingOutcome {
  const deliveries = deliveriesIn(plan);
  const asks = asksIn(plan);
  if (asks.length > 0) return asks.every(({ joins }) => joins !== null) ? 'waiting' : 'asked';
  if (deliveries.some(({ held }) => held !== null)) return 'held';
  return deliveries.length > 0 ? 'sent' : 'left out';
}
