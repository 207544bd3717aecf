import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findOwnProfile, removeOwnProfile } from '../../store/profiles.ts';
import { done, inCommand, refused, type Actor, type Refusal } from '../command.ts';
import { usersOf } from './saveProfile.ts';

/** Removes a profile that an operator made, unless connections use it. */
export async function removeProfile(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const used = await usersOf(db, id);
    if (used.length > 0) return refused('conflict', 'in-use', `It is used by ${used.join(', ')}. Remove that first.`);
    const there = await findOwnProfile(db, id);
    await removeOwnProfile(db, id);
    return done(undefined, there && { act: 'removed', subject: { kind: 'profile', id, name: there.name } });
  });
}
