import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import type { FieldValue } from '../values/index.ts';
import { decide, inSentence, type Condition, type TestName } from './index.ts';

const fields = [
  sourceField('likes', 'several choices', { label: 'Interests' }),
  sourceField('f', 'text', { label: 'Field' }),
];
const test = (field: string, name: TestName, value = ''): Condition => ({
  kind: 'test',
  id: 'x',
  field,
  test: name,
  value,
});
const verdict = (condition: Condition, facts: Record<string, FieldValue>) => decide(condition, facts, fields).verdict;

describe('one test', () => {
  it.each<[FieldValue, TestName, string, string]>([
    ['Hill', 'is', 'hill', 'holds'],
    ['Hill', 'is', 'valley', 'does not hold'],
    ['Hill', 'is not', 'valley', 'holds'],
    [['Moon', 'Sun'], 'is', 'Sun', 'holds'],
    [['Moon', 'Sun'], 'is not', 'Sun', 'does not hold'],
    ['GB', 'is one of', 'FR, GB', 'holds'],
    ['Hill School', 'contains', 'school', 'holds'],
    ['https://a.example/b', 'begins with', 'https://a.example', 'holds'],
    [12, 'is more than', '9', 'holds'],
    [12, 'is less than', '12', 'does not hold'],
    [12, 'is more than', 'nine', 'cannot say'],
    ['text', 'is more than', '3', 'cannot say'],
    ['20', 'is more than', '9', 'holds'],
    ['2026-05-31', 'is before', '2026-06-01', 'holds'],
    ['2026-05-31', 'is after', '2026-06-01', 'does not hold'],
    ['2026-05-31', 'is after', 'soon', 'cannot say'],
    [{ amount: '12.50', currency: 'EUR' }, 'is more than', '9 EUR', 'holds'],
    [{ amount: '12.50', currency: 'EUR' }, 'is more than', '9 USD', 'cannot say'],
    [true, 'is', 'yes', 'holds'],
    [false, 'is', 'yes', 'does not hold'],
    ['x', 'is filled', '', 'holds'],
    ['', 'is filled', '', 'does not hold'],
    ['', 'is empty', '', 'holds'],
    [[], 'is empty', '', 'holds'],
    ['', 'is', 'x', 'cannot say'],
    ['', 'is not', 'x', 'cannot say'],
  ])('%j %s %s: %s', (value, name, asked, expected) =>
    expect(verdict(test('f', name, asked), { f: value })).toBe(expected),
  );

  it('of a field that nobody filled says so', () =>
    expect(decide(test('likes', 'contains', 'Moon'), {}, fields)).toEqual({
      verdict: 'cannot say',
      why: 'Interests is empty, so nobody can say whether it contains "Moon"',
    }));
});

describe('several together', () => {
  const yes = test('f', 'is', 'x');
  const no = test('f', 'is', 'y');
  const unknown = test('likes', 'is', 'Moon');
  const facts = { f: 'x' };
  // Kleene's strong three-valued logic, from memory.
  it.each<[Condition, string]>([
    [{ kind: 'all', of: [yes, yes] }, 'holds'],
    [{ kind: 'all', of: [yes, no] }, 'does not hold'],
    [{ kind: 'all', of: [yes, unknown] }, 'cannot say'],
    [{ kind: 'all', of: [unknown, no] }, 'does not hold'],
    [{ kind: 'any', of: [no, yes] }, 'holds'],
    [{ kind: 'any', of: [no, unknown] }, 'cannot say'],
    [{ kind: 'any', of: [unknown, yes] }, 'holds'],
    [{ kind: 'any', of: [no, no] }, 'does not hold'],
    [{ kind: 'none', of: [no, no] }, 'holds'],
    [{ kind: 'none', of: [no, yes] }, 'does not hold'],
    [{ kind: 'none', of: [no, unknown] }, 'cannot say'],
    [{ kind: 'all', of: [] }, 'holds'],
  ])('%j', (condition, expected) => expect(verdict(condition, facts)).toBe(expected));

  it('none is always the opposite of any, and what cannot be said stays unsaid', () =>
    fc.assert(
      fc.property(fc.array(fc.constantFrom(yes, no, unknown), { minLength: 1 }), (of) => {
        const opposite = { holds: 'does not hold', 'does not hold': 'holds', 'cannot say': 'cannot say' };
        expect(verdict({ kind: 'none', of }, facts)).toBe(opposite[verdict({ kind: 'any', of }, facts)]);
      }),
    ));
});

it('is a sentence', () =>
  expect(
    inSentence(
      {
        kind: 'all',
        of: [
          test('likes', 'contains', 'Moon'),
          { kind: 'any', of: [test('f', 'is filled'), test('@page', 'is', 'x')] },
        ],
      },
      fields,
    ),
  ).toBe('Interests contains "Moon" and (Field is filled or @page is "x")'));
