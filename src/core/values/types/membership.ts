import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';
import { date } from './date.ts';
import { text } from './text.ts';

/** That somebody is a member, of which level and from when to when; days as in ISO 8601, '' for since ever and without an end. */
export interface Membership {
  level: string;
  begins: string;
  ends: string;
  /** Whose days these are, by a name of the IANA time zone database; absent for UTC. */
  zone?: string;
}

export const MEMBERSHIP_PARTS = ['level', 'begins', 'ends'] as const;

/** Whether somebody is a member; the last day counts, as it is where the membership is. @param now milliseconds since 1970 */
export function isInForce({ begins, ends, zone = UTC }: Membership, now: number): boolean {
  const day = dayIn(zone, now);
  return (begins === '' || begins <= day) && (ends === '' || ends >= day);
}

const UTC = 'UTC';
/** To make one takes long, and they are asked for again and again. */
const calendars = new Map<string, Intl.DateTimeFormat>();

/** The day in a zone, as in ISO 8601. @param zone a name of the IANA time zone database @param now milliseconds since 1970 */
export function dayIn(zone: string, now: number): string {
  const calendar =
    calendars.get(zone) ??
    new Intl.DateTimeFormat('en-u-ca-iso8601', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
  calendars.set(zone, calendar);
  const parts = new Map(calendar.formatToParts(now).map(({ type, value }) => [type, value]));
  return ['year', 'month', 'day'].map((part) => parts.get(part as 'year')).join('-');
}

/** Read from parts, a line each, in the order of MEMBERSHIP_PARTS. */
export const membership: ValueType<Membership> = {
  parse: (written, manner) => {
    const [first = '', from = '', until = ''] = written.replace(/\r\n?/g, '\n').split('\n');
    const level = text.parse(first, manner);
    if (!level.ok) return level;
    const days = [from, until].map((day) => (day.trim() === '' ? good('') : date.parse(day, manner)));
    const wrong = days.find((day) => !day.ok);
    if (wrong) return wrong;
    const [begins = '', ends = ''] = days.map((day) => (day.ok ? day.value : ''));
    if (level.value === '' && begins === '' && ends === '') return bad('Enter a level, or from when to when.');
    if (begins !== '' && ends !== '' && ends < begins) return bad('It ends before it begins.');
    return good({ level: level.value, begins, ends });
  },
  print: (value, locale) => {
    if (locale === undefined) return MEMBERSHIP_PARTS.map((part) => value[part]).join('\n');
    const day = (when: string) => date.print(when, locale);
    return [
      value.level,
      value.begins === '' ? '' : `from ${day(value.begins)}`,
      value.ends === '' ? '' : `to ${day(value.ends)}`,
    ]
      .filter((part) => part !== '')
      .join(' ');
  },
  same: (a, b) => MEMBERSHIP_PARTS.every((part) => a[part] === b[part]) && (a.zone ?? UTC) === (b.zone ?? UTC),
  edgeCases: ['Patron\n2026-01-01\n2026-12-31', 'Friend\n\n', 'Friend\n2024-03-01\n2025-02-28'],
};
