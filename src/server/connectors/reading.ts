import type { Profile } from '../../contract/profile/index.ts';
import type { Channel } from '../../core/consent/index.ts';
import type { Fault, HeldPerson, Standing } from '../../core/delivery/index.ts';
import type { Wanted } from './connector.ts';
import { one, textAt, textOf, textsAt } from '../../core/json/index.ts';

/** A record of a service, as Iwashi compares it; null when there is none in the answer. */
export function recordOf({ record, subscription }: Profile, found: unknown): HeldPerson | null {
  if (typeof found !== 'object' || found === null || Array.isArray(found)) return null;
  const state = textAt(found, record.state);
  const madeAt = Date.parse(textAt(found, record.madeAt));
  return {
    id: textAt(found, record.id),
    email: textAt(found, record.email),
    state,
    standing: subscription?.means[state] ?? null,
    ...(record.states ? { byChannel: standingsIn(found, record.states, subscription?.means ?? {}) } : {}),
    madeAt: Number.isNaN(madeAt) ? null : madeAt,
    fields: (one(found, record.fields) ?? {}) as HeldPerson['fields'],
    lists: textsAt(found, record.lists),
    groups: textsAt(found, record.groups),
    tags: textsAt(found, record.tags),
  };
}

/** How somebody stands by the channels that a service tells apart. */
const standingsIn = (
  found: unknown,
  states: Partial<Record<Channel, string>>,
  means: Record<string, Standing>,
): Partial<Record<Channel, Standing>> =>
  Object.fromEntries(
    Object.entries(states).flatMap(([channel, path]) => {
      const standing = means[textAt(found, path)];
      return standing === undefined ? [] : [[channel, standing]];
    }),
  );

/**
 * A record with the time when it was made as our clock would have told it: by what the service's own clock says now.
 * @param theirs that clock; null where it does not say
 */
export const byOurClock = (held: HeldPerson | null, theirs: number | null, now: number): HeldPerson | null =>
  held === null || held.madeAt === null || theirs === null ? held : { ...held, madeAt: held.madeAt + now - theirs };

/** The record in the answer to an operation. */
export const recordIn = (profile: Profile, operation: { record?: string }, answer: unknown): HeldPerson | null =>
  operation.record === undefined ? null : recordOf(profile, one(answer, operation.record));

/**
 * Whether a record is of the person who was looked for. Some services ignore what they do not understand and answer with
 * the first record they have: without an address that is the person's own, a record is nobody's.
 */
export function isOfPerson({ email: held, fields }: HeldPerson, { email, key, keyField }: Wanted): boolean {
  if (held !== '') return held.trim().toLowerCase() === email.toLowerCase();
  return plain(textOf(fields[keyField])) === plain(key);
}

/** A key as services may write it: a number with or without its blanks. */
const plain = (text: string): string => {
  const line = text.trim().toLowerCase();
  return /^\+?[\d\s()./-]+$/.test(line) ? line.replace(/[^+\d]/g, '') : line;
};

/** A record that came back for somebody else. */
export const ANOTHER_PERSON: Fault = { cause: 'another person', said: '', waitMs: null };
