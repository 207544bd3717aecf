import { isEmpty, printValue, type FieldValue, type FieldValues, type SourceField } from '../values/index.ts';
import { asksOf, TESTS, type TestName } from './tests.ts';

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

/** What a condition is decided by. */
export interface Facts {
  /** By the ids of fields. */
  values: FieldValues;
  /** In milliseconds since 1970. */
  now: number;
}

/** Says whether a condition holds for what is known. */
export function decide(condition: Condition, facts: Facts, fields: SourceField[]): Decision {
  if (condition.kind === 'test') return decideTest(condition, facts, labelOf(condition.field, fields));
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

function decideTest(condition: FieldTest, { values, now }: Facts, label: string): Decision {
  const { field, test, value } = condition;
  const given: FieldValue | undefined = values[field];
  const { holds } = TESTS[test];
  const empty = isEmpty(given) || given === undefined;
  if (test === 'is filled' || test === 'is empty') {
    const is = (test === 'is empty') === empty;
    return { verdict: is ? 'holds' : 'does not hold', why: empty ? `${label} is empty` : `${label} is filled` };
  }
  if (empty)
    return {
      verdict: 'cannot say',
      why: isOfKnown(field)
        ? `nobody knows whether the person ${label}`
        : `${label} is empty, so nobody can say whether it ${askedInWords(condition)}`,
    };
  const said = holds(given, value, now);
  if (said === null)
    return {
      verdict: 'cannot say',
      why: `${label} is "${printValue(given)}", which cannot be compared with "${value}"`,
    };
  if (isOfKnown(field))
    return {
      verdict: said ? 'holds' : 'does not hold',
      why: knownInSentence(label, given === true),
    };
  return said
    ? { verdict: 'holds', why: testInSentence(condition, label) }
    : { verdict: 'does not hold', why: `${label} is "${printValue(given)}"` };
}

/** Something that is known of the person, rather than something that was sent. */
export const isOfKnown = (field: string): boolean => field.startsWith('@') && field.includes(' ');

const knownInSentence = (label: string, is: boolean): string => `the person ${label}${is ? '' : ': no'}`;

function testInSentence(condition: FieldTest, label: string): string {
  if (isOfKnown(condition.field) && asksOf(condition.test) === 'value')
    return knownInSentence(label, (condition.value === 'yes') === (condition.test === 'is'));
  return `${label} ${askedInWords(condition)}`;
}

/** What a test asks, as it is said after the name of a field. */
function askedInWords({ test, value }: FieldTest): string {
  const { words, asks } = TESTS[test];
  if (asks === 'nothing') return words;
  return asks === 'days' ? `${words} ${value} days` : `${words} "${value}"`;
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
