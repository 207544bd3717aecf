import { convert, inWords, shapeOf, type FieldValue } from '../values/index.ts';

/** One way of testing a value. */
interface Test {
  /** As it stands between the field and the value. */
  words: string;
  needsValue: boolean;
  /** @returns null when the two cannot be compared */
  holds: (given: FieldValue, asked: string) => boolean | null;
}

const textsOf = (given: FieldValue): string[] =>
  Array.isArray(given) ? given.map((one) => (typeof one === 'string' ? one : JSON.stringify(one))) : [inWords(given)];
const plain = (text: string): string => text.trim().toLowerCase();

/** Compares two values of an order: numbers, amounts of one currency, dates and times. */
function compare(given: FieldValue, asked: string): number | null {
  const type = orderOf(given);
  if (!type) return null;
  const [own, other] = [convert(given, type), convert(asked, type)];
  if (!own.ok || !other.ok) return null;
  const [a, b] = [own.value, other.value];
  if (typeof a === 'object' && 'amount' in a && typeof b === 'object' && 'amount' in b)
    return a.currency === b.currency ? Number(a.amount) - Number(b.amount) : null;
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return typeof a === 'string' && typeof b === 'string' ? (a < b ? -1 : a > b ? 1 : 0) : null;
}

/** What has an order: a text only where it is written as a date or a time (RFC 3339), or is a number. */
function orderOf(given: FieldValue) {
  const shape = shapeOf(given);
  if (shape === 'number' || shape === 'money') return shape;
  if (typeof given !== 'string') return null;
  if (/^\d{4}-\d{2}-\d{2}$/.test(given)) return 'date';
  if (/^\d{4}-\d{2}-\d{2}T/.test(given)) return 'date-time';
  if (/^-?\d+(\.\d+)?$/.test(given)) return 'number';
  return /^\d{2}:\d{2}/.test(given) ? 'time' : null;
}

const ordered = (wanted: (difference: number) => boolean) => (given: FieldValue, asked: string) => {
  const difference = compare(given, asked);
  return difference === null ? null : wanted(difference);
};

/** Every test that a condition can make. */
export const TESTS = {
  is: {
    words: 'is',
    needsValue: true,
    holds: (given, asked) => textsOf(given).some((text) => plain(text) === plain(asked)),
  },
  'is not': {
    words: 'is not',
    needsValue: true,
    holds: (given, asked) => !textsOf(given).some((text) => plain(text) === plain(asked)),
  },
  'is one of': {
    words: 'is one of',
    needsValue: true,
    holds: (given, asked) => {
      const among = new Set(asked.split(',').map(plain));
      return textsOf(given).some((text) => among.has(plain(text)));
    },
  },
  contains: {
    words: 'contains',
    needsValue: true,
    holds: (given, asked) => textsOf(given).some((text) => plain(text).includes(plain(asked))),
  },
  'begins with': {
    words: 'begins with',
    needsValue: true,
    holds: (given, asked) => textsOf(given).some((text) => plain(text).startsWith(plain(asked))),
  },
  'is more than': { words: 'is more than', needsValue: true, holds: ordered((difference) => difference > 0) },
  'is less than': { words: 'is less than', needsValue: true, holds: ordered((difference) => difference < 0) },
  'is before': { words: 'is before', needsValue: true, holds: ordered((difference) => difference < 0) },
  'is after': { words: 'is after', needsValue: true, holds: ordered((difference) => difference > 0) },
  'is filled': { words: 'is filled', needsValue: false, holds: () => true },
  'is empty': { words: 'is empty', needsValue: false, holds: () => false },
} satisfies Record<string, Test>;

export type TestName = keyof typeof TESTS;
export const TEST_NAMES = Object.keys(TESTS) as TestName[];
