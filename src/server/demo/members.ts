import { isoDay } from '../../core/isoTime.ts';
import { DAY_MS } from '../store/figures.ts';
import type { SourceRecord } from '../store/sources.ts';
import { PURPOSES } from './documents.ts';
import type { Happening } from './happenings.ts';
import { pick, type Invented } from './people.ts';

const DAYS = 33;

/** Who became a member in the weeks before; some took another level later, some ended it. */
export function inventMembers(
  people: Invented[],
  source: SourceRecord,
  now: number,
  random: () => number,
): Happening[] {
  return people.flatMap((person, index): Happening[] => {
    const at = Math.round(now - 45 * 60_000 - random() * DAYS * DAY_MS);
    const level = pick(['Friend', 'Friend', 'Patron'], random);
    const agrees = {
      says: random() < 0.7 ? 'yes' : 'no',
      words: PURPOSES.letter.wordings[2],
      at: new Date(at).toISOString(),
    };
    const tells = (type: string, when: number, now_: { level: string; ends: string } | null): Happening => ({
      at: when,
      source,
      page: '',
      person,
      payload: {
        kind: 'json',
        json: {
          id: `demo-${index}-${type}`,
          type,
          test: false,
          member: { email: person.email, name: { given: person.given, family: person.family } },
          membership: now_ && { ...now_, begins: isoDay(at) },
          agrees,
        },
        files: [],
      },
      confirmsAfter: type === 'membership.began' && random() < 0.8 ? pick([5, 12, 90], random) * 60_000 : null,
    });
    const ends = isoDay(at + 365 * DAY_MS);
    if (index % 6 === 5) return [tells('member.registered', at, null)];
    const later = at + 4 * DAY_MS;
    const began = tells('membership.began', at, { level, ends });
    if (later > now) return [began];
    if (index % 6 === 1) return [began, tells('membership.changed', later, { level: 'Patron', ends })];
    return index % 6 === 3
      ? [began, tells('membership.ended', later, { level, ends: isoDay(later - DAY_MS) })]
      : [began];
  });
}
