import { Big } from 'big.js';
import { bad, good, type Result } from '../../result.ts';
import { inWords, type FieldValue } from '../../values/index.ts';
import { lineOf, step } from './step.ts';

const PARTS = ['amount', 'smallest units', 'currency'] as const;

export const moneyPart = step({
  help: 'takes the amount, the amount in cents, or the currency',
  takes: ['money'],
  gives: ({ part }) => (part === 'currency' ? 'text' : 'number'),
  options: { part: { kind: 'choice', label: 'Take', preset: 'amount', of: PARTS } },
  offers: [
    { name: 'amount without currency', options: { part: 'amount' } },
    { name: 'amount in cents', options: { part: 'smallest units' } },
    { name: 'currency', options: { part: 'currency' } },
  ],
  examples: [
    { from: { amount: '12.50', currency: 'EUR' }, to: 12.5 },
    { from: { amount: '12.50', currency: 'EUR' }, options: { part: 'smallest units' }, to: 1250 },
    { from: { amount: '1200', currency: 'JPY' }, options: { part: 'smallest units' }, to: 1200 },
    { from: { amount: '12.50', currency: 'EUR' }, options: { part: 'currency' }, to: 'EUR' },
  ],
  say: ({ part }) => (part === 'smallest units' ? 'amount in cents' : part),
  apply: (value, { part }) => {
    if (!isMoney(value)) return bad(`"${inWords(value)}" is no amount with a currency`);
    switch (part) {
      case 'amount':
        return good(Number(value.amount));
      case 'currency':
        return good(value.currency);
      case 'smallest units':
        return good(Number(new Big(value.amount).times(unitsIn(value.currency)).round(0)));
      default:
        return part satisfies never;
    }
  },
});

const UNITS = ['whole units', 'smallest units'] as const;

export const makeMoney = step({
  help: 'makes an amount with its currency of a number',
  takes: ['number', 'text'],
  gives: 'money',
  options: {
    currency: { kind: 'currency', label: 'Currency', preset: 'EUR' },
    units: { kind: 'choice', label: 'The number counts', preset: 'whole units', of: UNITS },
  },
  offers: [
    { name: 'amount with currency', options: { units: 'whole units' } },
    { name: 'amount with currency, from cents', options: { units: 'smallest units' } },
  ],
  examples: [
    { from: 12.5, to: { amount: '12.50', currency: 'EUR' } },
    { from: '1250', options: { units: 'smallest units' }, to: { amount: '12.50', currency: 'EUR' } },
    { from: 1200, options: { currency: 'JPY', units: 'smallest units' }, to: { amount: '1200', currency: 'JPY' } },
  ],
  say: ({ currency }) => `amount in ${currency}`,
  apply: (value, { currency, units }) => {
    const number = decimalOf(value);
    if (!number.ok) return number;
    const amount = units === 'whole units' ? number.value : number.value.div(unitsIn(currency));
    return good({ amount: amount.toFixed(placesOf(currency)), currency });
  },
});

/** Reads a number exactly, as written by machines. */
export function decimalOf(value: FieldValue): Result<Big> {
  const written = typeof value === 'number' ? String(value) : lineOf(value);
  try {
    return good(new Big(written));
  } catch {
    return bad(`"${written}" is not a number`);
  }
}

/** How many places a currency has (ISO 4217, through Intl): 2 of EUR, none of JPY. */
const placesOf = (currency: string): number =>
  new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;
const unitsIn = (currency: string): number => 10 ** placesOf(currency);

const isMoney = (value: FieldValue): value is { amount: string; currency: string } =>
  typeof value === 'object' && 'currency' in value && typeof value.currency === 'string';
