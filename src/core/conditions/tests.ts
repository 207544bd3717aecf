import { convert, inWords, shapeOf, type FieldValue, type TypeName } from '../values/index.ts';

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
const plain = (text: string): string => text.normalize('NFC').trim().toLowerCase();

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

const DAY = 86_400_000;

/** Whether a date is within some days of now. @param sign 1 for those that are over, -1 for those to come */
const withinDays = (sign: 1 | -1) => (given: FieldValue, asked: string, now: number) => {
  const days = Number(asked);
  const at = typeof given === 'string' && /^\d{4}-\d{2}-\d{2}/.test(given) ? Date.parse(given) : NaN;
  if (asked.trim() === '' || !Number.isFinite(days) || Number.isNaN(at)) return null;
  // A day without a time is over when its last moment is, in whatever zone.
  const isDay = typeof given === 'string' && given.length === 10;
  const since = isDay ? (Math.floor(now / DAY) - Math.floor(at / DAY)) * sign : ((now - at) * sign) / DAY;
  return since >= 0 && since <= days;
};

/** Whether a text is like a pattern: * stands for any characters, ? for one. Takes no longer than both are long together, squared. */
export function isLike(text: string, pattern: string): boolean {
  const [own, like] = [Array.from(plain(text)), Array.from(plain(pattern))];
  let [at, to, star, back] = [0, 0, -1, 0];
  while (at < own.length) {
    if (like[to] === '*') {
      star = to;
      to += 1;
      back = at;
    } else if (like[to] === '?' || like[to] === own[at]) {
      at += 1;
      to += 1;
    } else if (star >= 0) {
      back += 1;
      at = back;
      to = star + 1;
    } else return false;
  }
  return like.slice(to).every((sign) => sign === '*');
}

const any = (given: FieldValue, is: (text: string) => boolean): boolean => textsOf(given).some(is);

const isSame = (given: FieldValue, asked: string) => any(given, (text) => plain(text) === plain(asked));
const contains = (given: FieldValue, asked: string) => any(given, (text) => plain(text).includes(plain(asked)));
const isAmong = (given: FieldValue, asked: string) => {
  const among = new Set(asked.split(',').map(plain));
  return any(given, (text) => among.has(plain(text)));
};
const opposite = (holds: typeof isSame) => (given: FieldValue, asked: string) => !holds(given, asked);

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
    holds: isSame,
  },
  'is not': {
    words: 'is not',
    asks: 'value',
    of: SAME,
    holds: opposite(isSame),
  },
  'is one of': {
    words: 'is one of',
    asks: 'several',
    of: AMONG,
    holds: isAmong,
  },
  'is none of': {
    words: 'is none of',
    asks: 'several',
    of: AMONG,
    holds: opposite(isAmong),
  },
  contains: {
    words: 'contains',
    asks: 'value',
    of: WRITTEN,
    holds: contains,
  },
  'does not contain': {
    words: 'does not contain',
    asks: 'value',
    of: WRITTEN,
    holds: opposite(contains),
  },
  'begins with': {
    words: 'begins with',
    asks: 'value',
    of: WRITTEN,
    holds: (given, asked) => any(given, (text) => plain(text).startsWith(plain(asked))),
  },
  'ends with': {
    words: 'ends with',
    asks: 'value',
    of: WRITTEN,
    holds: (given, asked) => any(given, (text) => plain(text).endsWith(plain(asked))),
  },
  matches: {
    words: 'matches',
    asks: 'pattern',
    of: WRITTEN,
    holds: (given, asked) => any(given, (text) => isLike(text, asked)),
  },
  'is more than': {
    words: 'is more than',
    asks: 'value',
    of: COUNTED,
    holds: ordered((difference) => difference > 0),
  },
  'is less than': {
    words: 'is less than',
    asks: 'value',
    of: COUNTED,
    holds: ordered((difference) => difference < 0),
  },
  'is before': {
    words: 'is before',
    asks: 'value',
    of: [...DATED, 'time'],
    holds: ordered((difference) => difference < 0),
  },
  'is after': {
    words: 'is after',
    asks: 'value',
    of: [...DATED, 'time'],
    holds: ordered((difference) => difference > 0),
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
