import type { Profile } from '../../../contract/profile/index.ts';
import type { Result } from '../../../core/result.ts';
import { findShippedProfile } from '../../connectors/registry.ts';
import type { Context } from '../../context.ts';
import { listConnections } from '../../store/connections.ts';
import type { Db } from '../../store/database.ts';
import { findOwnProfile, saveOwnProfile } from '../../store/profiles.ts';
import { done, inCommand, refused, type Actor, type Refusal } from '../command.ts';

/**
 * Saves a profile that an operator made. One that is there already is replaced only when that is asked for, and its
 * connections are named before. Those that ship with Iwashi stay as they are.
 */
export async function saveProfile(
  actor: Actor,
  context: Context,
  { profile, replace }: { profile: Profile; replace: boolean },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const { id, name } = profile;
    const taken = 'A profile of this id ships with Iwashi. Choose another.';
    if (findShippedProfile(id))
      return refused('invalid', 'invalid', taken, [{ pointer: '/document/id', detail: taken }]);
    const there = await findOwnProfile(db, id);
    if (there && !replace) return refused('conflict', 'there-already', sayThere(there, await usersOf(db, id)));
    await saveOwnProfile(db, profile, context.now());
    return done(undefined, { act: there ? 'edited' : 'made', subject: { kind: 'profile', id, name } });
  });
}

/** The names of the connections that are made with a profile. */
export async function usersOf(db: Db, id: string): Promise<string[]> {
  return (await listConnections(db)).filter(({ profile }) => profile === id).map(({ name }) => name);
}

const sayThere = ({ name }: Profile, used: string[]): string =>
  used.length > 0
    ? `There is a profile of ${name} already, and ${used.join(', ')} ${used.length === 1 ? 'uses' : 'use'} it.`
    : `There is a profile of ${name} already. No connection uses it.`;
