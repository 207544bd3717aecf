import type { Profile } from '../../contract/profile/index.ts';
import type { Catalogue } from '../../core/plan/index.ts';
import { abilitiesOf } from '../connectors/catalogue.ts';
import { findShippedProfile, shippedProfiles } from '../connectors/registry.ts';
import type { ConnectionRecord } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { findOwnProfile, listOwnProfiles } from '../store/profiles.ts';

/** Every kind of service that can be connected: those that ship, and those that operators made. */
export async function allProfiles(db: Db): Promise<{ profile: Profile; isOwn: boolean }[]> {
  return [
    ...shippedProfiles().map((profile) => ({ profile, isOwn: false })),
    ...(await listOwnProfiles(db)).map((profile) => ({ profile, isOwn: true })),
  ];
}

export const findProfile = async (db: Db, id: string): Promise<Profile | null> =>
  findShippedProfile(id) ?? (await findOwnProfile(db, id));

/** @throws when the profile of a connection is gone, which its removal forbids */
export function profileFor({ profile, ownProfile }: ConnectionRecord): Profile {
  const found = findShippedProfile(profile) ?? ownProfile;
  if (!found) throw new Error(`no connector profile "${profile}"`);
  return found;
}

/** What a connection offers, with what its kind can do as the profile says it today, not as when the catalogue was fetched. */
export const offeredBy = (record: ConnectionRecord): Catalogue | null =>
  record.catalogue && { ...record.catalogue, can: abilitiesOf(profileFor(record)) };
