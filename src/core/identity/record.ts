import {
  inWords,
  isEmpty,
  normaliseEmail,
  type FieldValue,
  type FieldValues,
  type KeepRule,
  type SourceField,
} from '../values/index.ts';

/** What is known of a contact when a submission is planned. */
export interface KnownContact {
  id: string;
  /** At which they can be asked to confirm; '' when none is known. */
  address: string;
  values: Record<string, FieldValue>;
}

export interface ValueChange {
  name: string;
  from: FieldValue | null;
  to: FieldValue;
  /** By which the value becomes the present one, or does not. */
  rule: KeepRule;
  /** When it is taken over; never, where anybody could have said it of a confirmed person and nobody asks them. */
  when: 'now' | 'after confirmation' | 'never';
}

/** One value that was said of a contact. Claims are only ever added. */
export interface Claim {
  id: string;
  name: string;
  value: FieldValue;
  rule: KeepRule;
  /** When it was taken over, in milliseconds since 1970. */
  at: number;
}

/** The present record: what all claims of a person add up to, each by its rule, in the order in which they were taken over. */
export function presentRecord<One extends Claim>(claims: One[]): Map<string, One> {
  const present = new Map<string, One>();
  for (const claim of [...claims].sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1))) {
    const before = present.get(claim.name);
    if (!before || wins(claim.rule, before.value, claim.value)) present.set(claim.name, claim);
  }
  return present;
}

/** Whether a value takes the place of another. */
export function wins(rule: KeepRule, before: FieldValue, value: FieldValue): boolean {
  switch (rule) {
    case 'latest':
      return true;
    case 'first':
      return false;
    case 'longest':
      return inWords(value).length > inWords(before).length;
    default:
      return rule satisfies never;
  }
}

/** What a submission changes in a contact. Empty answers never erase what is known. */
export function changesTo(known: KnownContact | null, fields: SourceField[], values: FieldValues): ValueChange[] {
  return fields.flatMap(({ id, type, keepAs, keepRule: rule }) => {
    const sent = values[id];
    if (keepAs === '' || sent === undefined || isEmpty(sent)) return [];
    const to = type === 'email' && typeof sent === 'string' ? normaliseEmail(sent) : sent;
    const from = known?.values[keepAs] ?? null;
    if (JSON.stringify(from) === JSON.stringify(to) || (from !== null && !wins(rule, from, to))) return [];
    return [{ name: keepAs, from, to, rule, when: 'now' as const }];
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
