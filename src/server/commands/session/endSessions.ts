import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { sessionId } from '../../security/tokens.ts';
import { endOtherSessions, endSession, listSessions } from '../../store/accounts.ts';
import { done, inCommand, unknown, type Act, type Actor, type Refusal } from '../command.ts';

const signedOut = ({ id, name }: Actor, detail: string): Act => ({
  act: 'signed out',
  subject: { kind: 'account', id, name },
  detail,
});

/** Signs somebody out at one of the browsers at which they are signed in. */
export async function endOneSession(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const all = await listSessions(db, actor.id, context.now());
    const session = all.find(({ tokenHash }) => sessionId(tokenHash) === id);
    if (!session) return unknown('session');
    await endSession(db, session.tokenHash);
    return done(undefined, signedOut(actor, session.browser));
  });
}

/** Signs somebody out everywhere but where they ask for it. @returns at how many others */
export async function endOthers(actor: Actor, context: Context, here: string): Promise<Result<number, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const ended = await endOtherSessions(db, actor.id, here);
    return done(ended, ended === 0 ? null : signedOut(actor, `everywhere else: ${ended}`));
  });
}
