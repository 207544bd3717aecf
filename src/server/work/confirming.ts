import { addressOf } from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import { sha256 } from '../security/tokens.ts';
import {
  addConfirmations,
  addMails,
  findConfirmationByToken,
  hasOpenConfirmation,
  markConfirmed,
  noteSend,
  type ConfirmationRecord,
} from '../store/confirmations.ts';
import { inTransaction } from '../store/database.ts';
import { findDelivery, releaseConfirmed } from '../store/deliveries.ts';
import { addConsentEvents, takeConfirmedChanges } from '../store/people/index.ts';
import { findRoute } from '../store/routes.ts';
import { submissionsOfConfirmation } from '../store/submissions.ts';

/** How often a confirmation can be sent anew: it must not become a way to flood a mailbox. */
export const RESEND_LIMITS = { restMs: 10 * 60_000, most: 4 };

export type ConfirmationStanding =
  { kind: 'unknown' } | { kind: 'pending' | 'confirmed' | 'expired'; confirmation: ConfirmationRecord };

/** What a link stands for now. Looking changes nothing: mail scanners look at every link. */
export async function readConfirmation({ store, now }: Context, token: string): Promise<ConfirmationStanding> {
  const confirmation = await findConfirmationByToken(store.db, sha256(token));
  if (!confirmation) return { kind: 'unknown' };
  const overdue = confirmation.state === 'pending' && confirmation.expiresAt <= now();
  return { kind: overdue ? 'expired' : confirmation.state, confirmation };
}

/** Confirms. Doing so twice is harmless: the second time finds it done. */
export async function confirm(
  context: Context,
  token: string,
  evidence: Record<string, string>,
): Promise<ConfirmationStanding> {
  const standing = await readConfirmation(context, token);
  if (standing.kind !== 'pending') return standing;
  const { id, contactId, submissionId, purpose, mail, sentTo } = standing.confirmation;
  const now = context.now();
  await inTransaction(context.store, async (db) => {
    if (!(await markConfirmed(db, id, now))) return;
    await addConsentEvents(db, [
      {
        id: context.newId(),
        contactId,
        submissionId,
        purpose,
        kind: 'confirmed',
        at: now,
        wording: `${mail.subject} / ${mail.button}`,
        evidence,
      },
    ]);
    const served = await submissionsOfConfirmation(db, { id, submissionId });
    const changed = served.map((one) => ({ ...one, changes: one.plan?.contact?.changes ?? [] }));
    await takeConfirmedChanges(db, { contactId, address: sentTo }, changed, context.newId, now);
    await releaseConfirmed(db, id, contactId, now);
  });
  return { ...standing, kind: 'confirmed' };
}

/** Sends one more mail for an open confirmation, within the limits. @returns false when it is too soon or too often */
export async function resend({ store, newId, now }: Context, id: string): Promise<boolean> {
  return inTransaction(store, async (db) => {
    if (!(await noteSend(db, id, RESEND_LIMITS, now()))) return false;
    await addMails(db, [{ id: newId(), confirmationId: id }], now());
    return true;
  });
}

/** Asks a person anew, for a delivery that the other system refuses until they confirm. */
export async function askAnew(
  context: Context,
  deliveryId: string,
): Promise<'asked' | 'asked already' | 'no such delivery'> {
  const { store, newId, now } = context;
  const delivery = await findDelivery(store.db, deliveryId);
  const route = delivery && (await findRoute(store.db, delivery.routeId));
  if (!delivery || !route) return 'no such delivery';
  const { mail, expiresHours } = (route.live ?? route.draft).consent;
  const { contactId, submissionId, routeId, intent } = delivery;
  if (await hasOpenConfirmation(store.db, contactId, intent.purpose)) return 'asked already';
  const id = newId();
  await inTransaction(store, async (db) => {
    const times = { createdAt: now(), lastSentAt: now(), expiresAt: now() + expiresHours * 3_600_000 };
    await addConfirmations(db, [
      {
        id,
        contactId,
        submissionId,
        routeId,
        purpose: intent.purpose,
        sentTo: addressOf(intent),
        mail,
        state: 'pending',
        ...times,
      },
    ]);
    await addMails(db, [{ id: newId(), confirmationId: id }], now());
    await addConsentEvents(db, [
      {
        id: newId(),
        contactId,
        submissionId,
        purpose: intent.purpose,
        kind: 'asked',
        at: now(),
        wording: mail.subject,
        evidence: {},
      },
    ]);
  });
  return 'asked';
}
