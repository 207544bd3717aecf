import { DateTime } from 'luxon';
import { bad, good } from '../../result.ts';
import { inWords, printValue, type FieldValue } from '../../values/index.ts';
import { lineOf, localeOf, step } from './step.ts';

/** A day, or a time with its zone, in the zone that is asked for: a day is one whole day everywhere. */
export function momentOf(value: FieldValue, zone = ''): DateTime | null {
  const text = printValue(value).trim();
  const isDay = /^\d{4}-\d{2}-\d{2}$/.test(text);
  const read = DateTime.fromISO(text, { zone: 'utc' });
  if (!read.isValid) return null;
  return isDay || zone === '' ? read : read.setZone(zone);
}

/** In the tokens of Unicode's date patterns (UTS 35), as far as Luxon knows them. */
const PATTERN_HELP = 'd day, M month, y year, H hour, m minute; MMMM writes the month out';

export const writeDate = step({
  help: 'writes a date or a time as the other system reads it',
  takes: ['date', 'date-time'],
  gives: 'text',
  options: {
    pattern: { kind: 'text', label: `Pattern (${PATTERN_HELP})`, preset: 'dd/MM/yyyy' },
    language: { kind: 'language', label: 'Names of months and days in', preset: 'en-GB' },
    zone: { kind: 'time zone', label: 'Times in the zone', preset: '' },
  },
  offers: [
    { name: 'date as 31/05/2026', options: { pattern: 'dd/MM/yyyy' } },
    { name: 'date as 05/31/2026', options: { pattern: 'MM/dd/yyyy' } },
    { name: 'date as 31.05.2026', options: { pattern: 'dd.MM.yyyy' } },
    { name: 'date as 31 May 2026', options: { pattern: 'd MMMM yyyy' } },
    { name: 'date as 2026-05-31', options: { pattern: 'yyyy-MM-dd' } },
    { name: 'date as month and day', options: { pattern: 'MM/dd' } },
    { name: 'time as seconds since 1970', options: { pattern: 'X' } },
  ],
  examples: [
    { from: '2026-05-31', to: '31/05/2026' },
    { from: '2026-05-31', options: { pattern: 'd MMMM yyyy', language: 'de' }, to: '31 Mai 2026' },
    {
      from: '2026-05-31T23:30:00Z',
      options: { pattern: 'yyyy-MM-dd HH:mm', zone: 'Europe/Berlin' },
      to: '2026-06-01 01:30',
    },
    { from: '1970-01-02T00:00:00Z', options: { pattern: 'X' }, to: '86400' },
  ],
  say: ({ pattern }) => `date as ${pattern}`,
  apply: (value, { pattern, language, zone }) => {
    const moment = momentOf(value, zone);
    if (!moment) return bad(`"${inWords(value)}" is not a date`);
    if (!moment.isValid) return bad(`there is no time zone "${zone}"`);
    return good(moment.setLocale(localeOf(language)).toFormat(pattern));
  },
});

export const readDate = step({
  help: 'reads a date that is written in a way of its own',
  takes: ['text', 'number'],
  gives: 'date',
  options: {
    pattern: { kind: 'text', label: `Pattern (${PATTERN_HELP})`, preset: 'dd/MM/yyyy' },
    language: { kind: 'language', label: 'Names of months and days in', preset: 'en-GB' },
  },
  offers: [
    { name: 'read a date like 31/05/2026', options: { pattern: 'd/M/yyyy' } },
    { name: 'read a date like 05/31/2026', options: { pattern: 'M/d/yyyy' } },
    { name: 'read a date like 31.05.2026', options: { pattern: 'd.M.yyyy' } },
    { name: 'read a date like 31 May 2026', options: { pattern: 'd MMMM yyyy' } },
  ],
  examples: [
    { from: '04/05/2026', to: '2026-05-04' },
    { from: '04/05/2026', options: { pattern: 'MM/dd/yyyy' }, to: '2026-04-05' },
    { from: '31 mai 2026', options: { pattern: 'd MMMM yyyy', language: 'fr' }, to: '2026-05-31' },
  ],
  say: ({ pattern }) => `read date ${pattern}`,
  apply: (value, { pattern, language }) => {
    const written = lineOf(value);
    const locale = localeOf(language);
    const read = DateTime.fromFormat(written, pattern, { zone: 'utc', locale, numberingSystem: digitsOf(locale) });
    return read.isValid ? good(read.toISODate()) : bad(`"${written}" is not a date like ${pattern}`);
  },
});

/** The digits of a language: Luxon reads Latin ones only, unless it is told. */
const digitsOf = (language: string) => new Intl.NumberFormat(language).resolvedOptions().numberingSystem;

const UNITS = ['years', 'months', 'weeks', 'days', 'hours'] as const;

export const timeBetween = step({
  help: 'counts the full years, months, weeks, days or hours from a date to today, or to another date',
  takes: ['date', 'date-time'],
  gives: 'number',
  options: {
    unit: { kind: 'choice', label: 'Count', preset: 'years', of: UNITS },
    until: { kind: 'field', label: 'Until the date in (nothing chosen: until now)', preset: '' },
  },
  offers: [
    { name: 'age in years', options: { unit: 'years' } },
    { name: 'days since', options: { unit: 'days' } },
    { name: 'days between two dates', options: { unit: 'days' } },
  ],
  examples: [
    // Day zero of every example is 31 May 2026.
    { from: '1990-06-01', to: 35 },
    { from: '2026-05-01', options: { unit: 'days' }, to: 30 },
    { from: '2026-06-10', options: { unit: 'days' }, to: -10 },
  ],
  say: ({ unit, until }) => (until === '' ? `${unit} since` : `${unit} between`),
  apply: (value, { unit, until }, { values, now }) => {
    const from = momentOf(value);
    if (!from) return bad(`"${inWords(value)}" is not a date`);
    const end = until === '' ? DateTime.fromMillis(now, { zone: 'utc' }) : momentOf(values[until] ?? '');
    if (!end) return bad(`"${inWords(values[until])}", until which is counted, is not a date`);
    return good(Math.trunc(end.diff(from, unit).as(unit)));
  },
});
