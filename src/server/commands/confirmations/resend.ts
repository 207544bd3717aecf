import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findConfirmation, noteSend } from '../../store/confirmations.ts';
import { addMails, askingMail } from '../../store/mails.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** How often a confirmation can be sent anew: it must not become a way to flood a mailbox. */
export const RESEND_LIMITS = { restMs: 10 * 60_000, most: 4 };

/** Sends one more mail for an open confirmation, within the limits. */
export async function resend(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const { newId, now } = context;
    if (await noteSend(db, id, RESEND_LIMITS, now())) {
      const confirmation = await findConfirmation(db, id);
      if (!confirmation) return unknown('confirmation');
      await addMails(db, [askingMail(newId(), confirmation)], now());
      const { submissionId } = confirmation;
      return done(undefined, { act: 'asked to confirm', subject: { kind: 'submission', id: submissionId, name: '' } });
    }
    const limits = `At most ${RESEND_LIMITS.most} mails are sent for one confirmation, ten minutes apart, and none once it is confirmed or expired.`;
    return refused('conflict', 'too-soon', limits);
  });
}
