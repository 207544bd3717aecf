import { foldedName } from './searching.ts';
import { addressIn, keyText, type ContactKey } from './keys.ts';

/** Somebody who is recognised by one of the keys of a submission. */
export interface Candidate {
  id: string;
  /** Which of the submission's keys is theirs. */
  by: ContactKey;
  /** All keys of theirs. */
  keys: ContactKey[];
  /** Their name, as they said it themselves; '' when they never did. */
  name: string;
}

/** Somebody who may be the same person, and why it is not certain. */
export interface Possible {
  id: string;
  by: ContactKey;
  because: 'another address' | 'another name' | 'another key is surer';
}

export interface Identified {
  /** Who it surely is; null when nobody, or it is not certain. */
  sure: { id: string; by: ContactKey } | null;
  /** Who else it may be: for a person to decide. */
  possible: Possible[];
}

/**
 * Says who a submission is of. An id within its system and an address belong to one person; a telephone number may be a
 * household's, so it is enough only where nothing speaks against it.
 * @param keys the surest first
 * @param name the name in the submission; '' for none
 * @param candidates at most one for each key
 */
export function identify(keys: ContactKey[], name: string, candidates: Candidate[]): Identified {
  const byKey = new Map(candidates.map((candidate) => [keyText(candidate.by), candidate]));
  const possible: Possible[] = [];
  let sure = null as Identified['sure'];
  for (const key of keys) {
    const candidate = byKey.get(keyText(key));
    if (!candidate || candidate.id === sure?.id || possible.some(({ id }) => id === candidate.id)) continue;
    const because = sure ? ('another key is surer' as const) : doubt(key, keys, name, candidate);
    if (because === null) sure = { id: candidate.id, by: key };
    else possible.push({ id: candidate.id, by: key, because });
  }
  return { sure, possible };
}

/** What speaks against the person of a key being meant; null when nothing does. */
function doubt(key: ContactKey, keys: ContactKey[], name: string, candidate: Candidate): Possible['because'] | null {
  if (key.kind !== 'phone') return null;
  const [here, there] = [addressIn(keys), addressIn(candidate.keys)];
  if (here !== '' && there !== '' && !candidate.keys.some(({ kind, value }) => kind === 'email' && value === here))
    return 'another address';
  return name !== '' && candidate.name !== '' && foldedName(name) !== foldedName(candidate.name)
    ? 'another name'
    : null;
}
