import { bad, good, type Result } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** A time of the day: HH:MM, or HH:MM:SS where there are seconds (WHATWG HTML, "valid time string", to the second). */
export const time: ValueType<string> = {
  parse: (written) => readTime(written.trim()),
  print: (value, locale) =>
    locale === undefined
      ? value
      : new Intl.DateTimeFormat(locale, { timeStyle: 'short', timeZone: 'UTC' }).format(
          new Date(`1970-01-01T${value}Z`),
        ),
  same: (a, b) => a.padEnd(8, ':00') === b.padEnd(8, ':00'),
  edgeCases: ['00:00', '23:59:59', '7.30 pm'],
};

export function readTime(typed: string): Result<string> {
  const found = /^(\d{1,2})[:.h](\d{2})(?::(\d{2})(?:\.\d+)?)?\s*(?:([ap])\.?\s?m\.?)?$/i.exec(typed);
  const [, hours = '', minutes = '', seconds, half] = found ?? [];
  const hour = half ? (Number(hours) % 12) + (/p/i.test(half) ? 12 : 0) : Number(hours);
  const isHalfWrong = half !== undefined && (Number(hours) < 1 || Number(hours) > 12);
  if (!found || isHalfWrong || hour > 23 || Number(minutes) > 59 || Number(seconds ?? 0) > 59)
    return bad(`"${typed.slice(0, 40)}" is not a time like 19:30.`);
  return good(`${String(hour).padStart(2, '0')}:${minutes}${seconds === undefined ? '' : `:${seconds}`}`);
}
