import { keysOf } from '../../core/identity/index.ts';
import { planSubmission, type Plan } from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import { addConfirmation, addMail } from '../store/confirmations.ts';
import { DUPLICATE_ENTRY, inTransaction, type Db } from '../store/database.ts';
import { addDelivery } from '../store/deliveries.ts';
import { addConsentEvent, addContact, readKnownPerson, setContactValues } from '../store/people.ts';
import {
  absorbRepeat,
  delayPlanning,
  endPlanning,
  failPlanning,
  findSubmission,
  type SubmissionRecord,
} from '../store/submissions.ts';
import type { LiveWirings } from './liveWiring.ts';

const MOST_TRIES = 5;

/** Thrown to take back a transaction when another worker planned the submission meanwhile. */
class AlreadyPlanned extends Error {}

/** Plans a submission and stores all that it causes, in one transaction. */
export async function planAndStore(context: Context, wirings: LiveWirings, id: string): Promise<void> {
  try {
    // Two submissions of one new person at the same time: the second finds the key taken, and starts again.
    await inTransaction(context.store, (db) => planInTransaction(context, wirings, db, id), [DUPLICATE_ENTRY]);
  } catch (error) {
    if (error instanceof AlreadyPlanned) return;
    const submission = await findSubmission(context.store.db, id);
    context.log.error({ err: error, submission: id }, 'planning failed');
    if (submission && submission.tries >= MOST_TRIES) {
      await failPlanning(context.store.db, id, error instanceof Error ? error.message : 'unknown fault');
    } else {
      await delayPlanning(context.store.db, id, context.now() + 2_000);
    }
  }
}

async function planInTransaction(context: Context, wirings: LiveWirings, db: Db, id: string): Promise<void> {
  const submission = await findSubmission(db, id);
  if (submission?.state !== 'received' || (await absorbRepeat(db, submission))) return;
  const document = await wirings.source(submission.sourceId, submission.sourceVersion);
  const now = context.now();
  const plan = planSubmission({
    fields: document.fields,
    statement: document.statement,
    values: submission.values,
    ...(await wirings.of(submission.sourceId)),
    known: await readKnownPerson(db, keysOf(document.fields, submission.values), true),
    now,
  });
  const contactId = await storePlan(context, db, submission, plan, now);
  if (!(await endPlanning(db, id, plan, contactId))) throw new AlreadyPlanned();
}

/** @returns the contact's id; null when the submission says nothing about who it is */
async function storePlan(
  { newId }: Context,
  db: Db,
  submission: SubmissionRecord,
  plan: Plan,
  now: number,
): Promise<string | null> {
  if (!plan.contact) return null;
  const contactId = plan.contact.contactId ?? newId();
  if (plan.contact.match === 'new') await addContact(db, { id: contactId, key: plan.contact.key, now });
  await setContactValues(db, contactId, plan.contact.changes, submission.id, now);

  const { origin = '', referer = '', 'user-agent': userAgent = '', address = '' } = submission.raw.headers;
  const evidence = { page: referer || origin, 'user agent': userAgent, address };
  for (const { kind, purpose, wording } of plan.consent) {
    // What was asked and given happened when the form was sent, not when we got to it.
    const at = kind === 'given' ? submission.receivedAt : now;
    await addConsentEvent(db, {
      id: newId(),
      contactId,
      submissionId: submission.id,
      purpose,
      kind,
      at,
      wording,
      evidence,
    });
  }

  const confirmationOf = new Map<string, string>();
  for (const { routeId, purpose, to, mail, expiresHours, joins } of plan.confirmations) {
    const id = joins ?? newId();
    confirmationOf.set(purpose, id);
    if (joins) continue;
    const times = { createdAt: now, lastSentAt: now, expiresAt: now + expiresHours * 3_600_000 };
    await addConfirmation(db, {
      id,
      contactId,
      submissionId: submission.id,
      routeId,
      purpose,
      sentTo: to,
      mail,
      state: 'pending',
      ...times,
    });
    await addMail(db, { id: newId(), confirmationId: id, now });
  }

  for (const { when, held, ...delivery } of plan.deliveries) {
    await addDelivery(db, {
      ...delivery,
      id: newId(),
      submissionId: submission.id,
      contactId,
      confirmationId: when === 'after confirmation' ? (confirmationOf.get(delivery.intent.purpose) ?? null) : null,
      // What cannot be sent as it is waits for the confirmation all the same; it is checked again when it is sent.
      state: when === 'after confirmation' ? 'waiting' : held ? 'held' : 'queued',
      cause: held?.cause ?? null,
      causeDetail: held?.message ?? null,
      now,
    });
  }
  return contactId;
}
