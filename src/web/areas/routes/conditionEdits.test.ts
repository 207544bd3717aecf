import { expect, it } from 'vitest';
import { sourceField } from '../../../../test/world/fields.ts';
import { addTest, changeTest, groupOf, removeTest, setGroup } from './conditionEdits.ts';

const fields = [sourceField('likes')];

it('begins with one test, and is for everybody again when the last is taken away', () => {
  const first = setGroup(null, 'all', fields);
  const [test] = groupOf(first)?.of ?? [];
  const id = test?.kind === 'test' ? test.id : '';
  expect(test).toMatchObject({ kind: 'test', field: 'likes', test: 'is', value: '' });
  const two = addTest(first, fields);
  expect(groupOf(two)?.of).toHaveLength(2);
  expect(groupOf(removeTest(two, id))?.of).toHaveLength(1);
  expect(removeTest(first, id)).toBeNull();
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
