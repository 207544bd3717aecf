import type { CredentialName, Profile } from '../../contract/profile/index.ts';

/** Everything that a request to one account needs. */
export interface Access {
  profile: Profile;
  baseUrl: string;
  credentials: Credentials;
  /** An access token, where the profile asks for OAuth. */
  token?: string;
  /** Whose pool of connections is used; the connection's id, or a name for one that is not saved yet. */
  pool: string;
}

export type Credentials = Partial<Record<CredentialName, string>>;

/** How many requests may be under way to one account, where its profile does not say. */
const USUAL_AT_ONCE = 4;

export const atOnce = ({ limits }: Profile): number => limits.concurrency ?? USUAL_AT_ONCE;

/** How long a new record may take to be found, where the profile does not say. */
const USUALLY_SHOWN_AFTER_S = 30;

/** How long somebody who was made may take to be found there, in milliseconds. */
export const shownAfterMs = ({ limits }: Profile): number => 1000 * (limits.shownAfterSeconds ?? USUALLY_SHOWN_AFTER_S);

/** Whether access is by tokens that have to be got first. */
export const needsToken = ({ authentication: { kind } }: Profile): boolean =>
  kind === 'OAuth, granted by a person' || kind === 'OAuth, by client';

/**
 * How many requests deliveries make at most: those of a try, whether it carries one person or several (look, write, read
 * back), and those for each person in it (a place, a tag).
 */
export function requestsOf({ find, write, place }: Profile): { perTry: number; perPerson: number } {
  const looks = find === undefined ? 0 : write.how === 'make or change' ? 2 : 1;
  return { perTry: looks + 1, perPerson: Object.keys(place ?? {}).length };
}
