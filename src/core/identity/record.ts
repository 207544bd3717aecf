import {
  inWords,
  isEmpty,
  normaliseEmail,
  TRUSTS,
  type FieldValue,
  type FieldValues,
  type KeepRule,
  type SourceField,
  type Trust,
} from '../values/index.ts';

/** What is known of a contact when a submission is planned. */
export interface KnownContact {
  id: string;
  /** At which they can be asked to confirm; '' when none is known. */
  address: string;
  values: Record<string, FieldValue>;
  /** How far the source of each value is trusted; as usual where it does not say. */
  trusts?: Record<string, Trust>;
}

export interface ValueChange {
  name: string;
  from: FieldValue | null;
  to: FieldValue;
  /** By which the value becomes the present one, or does not. */
  rule: KeepRule;
  /** How far its source is trusted; as usual where it does not say, as in plans of before. */
  trust?: Trust;
  /** When it is taken over; never, where anybody could have said it of a confirmed person and nobody asks them. */
  when: 'now' | 'after confirmation' | 'never';
}

/** One value that was said of a contact. Claims are only ever added. */
export interface Claim {
  id: string;
  name: string;
  value: FieldValue;
  rule: KeepRule;
  trust: Trust;
  /** When it was taken over, in milliseconds since 1970. */
  at: number;
}

/** The present record: what all claims of a person add up to, each by its rule, in the order in which they were taken over. */
export function presentRecord<One extends Claim>(claims: One[]): Map<string, One> {
  const present = new Map<string, One>();
  for (const claim of [...claims].sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1))) {
    const before = present.get(claim.name);
    if (!before || wins(claim.rule, before, claim)) present.set(claim.name, claim);
  }
  return present;
}

type Trusted = Pick<Claim, 'value' | 'trust'>;

/** Whether a value takes the place of another. */
function wins(rule: KeepRule, before: Trusted, after: Trusted): boolean {
  switch (rule) {
    case 'latest':
      return true;
    case 'first':
      return false;
    case 'longest':
      return inWords(after.value).length > inWords(before.value).length;
    case 'most trusted':
      return TRUSTS.indexOf(after.trust) >= TRUSTS.indexOf(before.trust);
    default:
      return rule satisfies never;
  }
}

/**
 * What a submission changes in a contact. Empty answers never erase what is known.
 * @param trust how far its source is trusted
 */
export function changesTo(
  known: KnownContact | null,
  fields: SourceField[],
  values: FieldValues,
  trust: Trust = 'usual',
): ValueChange[] {
  return fields.flatMap(({ id, type, keepAs, keepRule: rule }) => {
    const sent = values[id];
    if (keepAs === '' || sent === undefined || isEmpty(sent)) return [];
    const to = type === 'email' && typeof sent === 'string' ? normaliseEmail(sent) : sent;
    const from = known?.values[keepAs] ?? null;
    if (JSON.stringify(from) === JSON.stringify(to)) return [];
    const before = from !== null && { value: from, trust: known?.trusts?.[keepAs] ?? 'usual' };
    if (before && !wins(rule, before, { value: to, trust })) return [];
    return [{ name: keepAs, from, to, rule, trust, when: 'now' as const }];
  });
}

/** The name that values say, by what they are kept as; '' when they say none. */
export function nameIn(values: Record<string, FieldValue>): string {
  if (values.full_name !== undefined) return inWords(values.full_name);
  return [values.first_name, values.last_name]
    .filter((part) => part !== undefined)
    .map((part) => inWords(part))
    .join(' ');
}

/** What a submission's values are kept as. */
export const keptValues = (fields: SourceField[], values: FieldValues): Record<string, FieldValue> =>
  Object.fromEntries(
    fields.flatMap(({ id, keepAs }) => {
      const value = values[id];
      return keepAs === '' || value === undefined || isEmpty(value) ? [] : [[keepAs, value]];
    }),
  );
