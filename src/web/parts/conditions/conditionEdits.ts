import { testsFor, type Condition, type TestName } from '../../../core/conditions/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { newPartId } from '../newPartId.ts';

export type Group = Extract<Condition, { of: Condition[] }>;
export type FieldTest = Extract<Condition, { kind: 'test' }>;

/** The tests of a condition, as one group: a single test is a group of one. */
export function groupOf(when: Condition | null): Group | null {
  if (when === null) return null;
  return when.kind === 'test' ? { kind: 'all', of: [when] } : when;
}

export const newTest = (fields: SourceField[]): FieldTest => ({
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

export const addPart = (group: Group, part: Condition): Group => ({ ...group, of: [...group.of, part] });

export const replacePart = (group: Group, part: Condition, next: Condition): Group => ({
  ...group,
  of: group.of.map((one) => (one === part ? next : one)),
});

/** Takes a part away; a group without any is gone itself. */
export function removePart(group: Group, part: Condition): Group | null {
  const of = group.of.filter((one) => one !== part);
  return of.length > 0 ? { ...group, of } : null;
}

/** A group to begin with inside another one: the other way of going together, with one test. */
export const newGroup = (within: Group['kind'], fields: SourceField[]): Group => ({
  kind: within === 'all' ? 'any' : 'all',
  of: [newTest(fields)],
});

/** Asks about another field. A test that its type does not have becomes the first that it has. */
export function askAbout(test: FieldTest, field: SourceField): FieldTest {
  const tests = testsFor(field.type);
  const own: TestName = tests.includes(test.test) ? test.test : (tests[0] ?? 'is filled');
  return { ...test, field: field.id, test: own, value: field.type === 'yes/no' ? 'yes' : '' };
}
