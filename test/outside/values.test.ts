import { createRequire } from 'node:module';
import countries from 'i18n-iso-countries';
import type { CountryCode } from 'libphonenumber-js';
import { describe, expect, it } from 'vitest';
import { COUNTRY_CODES, typeOf, type TypeName } from '../../src/core/values/index.ts';

const read = (type: TypeName, text: string, manner: { locale?: string; country?: string } = {}) => {
  const parsed = typeOf(type).parse(text, { locale: null, country: null, ...manner });
  return parsed.ok ? parsed.value : null;
};
const require = createRequire(import.meta.url);

// RFC 3339, 5.8: its examples, and the moments that it says they stand for (from memory).
describe('dates with times against the examples of RFC 3339', () => {
  it.each([
    '1985-04-12T23:20:50.52Z',
    '1996-12-19T16:39:57-08:00',
    '1990-12-31T23:59:60Z',
    '1990-12-31T15:59:60-08:00',
    '1937-01-01T12:00:27.87+00:20',
  ])('%s is read as it is written', (text) => expect(read('date-time', text)).toBe(text));
  it.each([
    ['1996-12-19T16:39:57-08:00', '1996-12-20T00:39:57Z'],
    ['1990-12-31T23:59:60Z', '1990-12-31T15:59:60-08:00'],
  ])('%s and %s are one moment', (a, b) => expect(typeOf('date-time').same(a, b)).toBe(true));
});

// WHATWG HTML, 2.3.5 (dates and times): what its valid strings are, and are not (from memory).
describe('days and times against the valid strings of HTML', () => {
  it.each(['2011-11-18', '0037-12-13', '2024-02-29'])('%s is a day', (text) => expect(read('date', text)).toBe(text));
  it.each(['2011-11-31', '2023-02-29', '0000-01-01', '2011-00-10'])('%s is none', (text) =>
    expect(read('date', text)).toBeNull(),
  );
  it.each(['14:54', '14:54:39', '00:00', '23:59:59'])('%s is a time', (text) => expect(read('time', text)).toBe(text));
  it.each(['24:00', '14:60', '14:54:60', '7'])('%s is none', (text) => expect(read('time', text)).toBeNull());
  it.each(['2011-11-18T14:54', '2011-11-18 14:54:39'])('%s is a local date and time', (text) =>
    expect(read('date-time', text)).toBe(text.replace(' ', 'T')),
  );
});

// The example numbers of libphonenumber, one for each of its regions, as libphonenumber-js 1.13.16 ships them.
describe('telephone numbers against the examples of libphonenumber', () => {
  const examples = require('libphonenumber-js/mobile/examples') as Record<CountryCode, string>;
  const known = Object.entries(examples);
  it('has some for most of the world', () => expect(known.length).toBeGreaterThan(200));
  it('reads each by its region, and what it prints for people as the same', () => {
    for (const [country, national] of known) {
      const number = read('phone', national, { country });
      expect(number, country).toMatch(/^\+\d{6,15}$/);
      expect(read('phone', typeOf('phone').print(number ?? '', 'en')), country).toBe(number);
    }
  });
});

// ISO 3166-1 as the package i18n-iso-countries 7.14.0 has it; XK (Kosovo) is a user-assigned code, and no part of the standard.
describe('countries against ISO 3166-1', () => {
  const codes = Object.keys(countries.getAlpha2Codes()).filter((code) => code !== 'XK');
  it('knows the same', () => expect([...COUNTRY_CODES].sort()).toEqual(codes.sort()));
  it('reads their names in ten languages, as Intl has them', () => {
    for (const locale of ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt', 'sv', 'ja'])
      for (const code of codes) {
        const name = new Intl.DisplayNames(locale, { type: 'region' }).of(code) ?? '';
        expect(read('country', name, { locale }), `${locale} ${name}`).toBe(code);
      }
  });
});

// CLDR, through Intl of Node's own ICU: what it writes in a language is read back in that language.
describe.each(['en-GB', 'en-US', 'de', 'de-CH', 'fr', 'es', 'it', 'nl', 'pl', 'pt-BR', 'sv', 'ja', 'en-IN', 'ar-EG'])(
  'figures and days as %s writes them',
  (locale) => {
    it.each([0, 7, -7, 1234, 1234567, 0.5, 1234.5, -9876543.21])('%d', (figure) => {
      const written = new Intl.NumberFormat(locale, { maximumFractionDigits: 20 })
        .format(figure)
        .replace(/\u061C|\u200E/g, '');
      expect(read('number', written, { locale }), written).toBe(figure);
    });
    it('an amount in each currency of ISO 4217 that Intl knows', () => {
      for (const currency of Intl.supportedValuesOf('currency'))
        expect(read('money', `1234 ${currency}`, { locale })).toEqual({ amount: '1234', currency });
    });
    if (locale !== 'ar-EG')
      it.each(['2026-04-03', '1999-12-31'])('%s', (day) => {
        const parts = new Intl.DateTimeFormat(locale, {
          year: 'numeric',
          month: '2-digit',
          day: '2-digit',
          timeZone: 'UTC',
        });
        const written = parts.format(new Date(`${day}T00:00:00Z`));
        expect(read('date', written, { locale }), written).toBe(day);
      });
  },
);

// RFC 5890 and UTS 46, as WHATWG URL applies them: examples of its own test data (from memory).
describe('addresses whose domain is written in other scripts', () => {
  it.each([
    ['user@münchen.de', 'user@xn--mnchen-3ya.de'],
    ['user@例え.テスト', 'user@xn--r8jz45g.xn--zckzah'],
    ['user@BÜCHER.example', 'user@xn--bcher-kva.example'],
    ['user@faß.example', 'user@xn--fa-hia.example'],
  ])('%s goes to %s', (typed, address) => expect(read('email', typed)).toBe(address));
});
