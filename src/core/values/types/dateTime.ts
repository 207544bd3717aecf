import { bad, good, type Result } from '../../result.ts';
import type { Manner, ValueType } from '../type.ts';
import { date } from './date.ts';
import { readTime } from './time.ts';

/**
 * A moment as RFC 3339 writes it, with its offset; or, where none was said, a day and a time at the place of whoever wrote
 * it, without one (WHATWG HTML, "valid local date and time string").
 */
export const dateTime: ValueType<string> = {
  parse: (written, manner) => readDateTime(written.trim(), manner),
  print: (value, locale) =>
    locale === undefined
      ? value
      : new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeStyle: 'short', timeZone: 'UTC' }).format(
          momentOf(value),
        ),
  same: (a, b) => a === b || (hasOffset(a) && hasOffset(b) && momentOf(a) === momentOf(b)),
  edgeCases: ['1985-04-12T23:20:50.52Z', '1996-12-19T16:39:57-08:00', '2026-05-31T19:30'],
};

const OFFSET = /(Z|[+-]\d{2}:\d{2})$/;
const hasOffset = (value: string): boolean => OFFSET.test(value);
/** Milliseconds since 1970; a leap second (RFC 3339, 5.7) counts as the one after it. */
const momentOf = (value: string): number =>
  Date.parse((hasOffset(value) ? value : `${value}Z`).replace(/:60(?=[.Z+-])/, ':59')) +
  (/:60(?=[.Z+-])/.test(value) ? 1000 : 0);

function readDateTime(typed: string, manner: Manner): Result<string> {
  const found =
    /^(\S+?)(?:[T,]\s?|\s+)(\d{1,2}[:.]\d{2}(?::(\d{2}))?(\.\d+)?(?:\s*[ap]\.?m\.?)?)\s?(Z|[+-]\d{2}:?\d{2})?$/i.exec(
      typed,
    );
  if (!found) return bad(`"${typed.slice(0, 40)}" is not a date with a time, like 2026-05-31 19:30.`);
  const [, dayText = '', clock = '', seconds, fraction = '', offset = ''] = found;
  const day = date.parse(dayText, manner);
  if (!day.ok) return day;
  const isLeap = seconds === '60';
  const at = readTime((isLeap ? clock.replace(/:60/, ':59') : clock).replace(/(:\d{2})\.\d+/, '$1'));
  if (!at.ok) return at;
  const zone = offset.toUpperCase().replace(/^([+-]\d{2})(\d{2})$/, '$1:$2');
  if (!/^(Z|[+-]([01]\d|2[0-3]):[0-5]\d|)$/.test(zone)) return bad(`${offset} is not an offset like +01:00.`);
  const time = isLeap ? at.value.replace(/:59$/, ':60') : at.value;
  return good(`${day.value}T${time}${fraction}${zone}`);
}
