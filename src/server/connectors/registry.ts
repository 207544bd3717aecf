import type { Profile } from '../../contract/profile/index.ts';
import bellbuoy from './profiles/bellbuoy.json' with { type: 'json' };
import capstan from './profiles/capstan.json' with { type: 'json' };
import csvFile from './profiles/csv-file.json' with { type: 'json' };
import mail from './profiles/mail.json' with { type: 'json' };
import mailToVisitor from './profiles/mail-to-visitor.json' with { type: 'json' };
import signedWebhook from './profiles/signed-webhook.json' with { type: 'json' };
import rowbarn from './profiles/rowbarn.json' with { type: 'json' };
import fennelFox from './profiles/fennel-fox.json' with { type: 'json' };
import ternPost from './profiles/tern-post.json' with { type: 'json' };

const SHIPPED = [
  ternPost,
  capstan,
  rowbarn,
  bellbuoy,
  fennelFox,
  mail,
  mailToVisitor,
  signedWebhook,
  csvFile,
] as unknown as Profile[];
const BY_ID = new Map(SHIPPED.map((profile) => [profile.id, profile]));

/** The profiles that ship with Iwashi. */
export const shippedProfiles = (): Profile[] => SHIPPED;

/** @returns null when none of that id ships with Iwashi */
export const findShippedProfile = (id: string): Profile | null => BY_ID.get(id) ?? null;

/** @throws when there is no such profile: connections are only saved with a known one */
export function profileOf(id: string): Profile {
  const profile = BY_ID.get(id);
  if (!profile) throw new Error(`no connector profile "${id}"`);
  return profile;
}
