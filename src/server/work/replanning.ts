import { keysOf } from '../../core/identity/index.ts';
import { planSubmission } from '../../core/plan/index.ts';
import { bad, good, type Result } from '../../core/result.ts';
import type { Context } from '../context.ts';
import { readCatalogues } from '../store/connections.ts';
import { findDelivery, replayDelivery } from '../store/deliveries.ts';
import { NOBODY } from '../store/people/index.ts';
import { findRoute } from '../store/routes.ts';
import { readSourceVersion } from '../store/sources.ts';
import { findSubmission, visitOf } from '../store/submissions.ts';

/** Puts a held delivery back with what its route, as it is live now, makes of the submission. */
export async function replan({ store, now }: Context, deliveryId: string): Promise<Result<void>> {
  const delivery = await findDelivery(store.db, deliveryId);
  const submission = delivery && (await findSubmission(store.db, delivery.submissionId));
  const route = delivery && (await findRoute(store.db, delivery.routeId));
  const source = submission && (await readSourceVersion(store.db, submission.sourceId, submission.sourceVersion));
  if (!delivery || !submission || !source) return bad('There is no such delivery.');
  if (!route?.live || route.liveVersion === null) return bad('Its route is not live any more.');
  const plan = planSubmission({
    fields: source.fields,
    statement: source.statement,
    values: submission.values,
    keys: keysOf(source.fields, submission.values, submission.sourceId),
    visit: visitOf(submission),
    routes: [{ id: route.id, name: route.name, version: route.liveVersion, document: route.live }],
    known: NOBODY,
    catalogues: await readCatalogues(store.db),
    now: now(),
  });
  const planned = plan.deliveries.find(({ targetId }) => targetId === delivery.targetId);
  if (!planned) return bad('The route, as it is live now, does not send this submission there any more.');
  if (planned.held) return bad(`It would be held again: ${planned.held.message}`);
  // What the person agreed to stays what it was.
  const intent = { ...planned.intent, purpose: delivery.intent.purpose, wording: delivery.intent.wording };
  const queued = await replayDelivery(store.db, deliveryId, now(), {
    intent,
    leftOut: planned.leftOut,
    routeVersion: planned.routeVersion,
  });
  return queued ? good(undefined) : bad('It has gone on meanwhile. Reload to see where it is.');
}
