import { expect, it } from 'vitest';
import { sourceField } from '../../../../test/world/fields.ts';
import type { Condition } from '../../../core/conditions/index.ts';
import { addTest, changeTest, groupOf, removePart, setGroup } from './conditionEdits.ts';

const fields = [sourceField('likes')];

it('begins with one test, and is for everybody again when the last is taken away', () => {
  const first = setGroup(null, 'all', fields);
  const test = groupOf(first)?.of[0] as Condition;
  expect(test).toMatchObject({ kind: 'test', field: 'likes', test: 'is', value: '' });
  const two = addTest(first, fields);
  expect(groupOf(two)?.of).toHaveLength(2);
  expect(groupOf(removePart(two, test))?.of).toHaveLength(1);
  expect(removePart(first, test)).toBeNull();
  expect(setGroup(two, '', fields)).toBeNull();
});

it('keeps the tests when they go together otherwise, and changes one of them', () => {
  const first = setGroup(null, 'all', fields);
  const any = setGroup(first, 'any', fields);
  expect(groupOf(any)).toMatchObject({ kind: 'any', of: [{ field: 'likes' }] });
  const [test] = groupOf(any)?.of ?? [];
  const id = test?.kind === 'test' ? test.id : '';
  expect(groupOf(changeTest(any, id, { test: 'contains', value: 'Moon' }))?.of).toMatchObject([
    { field: 'likes', test: 'contains', value: 'Moon' },
  ]);
});

it('takes away several tests that stand together, and keeps the others', () => {
  const one = setGroup(null, 'all', fields) as Extract<Condition, { of: Condition[] }>;
  const together: Condition = { kind: 'any', of: one.of };
  const both: Condition = { kind: 'all', of: [...one.of, together] };
  expect(removePart(both, together)).toEqual(one);
});
