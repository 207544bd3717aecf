import { bad, good, type Result } from '../../result.ts';
import type { Manner, ValueType } from '../type.ts';

/** A number: a double (IEEE 754), as JSON has it. */
export const number: ValueType<number> = {
  parse: (written, manner) => {
    const plain = readDecimal(written, manner);
    if (!plain.ok) return plain;
    const value = Number(plain.value);
    return Number.isFinite(value) ? good(value) : bad('This number is too large.');
  },
  print: (value, locale) =>
    locale === undefined ? plainly(value) : new Intl.NumberFormat(locale, { maximumFractionDigits: 20 }).format(value),
  same: (a, b) => a === b,
  edgeCases: ['0', '-7', '1234.5', '0.1', '9007199254740991'],
};

/**
 * Reads a decimal number as people write it, with the marks of their language (CLDR, through Intl), or as machines do.
 * @returns digits with a point, such as "-1234.5"; an issue where it is none, or could be two: 1,234 without a language
 */
export function readDecimal(written: string, { locale }: Manner): Result<string> {
  const typed = written
    // Marks of direction stand before the minus of languages that are written from the right.
    .replace(/[\u061C\u200E\u200F]/g, '')
    .trim()
    .replace(/^[\u2212\u2013]/, '-')
    .replace(/^\+/, '');
  if (typed === '') return bad('Enter a number.');
  if (/^-?\d+$/.test(typed)) return good(typed);
  if (locale === null) return withoutLanguage(typed);
  const { form, digits } = marksOf(locale);
  const latin = /^[\0-\x7F]*$/.test(typed)
    ? typed
    : Array.from(typed, (sign) => (digits.includes(sign) ? String(digits.indexOf(sign)) : sign)).join('');
  const found = form.exec(latin);
  if (!found) return bad(`"${written.trim().slice(0, 40)}" is not a number as it is written in ${locale}.`);
  const [, sign = '', before = '', after] = found;
  return good(`${sign}${before.replace(/\D/g, '')}${after === undefined ? '' : `.${after}`}`);
}

/** Only what means the same in every language. */
function withoutLanguage(typed: string): Result<string> {
  if (/^-?\d{1,3}([.,])\d{3}$/.test(typed))
    return bad(`"${typed}" can be a thousand or a fraction: say which language it is in, or leave the mark out.`);
  const found = /^(-?\d+)[.,](\d+)$/.exec(typed);
  if (found) return good(`${found[1] ?? ''}.${found[2] ?? ''}`);
  const scientific = /^-?\d+(\.\d+)?e[+-]?\d{1,3}$/i.test(typed);
  return scientific ? good(plainly(Number(typed))) : bad(`"${typed.slice(0, 40)}" is not a number.`);
}

interface Marks {
  /** How figures are written: the sign, what is before the fraction, and it. */
  form: RegExp;
  digits: string[];
}

/** Asked for once for each language: there are few, and to ask costs more than all else that is done with a figure. */
const known = new Map<string, Marks>();

function marksOf(locale: string): Marks {
  const found = known.get(locale) ?? findMarks(locale);
  known.set(locale, found);
  return found;
}

/** The marks of a language: what may stand between groups, what before the fraction, and its digits. */
function findMarks(locale: string): Marks {
  const parts = new Intl.NumberFormat(locale).formatToParts(-1234567.8);
  const group = parts.find(({ type }) => type === 'group')?.value ?? ',';
  const decimal = parts.find(({ type }) => type === 'decimal')?.value ?? '.';
  const plain = new Intl.NumberFormat(locale, { useGrouping: false });
  const digits = Array.from({ length: 10 }, (_, digit) => plain.format(digit));
  // Blanks and apostrophes have several forms, and people type the ones on their keyboard.
  const between = /\s/.test(group) ? '[\\s\\u00A0\\u202F]' : /['’]/.test(group) ? "['’]" : escape(group);
  const whole = `\\d{1,3}(?:${between}\\d{2,3})*${between}\\d{3}|\\d+`;
  return { form: new RegExp(`^(-?)(${whole})(?:${escape(decimal)}(\\d+))?$`), digits };
}

const escape = (sign: string): string => sign.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Never in the form 1e21: not everybody reads it. */
function plainly(value: number): string {
  const text = String(value);
  // Asking for a language costs a hundred times as much, and few figures need it.
  return text.includes('e') ? value.toLocaleString('en-US', { useGrouping: false, maximumFractionDigits: 20 }) : text;
}
