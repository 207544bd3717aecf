import { saidPartsOf } from '../../core/intake/index.ts';
import { keysOf } from '../../core/identity/index.ts';
import { NOBODY, deliveriesIn, knowledgeOf, planSubmission, type Deliver } from '../../core/plan/index.ts';
import { bad, good, type Result } from '../../core/result.ts';
import type { Context } from '../context.ts';
import { readCatalogues } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { replayDelivery, type DeliveryRecord } from '../store/deliveries.ts';
import { importedIn, importsOf } from './imported.ts';
import { readKnowledge } from '../store/knowledge.ts';
import { readKnownPerson, identityClaims } from '../store/people/index.ts';
import { findRoute } from '../store/routes.ts';
import { readSourceVersion } from '../store/sources.ts';
import { visitWithSign } from '../intake/visitors.ts';
import { findSubmission } from '../store/submissions.ts';

/** What is said of what was held while somebody decided about it, and is not any more. */
export const GONE_ON = 'It has gone on meanwhile. Reload to see where it is.';

type Replanned = Pick<Deliver, 'intent' | 'leftOut' | 'routeVersion'>;

/** What the route of a held delivery, as it is live now, makes of what it came of; or why it stays as it is. */
export async function replanned(
  db: Db,
  context: Pick<Context, 'now' | 'config'>,
  delivery: DeliveryRecord,
): Promise<Result<Replanned>> {
  const { now } = context;
  if (delivery.intent.ends !== null) return bad('It ends what they get there, whatever its route says now.');
  const submission = await findSubmission(db, delivery.submissionId);
  const route = await findRoute(db, delivery.routeId);
  const source = submission && (await readSourceVersion(db, submission.sourceId, submission.sourceVersion));
  if (!submission || !source) return bad('What it came of is not here any more.');
  if (!route?.live || route.liveVersion === null) return bad('Its route is not live any more.');
  const imported = importedIn(source, (await importsOf(db, [{ submission, document: source }]))(submission, source));
  const plan = planSubmission({
    // What they confirmed, here or there, let it be sent at all.
    imported: imported && { ...imported, agreed: 'confirmed' },
    tells: saidPartsOf(source),
    fields: source.fields,
    statement: source.statement,
    trust: source.trust,
    values: submission.values,
    keys: keysOf(source.fields, submission.values, submission.sourceId),
    visit: visitWithSign(context, submission),
    routes: [{ id: route.id, name: route.name, version: route.liveVersion, document: route.live }],
    // It is planned as if of somebody new: what they confirmed since changes nothing of what they sent.
    known: NOBODY,
    knows: knowledgeOf(
      await readKnownPerson(db, identityClaims(source.fields, submission.values, submission.sourceId)),
    ),
    knowledge: await readKnowledge(db),
    catalogues: await readCatalogues(db),
    now: now(),
  });
  const planned = deliveriesIn(plan).find(({ targetId }) => targetId === delivery.targetId);
  if (!planned) return bad('The route, as it is live now, does not send this submission there any more.');
  if (planned.held) return bad(`It would be held again: ${planned.held.message}`);
  // What the person agreed to stays what it was.
  const { purpose, channel, wording } = delivery.intent;
  const intent = { ...planned.intent, purpose, channel, wording };
  const { leftOut, routeVersion } = planned;
  return good({ intent, leftOut, routeVersion });
}

/** Puts a held delivery back with what its route makes of it now. @returns why it stays as it is; null when it went on */
export async function replanOne(
  db: Db,
  context: Pick<Context, 'now' | 'config'>,
  delivery: DeliveryRecord,
): Promise<string | null> {
  const plan = await replanned(db, context, delivery);
  if (!plan.ok) return plan.issue;
  return (await replayDelivery(db, delivery.id, context.now(), plan.value)) ? null : GONE_ON;
}
