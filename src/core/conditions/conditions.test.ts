import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import type { FieldValue } from '../values/index.ts';
import { decide, holdsForTexts, inSentence, TEST_NAMES, type Condition, type TestName } from './index.ts';

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
/** The day of the examples. */
const NOW = Date.UTC(2026, 4, 31, 12);
const verdict = (condition: Condition, facts: Record<string, FieldValue>) =>
  decide(condition, { values: facts, now: NOW }, fields).verdict;

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
    ['GB', 'is none of', 'FR, GB', 'does not hold'],
    [['Moon'], 'is none of', 'Sun, Comets', 'holds'],
    ['Hill School', 'does not contain', 'college', 'holds'],
    ['mara@hill.example', 'ends with', '@hill.example', 'holds'],
    ['mara@hill.example', 'matches', '*@*.example', 'holds'],
    ['mara@hill.example', 'matches', 'mara?hill*', 'holds'],
    ['mara@hill.example', 'matches', 'hill', 'does not hold'],
    // Composed or not, it is one letter (Unicode Standard Annex 15).
    ['Zoe\u0308', 'is', 'zoë', 'holds'],
    ['2026-05-29', 'is within the last days', '2', 'holds'],
    ['2026-05-28', 'is within the last days', '2', 'does not hold'],
    ['2026-05-31', 'is within the last days', '0', 'holds'],
    ['2026-06-01', 'is within the last days', '9', 'does not hold'],
    ['2026-06-02', 'is within the next days', '2', 'holds'],
    ['2026-05-31T11:00:00Z', 'is within the last days', '1', 'holds'],
    ['2026-05-29T11:00:00Z', 'is within the last days', '2', 'does not hold'],
    ['2026-05-29', 'is within the last days', 'some', 'cannot say'],
    ['soon', 'is within the last days', '2', 'cannot say'],
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
    expect(decide(test('likes', 'contains', 'Moon'), { values: {}, now: NOW }, fields)).toEqual({
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

describe('something known of the person', () => {
  const known = [{ ...sourceField('@agreed p email', 'yes/no'), label: 'has agreed to Letter by email' }];
  const agreed = (value: string): Condition => test('@agreed p email', 'is', value);
  const told = (value: string, is: boolean | undefined) =>
    decide(agreed(value), { values: is === undefined ? {} : { '@agreed p email': is }, now: NOW }, known);

  it.each([
    ['yes', true, 'holds', 'the person has agreed to Letter by email'],
    ['yes', false, 'does not hold', 'the person has agreed to Letter by email: no'],
    ['no', false, 'holds', 'the person has agreed to Letter by email: no'],
    ['yes', undefined, 'cannot say', 'nobody knows whether the person has agreed to Letter by email'],
  ] as const)('asked for %s, it being %s: %s', (value, is, verdict, why) =>
    expect(told(value, is)).toEqual({ verdict, why }),
  );
});

describe('the sentence and the decision agree', () => {
  const letters = ['A', 'B', 'C'].map((name) => sourceField(name, 'text', { label: name }));
  const leaf = fc.constantFrom('A', 'B', 'C').map((name) => test(name, 'is', 'x'));
  const { tree } = fc.letrec<{ tree: Condition }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      leaf,
      fc.record({
        kind: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
        of: fc.array(tie('tree'), { minLength: 1, maxLength: 3 }),
      }),
    ),
  }));
  const values = fc.record({
    A: fc.constantFrom('x', 'y', ''),
    B: fc.constantFrom('x', 'y', ''),
    C: fc.constantFrom('x', 'y', ''),
  });

  /** Reads such a sentence: "not" binds closest, then "and", then "or" (Kleene's strong tables, from memory: 1, 0, and ½ for unsaid). */
  function readSentence(sentence: string, facts: Record<string, string>): number {
    const words = sentence.match(/\(|\)|not|and|or|[ABC] is "x"/g) ?? [];
    const next = () => words.shift() ?? '';
    const one = (): number => {
      const word = next();
      if (word === 'not') return 1 - one();
      if (word === '(') {
        const inside = either();
        next();
        return inside;
      }
      const fact = facts[word[0] ?? ''] ?? '';
      return fact === '' ? 0.5 : Number(fact === 'x');
    };
    const both = (): number => {
      let all = one();
      while (words[0] === 'and') {
        next();
        all = Math.min(all, one());
      }
      return all;
    };
    const either = (): number => {
      let any = both();
      while (words[0] === 'or') {
        next();
        any = Math.max(any, both());
      }
      return any;
    };
    return either();
  }

  it('whatever is asked, of whatever is known', () =>
    fc.assert(
      fc.property(tree, values, (condition, facts) => {
        const worth = { holds: 1, 'cannot say': 0.5, 'does not hold': 0 };
        const { verdict } = decide(condition, { values: facts, now: NOW }, letters);
        expect(readSentence(inSentence(condition, letters), facts)).toBe(worth[verdict]);
      }),
      { numRuns: 300 },
    ));
});

describe('conditions over texts, as a page of others decides them', () => {
  // What the inputs of a form hold, and the values that the same is read as.
  const pairs: [given: FieldValue, texts: string[]][] = [
    ['Hill', ['Hill']],
    [
      ['Moon', 'Sun'],
      ['Moon', 'Sun'],
    ],
    [12, ['12']],
    [-0.5, ['-0.5']],
    ['2026-05-31', ['2026-05-31']],
    ['2026-05-31T11:00:00Z', ['2026-05-31T11:00:00Z']],
    ['19:30', ['19:30']],
    [true, ['yes']],
    [false, ['no']],
    [{ given: 'Ada', family: 'Vale' }, ['Ada Vale']],
    ['', []],
  ];
  const asked = [
    'Hill',
    'Moon, Sun',
    'Sun',
    '9',
    '12',
    '2026-06-01',
    '2026-05-31T12:00:00Z',
    '20:00',
    '9 EUR',
    '9 USD',
    'yes',
    'a*',
    '3',
    '',
  ];
  it.each(TEST_NAMES)('say the same of %s as those over values', (name) => {
    for (const [given, texts] of pairs)
      for (const value of asked) {
        const condition = test('f', name, value);
        const over = holdsForTexts(condition, () => texts, NOW);
        const said = over === null ? 'cannot say' : over ? 'holds' : 'does not hold';
        expect([name, given, value, said]).toEqual([name, given, value, verdict(condition, { f: given })]);
      }
  });
  it('compare amounts of one currency', () => {
    const over = (asked: string) => holdsForTexts(test('f', 'is more than', asked), () => ['12.50 EUR'], NOW);
    expect([over('9 EUR'), over('13.00 EUR'), over('9 USD')]).toEqual([true, false, null]);
  });
  it.each(['all', 'any', 'none'] as const)('go together by %s as those over values do', (kind) => {
    const three = [test('f', 'is', 'Hill'), test('f', 'is', 'Vale'), test('likes', 'is', 'Sun')];
    for (const of of [[], [three[0]], [three[1]], [three[2]], [three[0], three[2]], [three[1], three[2]], three]) {
      const condition = { kind, of } as Condition;
      const over = holdsForTexts(condition, (field) => (field === 'f' ? ['Hill'] : []), NOW);
      expect(over === null ? 'cannot say' : over ? 'holds' : 'does not hold').toBe(verdict(condition, { f: 'Hill' }));
    }
  });
});
