/*
 * Conditions over texts alone, as they stand in the inputs of a form: small enough to go along with a page of others. It says
 * the same as decide() does of the values that those texts are read as.
 */
import type { Condition } from './condition.ts';
import { isWithinDays, orderOf, ORDERED_TESTS, WRITTEN_TESTS } from './texts.ts';

/** How a text stands to another one in their order: below 0 before it; null when the two cannot be compared. */
function differenceOf(given: string, asked: string): number | null {
  const order = orderOf(given);
  if (order === 'number')
    return asked.trim() === '' || Number.isNaN(Number(asked)) ? null : Number(given) - Number(asked);
  if (order === null) return moneyDifference(given, asked);
  if (orderOf(asked) !== order) return null;
  const [own, other] = order === 'date-time' ? [Date.parse(given), Date.parse(asked)] : [given, asked];
  return own < other ? -1 : own > other ? 1 : 0;
}

const MONEY = /^(-?\d+(?:\.\d+)?) ?([A-Z]{3})$/;

/** Amounts of one currency (ISO 4217); null for others, and for what is no amount. */
function moneyDifference(given: string, asked: string): number | null {
  const [own, other] = [MONEY.exec(given), MONEY.exec(asked)];
  return own && other && own[2] === other[2] ? Number(own[1]) - Number(other[1]) : null;
}

type FieldTest = Extract<Condition, { kind: 'test' }>;

/** Whether a test holds for what stands in a field; null when nobody can say. */
function testHolds({ test, value }: FieldTest, given: string[], now: number): boolean | null {
  const [first] = given;
  if (test === 'is filled' || test === 'is empty') return (first === undefined) === (test === 'is empty');
  if (first === undefined) return null;
  if (test === 'is within the last days') return isWithinDays(first, value, now, 1);
  if (test === 'is within the next days') return isWithinDays(first, value, now, -1);
  if (test in WRITTEN_TESTS) return WRITTEN_TESTS[test as keyof typeof WRITTEN_TESTS](given, value);
  // What is a value of several parts is no text.
  if (!(test in ORDERED_TESTS)) return null;
  const difference = differenceOf(first, value);
  return difference === null ? null : ORDERED_TESTS[test as keyof typeof ORDERED_TESTS](difference);
}

/**
 * Whether a condition holds for texts; null when nobody can say.
 * @param textsOf what stands in a field, by its id: its answers, without empty ones
 * @param now in milliseconds since 1970
 */
export function holdsForTexts(condition: Condition, textsOf: (field: string) => string[], now: number): boolean | null {
  if (condition.kind === 'test') return testHolds(condition, textsOf(condition.field), now);
  const parts = condition.of.map((one) => holdsForTexts(one, textsOf, now));
  const has = (one: boolean | null) => parts.includes(one);
  if (condition.kind === 'any') return has(true) || (has(null) ? null : false);
  // Of all together, and of none of them, one part can decide.
  const against = condition.kind === 'none';
  return has(against) ? false : has(null) ? null : true;
}
