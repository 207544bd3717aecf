import { isoTime } from '../../../core/isoTime.ts';
import type { TrailView } from '../../../contract/submissions.ts';
import { variantName } from '../../../core/forms/index.ts';
import type { RawSubmission, SourceDocument, Visit } from '../../../core/intake/index.ts';
import { listMail, listConsentEvents, listDeliveries, readProgress } from '../../store/activity.ts';
import { findArrival } from '../../store/arrivals.ts';
import type { Db } from '../../store/database.ts';
import { readSourceName, readSourceVersion } from '../../store/sources.ts';
import { findSubmission, visitOf, type SubmissionRecord } from '../../store/submissions.ts';
import { RESEND_LIMITS } from '../../commands/confirmations/resend.ts';
import { readNames } from '../names.ts';

/** As it arrived; where several submissions came by one arrival, that one. */
async function rawOf(db: Db, { raw, arrivalId }: SubmissionRecord): Promise<RawSubmission> {
  return (arrivalId === null ? null : await findArrival(db, arrivalId)) ?? raw;
}

/** Everything that happened to one submission; null when there is no such one. */
export async function readTrail(db: Db, id: string): Promise<TrailView | null> {
  const submission = await findSubmission(db, id);
  if (!submission) return null;
  const document = await readSourceVersion(db, submission.sourceId, submission.sourceVersion);
  const { rows: deliveries } = await listDeliveries(db, { submissionId: id }, null, true);
  return {
    id,
    receivedAt: new Date(submission.receivedAt).toISOString(),
    state: submission.state,
    ...(await readProgress(db, id)),
    sourceId: submission.sourceId,
    sourceName: await readSourceName(db, submission.sourceId),
    sourceVersion: submission.sourceVersion,
    fields: document?.fields ?? [],
    raw: await rawOf(db, submission),
    visit: visitIn(document, submission),
    values: submission.values,
    repeats: submission.repeats,
    lastRepeatAt: submission.lastRepeatAt === null ? null : new Date(submission.lastRepeatAt).toISOString(),
    suspicion: submission.suspicion,
    failure: submission.failure ?? '',
    replied:
      submission.repliedAt === null
        ? null
        : { at: new Date(submission.repliedAt).toISOString(), by: submission.repliedBy ?? '' },
    undoneAt: isoTime(submission.undoneAt),
    contactId: submission.contactId,
    plan: submission.plan,
    consent: await listConsentEvents(db, { submissionId: id }),
    ...(await listMail(db, id, RESEND_LIMITS.restMs)),
    // In the order of the plan.
    deliveries: deliveries.reverse(),
    names: await readNames(db),
  };
}

/** How the visitor came, with the variant that they saw by the name that people know. */
function visitIn(document: SourceDocument | null, submission: SubmissionRecord): Visit {
  const { variant, ...visit } = visitOf(submission);
  return variant ? { ...visit, variant: variantName(document, variant) || `${variant} (it is no more)` } : visit;
}
