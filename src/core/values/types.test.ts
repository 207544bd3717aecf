import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  convert,
  holds,
  inWordsBySight,
  inWordsOfType,
  shapeOf,
  TYPE_NAMES,
  typeOf,
  type FieldValue,
  type TypeName,
} from './index.ts';

const UNKNOWN = { locale: null, country: null };
const read = (type: TypeName, text: string, manner = {}) => {
  const parsed = typeOf(type).parse(text, { ...UNKNOWN, ...manner });
  return parsed.ok ? parsed.value : parsed.issue;
};

describe.each(TYPE_NAMES)('%s', (name) => {
  const type = typeOf(name);
  it.each(type.edgeCases)('reads %j, holds it, and reads what it prints as the same', (written) => {
    const parsed = type.parse(written, UNKNOWN);
    if (!parsed.ok) throw new Error(parsed.issue);
    expect(holds(name, parsed.value)).toBe(true);
    const again = type.parse(type.print(parsed.value), UNKNOWN);
    expect(again.ok && type.same(again.value, parsed.value)).toBe(true);
    expect(JSON.parse(JSON.stringify(parsed.value))).toEqual(parsed.value);
    expect(type.print(parsed.value, 'en-GB')).not.toBe('');
  });
  it('holds nothing of another shape', () => {
    for (const other of [null, undefined, {}, [1], Number.NaN]) expect(holds(name, other)).toBe(false);
  });
});

describe('what is no value, or could be two', () => {
  it.each<[TypeName, string]>([
    ['date', '2026-02-30'],
    ['date', '31.13.2026'],
    ['date', '2025-02-29'],
    ['date', ''],
    ['date', '03/04/2026'],
    ['date', '1.2.26'],
    ['time', '24:00'],
    ['time', '7:60'],
    ['time', '13:00 pm'],
    ['date-time', '2026-05-31'],
    ['date-time', '2026-05-31T19:30+25:00'],
    ['number', '0x1F'],
    ['number', ''],
    ['number', ' '],
    ['number', '1,234'],
    ['number', 'Infinity'],
    ['number', '12 apples'],
    ['money', '12.50'],
    ['money', '$12'],
    ['money', 'EUR'],
    ['yes/no', ''],
    ['yes/no', 'perhaps'],
    ['phone', '01632 960001'],
    ['phone', '+44 12'],
    ['country', 'Narnia'],
    ['language', 'english-ish'],
    ['language', 'Klingonese'],
    ['URL', 'javascript:alert(1)'],
    ['URL', 'http://user@host.example'],
    ['URL', 'hill'],
    ['person name', '...'],
    ['postal address', '\n\n\nRegion\n'],
    ['email', 'user@example.1a'],
  ])('%s: %j is refused', (type, text) => expect(typeOf(type).parse(text, UNKNOWN).ok).toBe(false));
});

describe('what people write', () => {
  it.each<[TypeName, string, object, FieldValue]>([
    ['date', '31.5.2026', {}, '2026-05-31'],
    ['date', '13/04/2026', {}, '2026-04-13'],
    ['date', '04/13/2026', {}, '2026-04-13'],
    ['date', '03/04/2026', { locale: 'en-GB' }, '2026-04-03'],
    ['date', '03/04/2026', { locale: 'en-US' }, '2026-03-04'],
    ['date', '2026/4/3', {}, '2026-04-03'],
    ['time', '7.30 pm', {}, '19:30'],
    ['time', '12:05 am', {}, '00:05'],
    ['date-time', '31.5.2026 19:30', {}, '2026-05-31T19:30'],
    ['number', '1.234,5', { locale: 'de' }, 1234.5],
    ['number', '1 234,5', { locale: 'fr' }, 1234.5],
    ['number', "1'234.5", { locale: 'de-CH' }, 1234.5],
    ['number', '12,34,567.8', { locale: 'en-IN' }, 1234567.8],
    ['number', '٣٫٥', { locale: 'ar-EG' }, 3.5],
    ['number', '−7', {}, -7],
    ['money', '€12', {}, { amount: '12', currency: 'EUR' }],
    ['money', '1.234,50 EUR', { locale: 'de' }, { amount: '1234.50', currency: 'EUR' }],
    ['phone', '01632 960001', { country: 'GB' }, '+441632960001'],
    ['phone', '0044 1632 960001', {}, '+441632960001'],
    ['country', 'Deutschland', { locale: 'de' }, 'DE'],
    ['country', 'Germany', {}, 'DE'],
    ['language', 'German', {}, 'de'],
    ['language', 'PT_br', {}, 'pt-BR'],
    ['URL', 'hill.example/a', {}, 'https://hill.example/a'],
    ['text', ' one\r\ntwo\u0000\u202E ', {}, 'one two'],
    ['text', 'half \ud83d', {}, 'half'],
    ['long text', 'one\r\ntwo\u0007', {}, 'one\ntwo'],
    ['email', 'user@münchen.de', {}, 'user@xn--mnchen-3ya.de'],
    ['person name', 'Quill, Mara', {}, { given: 'Mara', family: 'Quill' }],
    ['person name', 'Quill, ', {}, { given: '', family: 'Quill' }],
    [
      'postal address',
      '1 Ridge\u0007 Road\n\nPellam\u202E',
      {},
      { street: '1 Ridge Road', postcode: '', city: 'Pellam', region: '', country: '' },
    ],
  ])('%s: %j in %j', (type, text, manner, value) => expect(read(type, text, manner)).toEqual(value));
});

