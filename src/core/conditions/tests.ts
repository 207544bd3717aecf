import { isWithinDays, orderOf, ORDERED_TESTS, WRITTEN_TESTS } from './texts.ts';
import {
  convert,
  holds,
  inWords,
  isInForce,
  shapeOf,
  type FieldValue,
  type Membership,
  type TypeName,
} from '../values/index.ts';

/** What a value is compared with: nothing, a text, one or several answers, a number of days, or a pattern with * and ?. */
export type Asked = 'nothing' | 'value' | 'several' | 'days' | 'pattern';

/** One way of testing a value. */
interface Test {
  /** As it stands between the field and the value. */
  words: string;
  asks: Asked;
  /** Of which types fields are tested so; null: of all. */
  of: readonly TypeName[] | null;
  /** @returns null when the two cannot be compared @param now in milliseconds since 1970 */
  holds: (given: FieldValue, asked: string, now: number) => boolean | null;
}

const textsOf = (given: FieldValue): string[] =>
  Array.isArray(given) ? given.map((one) => (typeof one === 'string' ? one : JSON.stringify(one))) : [inWords(given)];

/** Compares two values of an order: numbers, amounts of one currency, dates and times. */
function compare(given: FieldValue, asked: string): number | null {
  const type = typeInOrder(given);
  if (!type) return null;
  const [own, other] = [convert(given, type), convert(asked, type)];
  if (!own.ok || !other.ok) return null;
  const [a, b] = [own.value, other.value];
  if (typeof a === 'object' && 'amount' in a && typeof b === 'object' && 'amount' in b)
    return a.currency === b.currency ? Number(a.amount) - Number(b.amount) : null;
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return typeof a === 'string' && typeof b === 'string' ? (a < b ? -1 : a > b ? 1 : 0) : null;
}

function typeInOrder(given: FieldValue) {
  const shape = shapeOf(given);
  if (shape === 'number' || shape === 'money') return shape;
  return typeof given === 'string' ? orderOf(given) : null;
}

const ordered = (wanted: (difference: number) => boolean) => (given: FieldValue, asked: string) => {
  const difference = compare(given, asked);
  return difference === null ? null : wanted(difference);
};

/** Whether a date is within some days of now. @param sign 1 for those that are over, -1 for those to come */
const withinDays = (sign: 1 | -1) => (given: FieldValue, asked: string, now: number) =>
  typeof given === 'string' ? isWithinDays(given, asked, now, sign) : null;

/** Whether somebody is a member now, or is not. */
const inForce = (wanted: boolean) => (given: FieldValue, _: string, now: number) =>
  holds('membership', given) ? isInForce(given as Membership, now) === wanted : null;

/** A test of texts, for a value as it is written. */
const written = (holds: (given: string[], asked: string) => boolean) => (given: FieldValue, asked: string) =>
  holds(textsOf(given), asked);

const WORDED = ['text', 'long text', 'email', 'phone', 'URL', 'person name', 'postal address', 'file'] as const;
const CHOSEN = ['choice', 'several choices', 'country', 'language'] as const;
const COUNTED = ['number', 'money'] as const;
const DATED = ['date', 'date-time'] as const;
const SAME: readonly TypeName[] = [...WORDED, ...CHOSEN, ...COUNTED, ...DATED, 'time', 'yes/no'];
const AMONG: readonly TypeName[] = [...WORDED, ...CHOSEN, ...COUNTED];
const WRITTEN: readonly TypeName[] = [...WORDED, 'several choices', 'list of records'];

/** Every test that a condition can make. */
export const TESTS = {
  is: {
    words: 'is',
    asks: 'value',
    of: SAME,
    holds: written(WRITTEN_TESTS.is),
  },
  'is not': {
    words: 'is not',
    asks: 'value',
    of: SAME,
    holds: written(WRITTEN_TESTS['is not']),
  },
  'is one of': {
    words: 'is one of',
    asks: 'several',
    of: AMONG,
    holds: written(WRITTEN_TESTS['is one of']),
  },
  'is none of': {
    words: 'is none of',
    asks: 'several',
    of: AMONG,
    holds: written(WRITTEN_TESTS['is none of']),
  },
  contains: {
    words: 'contains',
    asks: 'value',
    of: WRITTEN,
    holds: written(WRITTEN_TESTS.contains),
  },
  'does not contain': {
    words: 'does not contain',
    asks: 'value',
    of: WRITTEN,
    holds: written(WRITTEN_TESTS['does not contain']),
  },
  'begins with': {
    words: 'begins with',
    asks: 'value',
    of: WRITTEN,
    holds: written(WRITTEN_TESTS['begins with']),
  },
  'ends with': {
    words: 'ends with',
    asks: 'value',
    of: WRITTEN,
    holds: written(WRITTEN_TESTS['ends with']),
  },
  matches: {
    words: 'matches',
    asks: 'pattern',
    of: WRITTEN,
    holds: written(WRITTEN_TESTS.matches),
  },
  'is more than': {
    words: 'is more than',
    asks: 'value',
    of: COUNTED,
    holds: ordered(ORDERED_TESTS['is more than']),
  },
  'is less than': {
    words: 'is less than',
    asks: 'value',
    of: COUNTED,
    holds: ordered(ORDERED_TESTS['is less than']),
  },
  'is before': {
    words: 'is before',
    asks: 'value',
    of: [...DATED, 'time'],
    holds: ordered(ORDERED_TESTS['is before']),
  },
  'is after': {
    words: 'is after',
    asks: 'value',
    of: [...DATED, 'time'],
    holds: ordered(ORDERED_TESTS['is after']),
  },
  'is within the last days': {
    words: 'is within the last',
    asks: 'days',
    of: DATED,
    holds: withinDays(1),
  },
  'is within the next days': {
    words: 'is within the next',
    asks: 'days',
    of: DATED,
    holds: withinDays(-1),
  },
  'is in force': { words: 'is in force', asks: 'nothing', of: ['membership'], holds: inForce(true) },
  'is over': { words: 'is not in force', asks: 'nothing', of: ['membership'], holds: inForce(false) },
  'is of the level': {
    words: 'is of the level',
    asks: 'value',
    of: ['membership'],
    holds: (given, asked) =>
      typeof given === 'object' && 'level' in given && typeof given.level === 'string'
        ? WRITTEN_TESTS.is([given.level], asked)
        : null,
  },
  'is filled': { words: 'is filled', asks: 'nothing', of: null, holds: () => true },
  'is empty': { words: 'is empty', asks: 'nothing', of: null, holds: () => false },
} satisfies Record<string, Test>;

export type TestName = keyof typeof TESTS;
export const TEST_NAMES = Object.keys(TESTS) as TestName[];

/** What is compared with, as a test says it. */
export const asksOf = (test: TestName): Asked => TESTS[test].asks;

/** The tests that make something of values of a type. Texts may hold figures and dates: all tests are for them. */
export const testsFor = (type: TypeName): TestName[] =>
  TEST_NAMES.filter((name) => {
    const of: readonly TypeName[] | null = TESTS[name].of;
    return of === null || of.includes(type) || (type === 'text' && TESTS[name].asks !== 'nothing');
  });
