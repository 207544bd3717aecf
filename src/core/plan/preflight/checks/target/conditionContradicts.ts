import type { Condition } from '../../../../conditions/index.ts';
import { factFields } from '../../../../intake/index.ts';
import type { Check } from '../../check.ts';
import { conditionedParts } from '../../conditioned.ts';

/** Fields that would have to be two things at once. @param several ids of fields that can be */
function contradictions(when: Condition, several: Set<string>): string[] {
  if (when.kind === 'test') return [];
  const inside = when.of.flatMap((one) => contradictions(one, several));
  if (when.kind !== 'all') return inside;
  const asked = new Map<string, Set<string>>();
  for (const one of when.of)
    if (one.kind === 'test' && one.test === 'is' && !several.has(one.field))
      asked.set(one.field, (asked.get(one.field) ?? new Set()).add(one.value.trim().toLowerCase()));
  return [...inside, ...[...asked].filter(([, values]) => values.size > 1).map(([field]) => field)];
}

export const conditionContradicts: Check = {
  code: 'a condition contradicts itself',
  level: 'warning',
  why: 'Nothing is two things at once: it never holds, and the part of the route goes to nobody.',
  find: ({ document, source }) => {
    const fields = factFields(source.fields);
    const several = new Set(fields.filter(({ type }) => type === 'several choices').map(({ id }) => id));
    return conditionedParts(document).flatMap(({ when, what: _, ...where }) =>
      contradictions(when, several).map((id) => ({
        ...where,
        message: `${fields.find((field) => field.id === id)?.label ?? id} would have to be two things at once.`,
        fix: 'Let any of the tests be enough, or take one away.',
      })),
    );
  },
};