describe('one value in another type', () => {
  it.each<[FieldValue, TypeName, FieldValue | null]>([
    ['31.5.2026', 'date', '2026-05-31'],
    ['2026-02-30', 'date', null],
    [true, 'number', null],
    [true, 'text', 'yes'],
    ['7', 'number', 7],
    [7, 'text', '7'],
    [7, 'date', null],
    ['no', 'yes/no', false],
    [1, 'yes/no', true],
    [['a', 'b'], 'text', 'a, b'],
    [['7'], 'number', 7],
    [['7', '8'], 'number', null],
    [{ amount: '12.50', currency: 'EUR' }, 'text', '€12.50'],
    [{ given: 'Mara', family: 'Quill' }, 'text', 'Mara Quill'],
    ['a', 'several choices', ['a']],
  ])('%j as %s is %j', (value, type, wanted) => {
    const converted = convert(value, type);
    expect(converted.ok ? converted.value : null).toEqual(wanted);
  });
  it('says what a value is by its shape', () => {
    expect([shapeOf('7'), shapeOf(7), shapeOf(true), shapeOf(['a'])]).toEqual([
      'text',
      'number',
      'yes/no',
      'several choices',
    ]);
  });
});

describe('in words for people', () => {
  it.each([
    ['date-time', '2026-11-28T09:12:07.509Z', '28 Nov 2026, 09:12 UTC'],
    ['date-time', '2026-11-28T09:12+02:00', '28 Nov 2026, 07:12 UTC'],
    ['date-time', '2026-11-28T09:12', '28 Nov 2026, 09:12'],
    ['date', '2026-11-28', '28 Nov 2026'],
    ['text', '2026-11-28', '2026-11-28'],
    ['date', 'never', 'never'],
    ['list of records', [{ sku: 'chart', price: { amount: '4.50', currency: 'EUR' } }], 'sku: chart, price: 4.50 EUR'],
  ] as const)('%s %j', (type, value, words) => expect(inWordsOfType(type, value as FieldValue)).toBe(words));

  it.each([
    ['2026-11-28T09:12:07.509Z', '28 Nov 2026, 09:12 UTC'],
    ['2026-11-28', '28 Nov 2026'],
    ['on 2026-11-28', 'on 2026-11-28'],
    [{ given: 'Mara', family: 'Quill' }, 'Mara Quill'],
    [{ name: 'Mara', since: '2026-11-28', tags: ['a', 'b'] }, 'name: Mara, since: 28 Nov 2026, tags: a, b'],
    [[{ value: 7 }, { value: 8 }], 'value: 7\nvalue: 8'],
    [['a', { b: true }], 'a, b: yes'],
    [[], ''],
    [{}, ''],
    [null, ''],
    [7, '7'],
  ])('%j, of which nobody says the type', (value, words) => expect(inWordsBySight(value)).toBe(words));

  it('never says what no machine should', () =>
    fc.assert(fc.property(fc.jsonValue(), (value) => !inWordsBySight(value).includes('[object'))));
});
