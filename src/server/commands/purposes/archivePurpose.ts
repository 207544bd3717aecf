import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { changePurpose as store, findPurpose } from '../../store/purposes.ts';
import { routesAskingFor } from '../../store/routes.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Takes a purpose out of use, or back into it. What people said about it stays. One that a live route asks for stays too. */
export async function archivePurpose(
  actor: Actor,
  context: Context,
  { id, archived }: { id: string; archived: boolean },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const purpose = await findPurpose(db, id);
    if (!purpose) return unknown('purpose');
    const live = archived ? (await routesAskingFor(db, id)).filter(({ state }) => state === 'live') : [];
    if (live.length > 0) {
      const names = live.map(({ name }) => name).join(', ');
      return refused('conflict', 'in-use', `${names} asks people for it. Take it out there first, and publish.`);
    }
    await store(db, id, { archived }, context.now());
    return done(undefined, {
      act: archived ? 'archived' : 'restored',
      subject: { kind: 'purpose', id, name: purpose.name },
    });
  });
}
