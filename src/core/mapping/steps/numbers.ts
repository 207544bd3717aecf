import { bad, good } from '../../result.ts';
import { inWords, readDecimal, UNKNOWN_MANNER } from '../../values/index.ts';
import { lineOf, localeOf, step } from './step.ts';

export const readNumber = step({
  help: 'reads a number as it is written in a language, such as 1.234,50 in German',
  takes: ['text'],
  gives: 'number',
  options: { language: { kind: 'language', label: 'As it is written in', preset: 'en-GB' } },
  offers: [
    { name: 'read a number like 1,234.50', options: { language: 'en-GB' } },
    { name: 'read a number like 1.234,50', options: { language: 'de' } },
  ],
  examples: [
    { from: '1,234.50', to: 1234.5 },
    { from: '1.234,50', options: { language: 'de' }, to: 1234.5 },
    { from: '1 234,50', options: { language: 'fr' }, to: 1234.5 },
  ],
  say: ({ language }) => `read number (${language})`,
  apply: (value, { language }) => {
    const read = readDecimal(lineOf(value), { ...UNKNOWN_MANNER, locale: language === '' ? null : language });
    return read.ok ? good(Number(read.value)) : bad(`holds what is no number: ${read.issue.replace(/\.$/, '')}`);
  },
});

const GROUPS = ['no', 'yes'] as const;

export const writeNumber = step({
  help: 'writes a number with the marks of a language and as many places as are wanted',
  takes: ['number'],
  gives: 'text',
  options: {
    language: { kind: 'language', label: 'As it is written in', preset: 'en-GB' },
    places: { kind: 'number', label: 'Decimal places', preset: 2, least: 0, most: 10 },
    groups: { kind: 'choice', label: 'A mark between thousands', preset: 'no', of: GROUPS },
  },
  offers: [
    { name: 'number as 1234.50', options: { language: 'en-GB' } },
    { name: 'number as 1234,50', options: { language: 'de' } },
    { name: 'number as a whole', options: { places: 0 } },
  ],
  examples: [
    { from: 1234.5, to: '1234.50' },
    { from: 1234.5, options: { language: 'de', groups: 'yes' }, to: '1.234,50' },
    { from: 2.5, options: { places: 0 }, to: '3' },
  ],
  say: ({ places }) => `number, ${places} places`,
  apply: (value, { language, places, groups }) => {
    if (typeof value !== 'number') return bad(`"${inWords(value)}" is not a number`);
    return good(
      new Intl.NumberFormat(localeOf(language), {
        minimumFractionDigits: places,
        maximumFractionDigits: places,
        useGrouping: groups === 'yes',
      }).format(value),
    );
  },
});
