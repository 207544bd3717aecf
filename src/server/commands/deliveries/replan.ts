import { keysOf } from '../../../core/identity/index.ts';
import { deliveriesIn, knowledgeOf, planSubmission } from '../../../core/plan/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { readCatalogues } from '../../store/connections.ts';
import type { Db } from '../../store/database.ts';
import { findDelivery, replayDelivery, type DeliveryRecord } from '../../store/deliveries.ts';
import { readKnowledge } from '../../store/knowledge.ts';
import { NOBODY, readKnownPerson, saidOfSelf } from '../../store/people/index.ts';
import { findRoute } from '../../store/routes.ts';
import { readSourceVersion } from '../../store/sources.ts';
import { findSubmission, visitOf } from '../../store/submissions.ts';
import { done, GONE_ON, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Puts a held delivery back with what its route, as it is live now, makes of the submission. */
export async function replan(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const delivery = await findDelivery(db, id);
    if (!delivery) return unknown('delivery');
    const why = await replanOne(db, context, delivery);
    if (why !== null) return refused('conflict', 'not-replanned', why);
    return done(undefined, { act: 'planned anew', subject: { kind: 'delivery', id, name: '' } });
  });
}

/** @returns why it stays as it is; null when it went on */
export async function replanOne(db: Db, { now }: Context, delivery: DeliveryRecord): Promise<string | null> {
  const submission = await findSubmission(db, delivery.submissionId);
  const route = await findRoute(db, delivery.routeId);
  const source = submission && (await readSourceVersion(db, submission.sourceId, submission.sourceVersion));
  if (!submission || !source) return 'What it came of is not here any more.';
  if (!route?.live || route.liveVersion === null) return 'Its route is not live any more.';
  const plan = planSubmission({
    fields: source.fields,
    statement: source.statement,
    trust: source.trust,
    values: submission.values,
    keys: keysOf(source.fields, submission.values, submission.sourceId),
    visit: visitOf(submission),
    routes: [{ id: route.id, name: route.name, version: route.liveVersion, document: route.live }],
    // It is planned as if of somebody new: what they confirmed since changes nothing of what they sent.
    known: NOBODY,
    knows: knowledgeOf(await readKnownPerson(db, saidOfSelf(source.fields, submission.values, submission.sourceId))),
    knowledge: await readKnowledge(db),
    catalogues: await readCatalogues(db),
    now: now(),
  });
  const planned = deliveriesIn(plan).find(({ targetId }) => targetId === delivery.targetId);
  if (!planned) return 'The route, as it is live now, does not send this submission there any more.';
  if (planned.held) return `It would be held again: ${planned.held.message}`;
  // What the person agreed to stays what it was.
  const { purpose, channel, wording } = delivery.intent;
  const intent = { ...planned.intent, purpose, channel, wording };
  const { leftOut, routeVersion } = planned;
  const queued = await replayDelivery(db, delivery.id, now(), { intent, leftOut, routeVersion });
  return queued ? null : GONE_ON;
}
