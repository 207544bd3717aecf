import { expect, it } from 'vitest';
import { sourceField } from '../../../../test/world/fields.ts';
import { targetOf } from '../../../../test/world/routes.ts';
import { plainLine } from '../../../core/mapping/index.ts';
import { typeThere, unusedFields } from './missing.ts';

it('finds what nothing of a target uses: no line, no step of one, no condition, no consent', () => {
  const fields = ['name', 'until', 'likes', 'consent', 'plan'].map((key) => sourceField(key, 'text'));
  const target = targetOf('C', {
    lines: [
      plainLine({
        id: 'l',
        to: 'there',
        from: { kind: 'field', field: 'name' },
        steps: [{ id: 's', kind: 'time between', options: { until: 'until' } }],
      }),
    ],
    tags: [{ id: 't', tag: 'x', when: { kind: 'test', id: 'c', field: 'likes', test: 'is', value: 'Moon' } }],
  });
  expect(unusedFields(target, fields, ['consent']).map(({ id }) => id)).toEqual(['plan']);
});

it.each([
  ['date-time', ['date', 'text'], 'date'],
  ['choice', ['choice', 'text'], 'choice'],
  ['rating' as 'file', ['number'], 'text'],
  ['money', undefined, 'text'],
] as const)('%s becomes, among %j, %s', (type, makesTypes, wanted) =>
  expect(typeThere({ type }, makesTypes ? { makesTypes: [...makesTypes] } : {})).toBe(wanted),
);
