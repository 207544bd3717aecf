import { expect, it } from 'vitest';
import { sourceField } from '../../../../test/world/fields.ts';
import {
  addPart,
  askAbout,
  groupOf,
  newGroup,
  newTest,
  removePart,
  replacePart,
  setGroup,
  type Group,
} from './conditionEdits.ts';

const fields = [sourceField('likes')];
const first = setGroup(null, 'all', fields) as Group;

it('begins with one test, and is for everybody again when the last is taken away', () => {
  const [test] = first.of;
  expect(test).toMatchObject({ kind: 'test', field: 'likes', test: 'is', value: '' });
  const two = addPart(first, newTest(fields));
  expect(two.of).toHaveLength(2);
  expect(test && removePart(two, test)?.of).toHaveLength(1);
  expect(test && removePart(first, test)).toBeNull();
  expect(setGroup(two, '', fields)).toBeNull();
});

it('keeps the tests when they go together otherwise, and changes one of them', () => {
  const any = groupOf(setGroup(first, 'any', fields)) as Group;
  expect(any).toMatchObject({ kind: 'any', of: [{ field: 'likes' }] });
  const test = newTest(fields);
  const next = { ...test, test: 'contains' as const, value: 'Moon' };
  expect(replacePart(addPart(any, test), test, next).of[1]).toEqual(next);
});

it('puts groups into groups, the other way of going together', () => {
  const inner = newGroup('all', fields);
  expect(inner.kind).toBe('any');
  expect(newGroup('any', fields).kind).toBe('all');
  expect(removePart(addPart(first, inner), inner)).toEqual(first);
});

it('asks about another field by a test that its type has', () => {
  const test = { ...newTest(fields), test: 'contains' as const, value: 'Moon' };
  expect(askAbout(test, sourceField('born', 'date'))).toMatchObject({ field: 'born', test: 'is', value: '' });
  expect(askAbout(test, sourceField('story', 'long text'))).toMatchObject({ test: 'contains' });
  expect(askAbout(test, sourceField('tick', 'yes/no'))).toMatchObject({ test: 'is', value: 'yes' });
});
