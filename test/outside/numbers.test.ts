import { NumberParser } from '@internationalized/number';
import { describe, expect, it } from 'vitest';
import { typeOf } from '../../src/core/values/index.ts';

// Numbers as CLDR writes them (through Intl), read by us and by NumberParser of @internationalized/number 3.6.9.
const LOCALES = [
  'en',
  'en-IN',
  'de',
  'de-CH',
  'fr',
  'es',
  'it',
  'nl',
  'pl',
  'pt',
  'pt-BR',
  'sv',
  'ja',
  'ar-EG',
  'hi',
  'fa',
];
const FIGURES = [0, 7, -7, 12.5, -0.25, 999, 1000, 1234.5, -98_765, 1_234_567.89, 12_345_678, 0.001];

const read = (text: string, locale: string) => {
  const parsed = typeOf('number').parse(text, { locale, country: null });
  return parsed.ok ? parsed.value : null;
};

describe.each(LOCALES)('numbers in %s against NumberParser', (locale) => {
  const parser = new NumberParser(locale, { style: 'decimal', maximumFractionDigits: 20 });
  it.each([true, false])('are read alike, with groups: %s', (useGrouping) => {
    const print = new Intl.NumberFormat(locale, { useGrouping, maximumFractionDigits: 20 });
    for (const figure of FIGURES) {
      const written = print.format(figure);
      expect([written, read(written, locale)], locale).toEqual([written, parser.parse(written)]);
      expect([written, read(written, locale)], locale).toEqual([written, figure]);
    }
  });
});
