import { describe, expect, it } from 'vitest';
import { TYPE_NAMES } from '../../values/index.ts';
import { fits, typeByValues } from './fits.ts';

describe('how well values go into a field', () => {
  it.each(TYPE_NAMES)('%s goes into its own kind and into long text always', (type) => {
    expect(fits(type, type)).toBe(1);
    expect(fits(type, 'long text')).toBe(1);
  });
  it.each([
    ['email', 'phone'],
    ['yes/no', 'email'],
    ['date', 'number'],
    ['file', 'date'],
    ['postal address', 'country'],
  ] as const)('%s goes into %s never', (from, to) => expect(fits(from, to)).toBe(0));
  it.each([
    ['text', 'email'],
    ['text', 'yes/no'],
    ['date', 'date-time'],
    ['choice', 'several choices'],
    ['money', 'number'],
  ] as const)('%s goes into %s as far as it fits', (from, to) => {
    expect(fits(from, to)).toBeGreaterThan(0);
    expect(fits(from, to)).toBeLessThan(1);
  });
});

describe('what the values of a text field show', () => {
  it.each([
    [['a@b.example', 'c@d.example'], 'email'],
    [['https://a.example', 'https://b.example/c'], 'URL'],
    [['2026-05-31', '2026-06-01'], 'date'],
    [['2026-05-31T12:00:00Z'], 'date-time'],
    [['a@b.example', 'c@d.example', 'e@f.example', 'g@h.example', 'none'], 'email'],
    [['a@b.example', 'nobody'], 'text'],
    [['', undefined, '  '], 'text'],
    [['twelve'], 'text'],
  ])('%j: %s', (values, type) => expect(typeByValues('text', values)).toBe(type));

  it('never makes another type of one that was chosen', () =>
    expect(typeByValues('number', ['a@b.example'])).toBe('number'));
});
