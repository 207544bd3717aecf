import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';
import { readDecimal } from './number.ts';

/** An amount as a decimal text, which no sum rounds, and a currency (ISO 4217). */
export interface Money {
  amount: string;
  currency: string;
}

const CURRENCIES = new Set(Intl.supportedValuesOf('currency'));

/** Signs that stand for one currency only; $, kr and ¥ do not. */
const SIGNS: Record<string, string> = { '€': 'EUR', '£': 'GBP', '₹': 'INR', '₽': 'RUB', '₺': 'TRY', zł: 'PLN' };

export const money: ValueType<Money> = {
  parse: (written, manner) => {
    const found = /^(\D*?)\s*([-\u2212]?[\d.,'’\s\u00A0\u202F]*\d)\s*(\D*)$/u.exec(written.trim());
    if (!found) return bad('Enter an amount with its currency, like 12.50 EUR.');
    const [, before = '', figure = '', after = ''] = found;
    const word = (before + after).trim();
    const currency = SIGNS[word] ?? word.toUpperCase();
    if (!CURRENCIES.has(currency))
      return bad(
        word === ''
          ? 'Which currency? Write it after the amount, like 12.50 EUR.'
          : `"${word}" is not a currency; write its code, like EUR.`,
      );
    const amount = readDecimal(figure, manner);
    return amount.ok ? good({ amount: amount.value, currency }) : amount;
  },
  print: ({ amount, currency }, locale) =>
    locale === undefined
      ? `${amount} ${currency}`
      : new Intl.NumberFormat(locale, { style: 'currency', currency }).format(Number(amount)),
  same: (a, b) => a.currency === b.currency && trimmed(a.amount) === trimmed(b.amount),
  edgeCases: ['12.50 EUR', '€12', '1200 JPY', '-3.10 GBP'],
};

/** Without zeros that mean nothing: 12.50 and 12.5 are one amount. */
const trimmed = (amount: string): string =>
  amount
    .replace(/^(-?)0+(?=\d)/, '$1')
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '');
