import { bad, good, type Result } from '../../result.ts';
import type { Manner, ValueType } from '../type.ts';

/** A day as machines write it (ISO 8601, 5.2.2.1: the extended format). */
export const ISO_DAY = /^\d{4}-\d{2}-\d{2}$/;

/** A day of the calendar: YYYY-MM-DD (WHATWG HTML, "valid date string"). */
export const date: ValueType<string> = {
  parse: (written, manner) => readDate(written.trim(), manner),
  print: (value, locale) =>
    locale === undefined
      ? value
      : new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeZone: 'UTC' }).format(
          new Date(`${value}T00:00:00Z`),
        ),
  same: (a, b) => a.slice(0, 10) === b.slice(0, 10),
  edgeCases: ['2024-02-29', '1999-12-31', '2026-01-01'],
};

function readDate(typed: string, { locale }: Manner): Result<string> {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:T00:00(?::00(?:\.0+)?)?Z?)?$/.exec(typed);
  if (iso) return day(iso[1], iso[2], iso[3], typed);
  const found = /^(\d{1,4})([./-])\s?(\d{1,2})\2\s?(\d{1,4})\.?$/.exec(typed);
  if (!found) return bad(`"${typed.slice(0, 40)}" is not a date like 2026-05-31.`);
  const [, first = '', mark, second = '', third = ''] = found;
  if (first.length === 4) return day(first, second, third, typed);
  if (third.length !== 4) return bad(`Write the year of "${typed}" with four digits.`);
  // Days stand first wherever dots are written between them (CLDR: no language has month.day.year).
  const dayFirst = mark === '.' || (locale === null ? null : isDayFirst(locale));
  if (dayFirst !== null) return dayFirst ? day(third, second, first, typed) : day(third, first, second, typed);
  if (Number(first) > 12) return day(third, second, first, typed);
  if (Number(second) > 12) return day(third, first, second, typed);
  if (first === second) return day(third, first, second, typed);
  return bad(
    `"${typed}" can be two days: write it like ${third}-${second.padStart(2, '0')}-${first.padStart(2, '0')}.`,
  );
}

const isDayFirst = (locale: string): boolean => {
  const order = new Intl.DateTimeFormat(locale, { calendar: 'gregory' }).formatToParts(0).map(({ type }) => type);
  return order.indexOf('day') < order.indexOf('month');
};

/** A day that the calendar has: 30 February is none. */
function day(year = '', month = '', ofMonth = '', typed: string): Result<string> {
  const text = `${year.padStart(4, '0')}-${month.padStart(2, '0')}-${ofMonth.padStart(2, '0')}`;
  // A day that there is not becomes one of the next month.
  const time = new Date(0);
  time.setUTCFullYear(Number(year), Number(month) - 1, Number(ofMonth));
  const isThere = Number(year) > 0 && time.getUTCMonth() + 1 === Number(month) && time.getUTCDate() === Number(ofMonth);
  return isThere ? good(text) : bad(`There is no such day as ${typed}.`);
}
