import type { Profile } from '../../contract/profile/index.ts';
import type { HeldPerson } from '../../core/delivery/index.ts';
import { one, textAt, textsAt } from './jsonPath.ts';

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
    madeAt: Number.isNaN(madeAt) ? null : madeAt,
    fields: (one(found, record.fields) ?? {}) as HeldPerson['fields'],
    lists: textsAt(found, record.lists),
    groups: textsAt(found, record.groups),
    tags: textsAt(found, record.tags),
  };
}

/** The record in the answer to an operation. */
export const recordIn = (profile: Profile, operation: { record?: string }, answer: unknown): HeldPerson | null =>
  operation.record === undefined ? null : recordOf(profile, one(answer, operation.record));
