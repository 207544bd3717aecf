import type { Profile } from '../../contract/profile/index.ts';
import type { HeldPerson } from '../../core/delivery/index.ts';
import type { SentValue } from '../../core/mapping/index.ts';
import type { PersonChange } from './connector.ts';

/** What the templates of a profile can name when somebody is written. */
export function writtenValues(
  profile: Profile,
  change: PersonChange,
  before: HeldPerson | null,
): Record<string, unknown> {
  const { places, proof, fields, otherFields, ...rest } = change;
  const [first] = places;
  return {
    ...rest,
    id: before?.id,
    fields: inItsWords(profile, fields),
    otherFields: inItsWords(profile, otherFields),
    // A service whose people are in one list only is asked for the first.
    list: first?.list,
    group: first?.group === '' ? undefined : first?.group,
    lists: [...new Set(places.map(({ list }) => list))],
    groups: places.flatMap(({ group }) => (group === '' ? [] : [group])),
    proof: proof ?? undefined,
  };
}

/** Values as the service stores them: its own words for yes and no, or everything as text. */
function inItsWords({ values }: Profile, fields: Record<string, SentValue | null>): Record<string, unknown> {
  if (!values) return fields;
  const { flags, asText } = values;
  return Object.fromEntries(
    Object.entries(fields).map(([key, value]) => {
      const own = typeof value === 'boolean' && flags ? (value ? flags.yes : flags.no) : value;
      return [key, asText ? String(own ?? '') : own];
    }),
  );
}
