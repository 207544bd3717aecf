import { parsePhoneNumberFromString } from 'libphonenumber-js/min';
import { bad, good } from '../../result.ts';
import { lineOf, step } from './step.ts';

/** E.164 is ITU-T's, tel: is RFC 3966's. */
const FORMATS = ['international', 'national', 'E.164', 'tel: link'] as const;
const NAMES = {
  international: 'INTERNATIONAL',
  national: 'NATIONAL',
  'E.164': 'E.164',
  'tel: link': 'RFC3966',
} as const;

export const phoneFormat = step({
  help: 'writes a telephone number as people or other systems read it',
  takes: ['phone'],
  gives: 'text',
  options: { format: { kind: 'choice', label: 'Write it', preset: 'international', of: FORMATS } },
  offers: FORMATS.map((format) => ({ name: `phone ${format}`, options: { format } })),
  examples: [
    { from: '+441632960001', to: '+44 1632 960001' },
    { from: '+441632960001', options: { format: 'national' }, to: '01632 960001' },
    { from: '+44 1632 960001', options: { format: 'E.164' }, to: '+441632960001' },
    { from: '+441632960001', options: { format: 'tel: link' }, to: 'tel:+441632960001' },
  ],
  say: ({ format }) => `phone ${format}`,
  apply: (value, { format }) => {
    const number = parsePhoneNumberFromString(lineOf(value));
    return number
      ? good(number.format(NAMES[format]))
      : bad(`"${lineOf(value)}" is not a telephone number with its country`);
  },
});
