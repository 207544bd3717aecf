import type { Profile } from './profile.ts';
import ternPost from './profiles/tern-post.json' with { type: 'json' };

const PROFILES = new Map([ternPost as Profile].map((profile) => [profile.id, profile]));

/** @throws when there is no such profile: connections are only saved with a known one */
export function profileOf(id: string): Profile {
  const profile = PROFILES.get(id);
  if (!profile) throw new Error(`no connector profile "${id}"`);
  return profile;
}

export const allProfiles = (): Profile[] => [...PROFILES.values()];
