import type { Condition, TestName } from '../../../core/conditions/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { newPartId } from './newPartId.ts';

type Group = Extract<Condition, { of: Condition[] }>;

/** The tests of a condition, as one group: a single test is a group of one. */
export function groupOf(when: Condition | null): Group | null {
  if (when === null) return null;
  return when.kind === 'test' ? { kind: 'all', of: [when] } : when;
}

const newTest = (fields: SourceField[]): Condition => ({
  kind: 'test',
  id: newPartId(),
  field: fields[0]?.id ?? '@page',
  test: 'is',
  value: '',
});

/** Chooses how tests go together; '' is for everybody. The first choice begins with one test. */
export function setGroup(when: Condition | null, kind: string, fields: SourceField[]): Condition | null {
  if (kind !== 'all' && kind !== 'any' && kind !== 'none') return null;
  return { kind, of: groupOf(when)?.of ?? [newTest(fields)] };
}

export function addTest(when: Condition | null, fields: SourceField[]): Condition {
  const group = groupOf(when) ?? { kind: 'all' as const, of: [] };
  return { ...group, of: [...group.of, newTest(fields)] };
}

export function changeTest(
  when: Condition | null,
  id: string,
  part: { field?: string; test?: TestName; value?: string },
): Condition | null {
  const group = groupOf(when);
  return (
    group && { ...group, of: group.of.map((one) => (one.kind === 'test' && one.id === id ? { ...one, ...part } : one)) }
  );
}

/** Takes a test, or several that stand together, away; without any, everybody is meant. */
export function removePart(when: Condition | null, part: Condition): Condition | null {
  const group = groupOf(when);
  const of = group?.of.filter((one) => one !== part) ?? [];
  return group && of.length > 0 ? { ...group, of } : null;
}
