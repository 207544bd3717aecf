import { NOBODY, matchesSelection, isOfPeople } from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import type { Db } from '../store/database.ts';
import { readKnowledge } from '../store/knowledge.ts';
import { readKnownPeople, identityClaims } from '../store/people/index.ts';
import type { RouteRecord } from '../store/routes.ts';
import { countHeld, countReceived, nextHeld, nextReceived, type SendingRecord } from '../store/sendings.ts';
import { visitWithSign } from '../intake/visitors.ts';
import type { PlanningContexts } from './planningContexts.ts';
import { planAgain, type PlannedAgain, type SendingOutcome } from './planAgain.ts';
import { replanned, replanOne } from './replanning.ts';

/** What somebody chose to send of what is there. */
export type Chosen = Pick<SendingRecord, 'since' | 'until' | 'pile' | 'when'>;

const receivedOf = ({ since, until }: Chosen, { live, draft }: RouteRecord) => ({
  sourceIds: (live ?? draft).sourceIds,
  since,
  until,
});

/** How many there are of what somebody chose, for whomever they are. */
export const countChosen = (db: Db, route: RouteRecord, chosen: Chosen): Promise<number> =>
  chosen.pile === 'held'
    ? countHeld(db, route.id, receivedOf(chosen, route))
    : countReceived(db, receivedOf(chosen, route));

export interface Walk {
  route: RouteRecord;
  chosen: Chosen;
  /** The last one of the part before; '' for the first part. */
  after: string;
  limit: number;
  /** Whether to do it, or only to look what would become of it. */
  doIt: boolean;
}

interface Part {
  outcomes: SendingOutcome[];
  /** Where the next part begins; null where there is none. */
  last: string | null;
  /** What is still to be stored, of what was received. */
  planned: PlannedAgain[];
}

/** The next part of what somebody chose, the oldest first, and what becomes of each. */
export async function nextPart(
  db: Db,
  context: Pick<Context, 'now' | 'config'>,
  planningContexts: PlanningContexts,
  walk: Walk,
): Promise<Part> {
  const { route, chosen, after, limit, doIt } = walk;
  if (chosen.pile === 'held') return nextHeldPart(db, context, planningContexts, walk);
  const submissions = await nextReceived(db, receivedOf(chosen, route), after, limit);
  const { when } = chosen;
  const planned = await planAgain(context, db, planningContexts, { route, submissions, when, lock: doIt });
  return { planned, outcomes: planned.map(({ outcome }) => outcome), last: submissions.at(-1)?.id ?? null };
}

async function nextHeldPart(
  db: Db,
  context: Pick<Context, 'now' | 'config'>,
  planningContexts: PlanningContexts,
  { route, chosen, after, limit, doIt }: Walk,
): Promise<Part> {
  const { when } = chosen;
  const held = await nextHeld(db, route.id, receivedOf(chosen, route), after, limit);
  const knowledge = isOfPeople(when) ? await readKnowledge(db) : [];
  const outcomes: SendingOutcome[] = [];
  for (const { delivery, submission } of held) {
    const { fields } = await planningContexts.source(submission.sourceId, submission.sourceVersion);
    const { values } = submission;
    const said = identityClaims(fields, values, submission.sourceId);
    const [known = NOBODY] = isOfPeople(when)
      ? await readKnownPeople(db, [said], { lock: false, answersSince: null })
      : [];
    const about = { fields, values, visit: visitWithSign(context, submission), known, knowledge, now: context.now() };
    if (!matchesSelection(when, about)) outcomes.push('not chosen');
    else if (doIt) outcomes.push((await replanOne(db, context, delivery)) === null ? 'sent' : 'held');
    else outcomes.push((await replanned(db, context, delivery)).ok ? 'sent' : 'held');
  }
  return { planned: [], outcomes, last: held.at(-1)?.delivery.id ?? null };
}

/** How many of each outcome. */
export function countOutcomes(outcomes: SendingOutcome[]) {
  const of = (outcome: SendingOutcome) => outcomes.filter((one) => one === outcome).length;
  return {
    sent: of('sent'),
    held: of('held'),
    asked: of('asked'),
    waiting: of('waiting'),
    leftOut: of('left out'),
    notChosen: of('not chosen'),
  };
}
