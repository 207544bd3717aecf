import { addressOf } from '../../../core/plan/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { addConfirmations, hasOpenConfirmation, pendingConfirmation } from '../../store/confirmations.ts';
import { addMails, askingMail } from '../../store/mails.ts';
import type { Db } from '../../store/database.ts';
import { findDelivery, type DeliveryRecord } from '../../store/deliveries.ts';
import { addConsentEvents } from '../../store/people/index.ts';
import { findRoute } from '../../store/routes.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Asks a person anew, for a delivery that the other system refuses until they confirm. */
export async function askAnew(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const delivery = await findDelivery(db, id);
    if (!delivery) return unknown('delivery');
    const why = await askForOne(db, context, delivery);
    if (why !== null) return refused('conflict', 'not-asked', why);
    return done(undefined, { act: 'asked to confirm', subject: { kind: 'delivery', id, name: '' } });
  });
}

/** @returns why the person is not asked; null when they are */
export async function askForOne(db: Db, context: Context, delivery: DeliveryRecord): Promise<string | null> {
  const { newId, now } = context;
  const route = await findRoute(db, delivery.routeId);
  if (!route) return 'Its route is gone, and with it the words to ask in.';
  const { mail, expiresHours } = (route.live ?? route.draft).consent;
  const { contactId, submissionId, routeId, intent } = delivery;
  const { purpose, channel } = intent;
  if (purpose === '' || channel !== 'email') return 'A mail confirms consent by email only, and this stands on none.';
  if (await hasOpenConfirmation(db, contactId, purpose))
    return 'A confirmation is open already. The delivery goes on as soon as the person confirms.';
  const at = now();
  const about = { contactId, submissionId };
  const words = { routeId, purposes: [purpose], sentTo: addressOf(intent), mail };
  const asked = pendingConfirmation({ ...about, ...words, id: newId() }, expiresHours, at);
  await addConfirmations(db, [asked]);
  await addMails(db, [askingMail(newId(), asked)], at);
  const event = { purpose, channel, kind: 'asked', at, wording: mail.subject, evidence: {} } as const;
  await addConsentEvents(db, [{ ...about, ...event, id: newId() }]);
  return null;
}
