import { asksIn, deliveriesIn, mailsIn, type Action, type Plan } from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import { addConfirmations, pendingConfirmation, type NewConfirmation } from '../store/confirmations.ts';
import type { Db } from '../store/database.ts';
import { addDeliveries, type NewDelivery } from '../store/deliveries.ts';
import { addMails, askingMail, type NewMail } from '../store/mails.ts';
import { addConsentEvents, type ContactChange, type NewConsentEvent } from '../store/people/index.ts';

/** All that plans change, to be stored together. */
export interface Changes {
  contacts: ContactChange[];
  consent: NewConsentEvent[];
  confirmations: NewConfirmation[];
  mails: NewMail[];
  deliveries: NewDelivery[];
  planned: { id: string; plan: Plan; contactId: string | null }[];
}

export const noChanges = (): Changes => ({
  contacts: [],
  consent: [],
  confirmations: [],
  mails: [],
  deliveries: [],
  planned: [],
});

/** Adds what the actions of a plan change: confirmations that are asked for, deliveries, mails. */
export function collectActions(
  { newId }: Pick<Context, 'newId'>,
  changes: Changes,
  about: { contactId: string; submissionId: string },
  plan: Plan,
  now: number,
): void {
  /** The confirmation that each action which asks for one leads to. */
  const confirmationOf = new Map<string, string>();
  for (const { id: action, routeId, purposes, to, mail, expiresHours, joins } of asksIn(plan)) {
    const id = joins ?? newId();
    confirmationOf.set(action, id);
    if (joins) continue;
    const asked = pendingConfirmation({ ...about, id, routeId, purposes, sentTo: to, mail }, expiresHours, now);
    changes.confirmations.push(asked);
    changes.mails.push(askingMail(newId(), asked));
  }
  const waitsFor = ({ after }: Action) =>
    after.kind === 'confirmed' ? (confirmationOf.get(after.action) ?? null) : null;

  for (const action of deliveriesIn(plan)) {
    const { routeId, routeVersion, targetId, connectionId, intent, held, leftOut } = action;
    const confirmationId = waitsFor(action);
    changes.deliveries.push({
      ...about,
      id: newId(),
      routeId,
      routeVersion,
      targetId,
      connectionId,
      intent,
      leftOut,
      confirmationId,
      // What cannot be sent as it is waits for the confirmation all the same; it is checked again when it is sent.
      state: confirmationId !== null ? 'waiting' : held ? 'held' : 'queued',
      cause: held?.cause ?? null,
      causeDetail: held?.message ?? null,
    });
  }
  for (const action of mailsIn(plan)) {
    const { kind, routeId, mailId, to, replyTo, subject, text } = action;
    const confirmationId = waitsFor(action);
    const state = confirmationId === null ? 'queued' : 'waiting';
    const mail = { kind, routeId, mailId, to, replyTo, subject: subject.slice(0, 300), text };
    changes.mails.push({ ...about, ...mail, id: newId(), confirmationId, state });
  }
}

/** Stores what is to be done, and what people said of consent: everything but who they are. */
export async function storeActions(db: Db, changes: Changes, now: number): Promise<void> {
  await addConsentEvents(db, changes.consent);
  await addConfirmations(db, changes.confirmations);
  await addMails(db, changes.mails, now);
  await addDeliveries(db, changes.deliveries, now);
}
