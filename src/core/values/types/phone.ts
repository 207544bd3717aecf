import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js/min';
import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** A telephone number in E.164: + and at most fifteen digits. */
export const phone: ValueType<string> = {
  parse: (written, { country }) => {
    const typed = written.trim().replace(/^00/, '+');
    const number = parsePhoneNumberFromString(typed, country ? { defaultCountry: country as CountryCode } : undefined);
    if (!number) return bad(country || typed.startsWith('+') ? NOT_A_NUMBER : NO_COUNTRY);
    return number.isPossible() ? good(number.number) : bad(NOT_A_NUMBER);
  },
  print: (value, locale) =>
    locale === undefined ? value : (parsePhoneNumberFromString(value)?.formatInternational() ?? value),
  same: (a, b) => a.replace(/[^+\d]/g, '') === b.replace(/[^+\d]/g, ''),
  edgeCases: ['+44 1632 960001', '0044 1632 960001', '+1 (202) 555-0143'],
};

/** A number as it is read, by how it was written and the country that was chosen beside it; one that says its country itself keeps it. */
export function numberOf(written: string, country: string): string {
  const typed = written.trim();
  if (typed === '' || country === '' || /^(\+|00)/.test(typed)) return typed;
  return parsePhoneNumberFromString(typed, { defaultCountry: country as CountryCode })?.number ?? typed;
}

const NOT_A_NUMBER = 'This is not a telephone number. Write it with its country code, like +44 1632 960001.';
const NO_COUNTRY = 'Of which country is this number? Write it with its country code, like +44 1632 960001.';
