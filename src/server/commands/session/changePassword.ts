import type { NewPassword } from '../../../contract/session.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { hashPassword, isPassword } from '../../security/passwords.ts';
import { endOtherSessions, findAccountById, setPassword } from '../../store/accounts.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/**
 * Gives somebody's own account another password. Whoever is signed in with it elsewhere is signed out there: somebody may know the
 * one of before. @param here the session that asks, which goes on
 * @returns how many others ended
 */
export async function changePassword(
  actor: Actor,
  context: Context,
  { present, next }: NewPassword,
  here: string,
): Promise<Result<number, Refusal>> {
  const account = await findAccountById(context.store.db, actor.id);
  if (!account) return unknown('account');
  if (!(await isPassword(account.passwordHash, present)))
    return refused('invalid', 'wrong-password', 'Nothing was changed.', [
      { pointer: '/present', detail: 'This is not your present password.' },
    ]);
  const passwordHash = await hashPassword(next);
  return inCommand(context, actor, async (db) => {
    // By two at once, the second one knows a password that is not the present one any more.
    if (!(await setPassword(db, account.id, { from: account.passwordHash, to: passwordHash })))
      return refused('conflict', 'changed-meanwhile', 'It was changed meanwhile. Sign in with the new one.');
    const ended = await endOtherSessions(db, account.id, here);
    return done(ended, {
      act: 'changed the password',
      subject: { kind: 'account', id: account.id, name: account.name },
      detail: ended === 0 ? '' : `signed out elsewhere: ${ended}`,
    });
  });
}
