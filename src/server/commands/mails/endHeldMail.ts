import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { dropMail, findMail, sendAgain as store } from '../../store/mails.ts';
import { done, goneOn, inCommand, unknown, type Act, type Actor, type Refusal } from '../command.ts';
import type { Db } from '../../store/database.ts';

/** Sends a mail again that was held. */
export const sendMailAgain = (actor: Actor, context: Context, id: string) =>
  change(actor, context, id, (db) => store(db, id, context.now()), { act: 'tried again' });

/** Gives up a mail that is held, for a reason. */
export const dropHeldMail = (actor: Actor, context: Context, { id, reason }: { id: string; reason: string }) =>
  change(actor, context, id, (db) => dropMail(db, id, reason), { act: 'dropped', detail: reason });

async function change(
  actor: Actor,
  context: Context,
  id: string,
  move: (db: Db) => Promise<boolean>,
  act: Pick<Act, 'act' | 'detail'>,
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const found = await findMail(db, id);
    if (!found) return unknown('mail');
    if (!(await move(db))) return goneOn();
    return done(undefined, { ...act, subject: { kind: 'mail', id: found.mail.submissionId, name: '' } });
  });
}
