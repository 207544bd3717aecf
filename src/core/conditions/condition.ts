import { isEmpty, printValue, type FieldValue, type FieldValues, type SourceField } from '../values/index.ts';
import { TESTS, type TestName } from './tests.ts';

/** What has to be so: one test of a field, or several conditions together. */
export type Condition =
  | { kind: 'all' | 'any' | 'none'; of: Condition[] }
  | {
      kind: 'test';
      /** Outlives reordering. */
      id: string;
      /** Id of the field. */
      field: string;
      test: TestName;
      /** What it is compared with; '' for tests that need nothing. */
      value: string;
    };

/** Whether a condition holds; a value that nobody gave is neither one thing nor its opposite. */
export type Verdict = 'holds' | 'does not hold' | 'cannot say';

export interface Decision {
  verdict: Verdict;
  /** Why, in a sentence without its full stop. */
  why: string;
}

/** Says whether a condition holds for what is known. @param facts values by field id */
export function decide(condition: Condition, facts: FieldValues, fields: SourceField[]): Decision {
  if (condition.kind === 'test') return decideTest(condition, facts[condition.field], labelOf(condition.field, fields));
  const decisions = condition.of.map((one) => decide(one, facts, fields));
  const first = (verdict: Verdict) => decisions.find((decision) => decision.verdict === verdict);
  const because = (verdict: Verdict, decision: Decision | undefined, otherwise: string): Decision => ({
    verdict,
    why: decision?.why ?? otherwise,
  });
  const together = condition.kind;
  switch (together) {
    case 'all': {
      const wrong = first('does not hold') ?? first('cannot say');
      return wrong ?? because('holds', decisions.at(-1), 'nothing is asked for');
    }
    case 'any': {
      const right = first('holds') ?? first('cannot say');
      return right ?? because('does not hold', decisions[0], 'nothing is asked for');
    }
    case 'none': {
      const wrong = first('holds');
      if (wrong) return { verdict: 'does not hold', why: wrong.why };
      return first('cannot say') ?? because('holds', decisions[0], 'nothing is asked for');
    }
    default:
      return together satisfies never;
  }
}

type FieldTest = Extract<Condition, { kind: 'test' }>;

function decideTest(condition: FieldTest, given: FieldValue | undefined, label: string): Decision {
  const { test, value } = condition;
  const { words, holds } = TESTS[test];
  const empty = isEmpty(given) || given === undefined;
  if (test === 'is filled' || test === 'is empty') {
    const is = (test === 'is empty') === empty;
    return { verdict: is ? 'holds' : 'does not hold', why: empty ? `${label} is empty` : `${label} is filled` };
  }
  if (empty)
    return { verdict: 'cannot say', why: `${label} is empty, so nobody can say whether it ${words} "${value}"` };
  const said = holds(given, value);
  if (said === null)
    return {
      verdict: 'cannot say',
      why: `${label} is "${printValue(given)}", which cannot be compared with "${value}"`,
    };
  return said
    ? { verdict: 'holds', why: testInSentence(condition, label) }
    : { verdict: 'does not hold', why: `${label} is "${printValue(given)}"` };
}

function testInSentence({ test, value }: FieldTest, label: string): string {
  const { words, needsValue } = TESTS[test];
  return `${label} ${words}${needsValue ? ` "${value}"` : ''}`;
}

const labelOf = (id: string, fields: SourceField[]): string => fields.find((field) => field.id === id)?.label ?? id;

/** A condition as a sentence, such as "Interests contains "Moon" and Page begins with "https://"". */
export function inSentence(condition: Condition, fields: SourceField[]): string {
  if (condition.kind === 'test') return testInSentence(condition, labelOf(condition.field, fields));
  const parts = condition.of.map((one) => {
    const text = inSentence(one, fields);
    return one.kind === 'test' || one.of.length < 2 ? text : `(${text})`;
  });
  if (condition.kind === 'none') return parts.length === 0 ? '' : `not ${parts.join(' and not ')}`;
  return parts.join(condition.kind === 'all' ? ' and ' : ' or ');
}

/** Every test in a condition, however deep. */
export const testsIn = (condition: Condition): FieldTest[] =>
  condition.kind === 'test' ? [condition] : condition.of.flatMap(testsIn);

/** The ids of the fields that a condition asks about. */
export const fieldsAskedFor = (condition: Condition): string[] => testsIn(condition).map(({ field }) => field);
