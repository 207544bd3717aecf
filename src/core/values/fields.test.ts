import { describe, expect, it } from 'vitest';
import { FIELD_TYPES, parseFieldValue, plainField, printValue, sentFor, type SourceField } from './index.ts';

const field = (more: Partial<SourceField>): SourceField => ({ ...plainField('f', 'text'), label: 'Field', ...more });

describe('reading a field', () => {
  it('trims text, and asks for it when it is required', () => {
    expect(parseFieldValue(field({}), ['  Mara ']).ok && parseFieldValue(field({}), ['  Mara '])).toEqual({
      ok: true,
      value: 'Mara',
    });
    expect(parseFieldValue(field({ required: true, label: 'Name' }), ['  '])).toEqual({
      ok: false,
      issue: 'Name is needed.',
    });
  });

  it('refuses text that no form would hold', () => {
    expect(parseFieldValue(field({}), ['x'.repeat(2001)]).ok).toBe(false);
    for (const type of FIELD_TYPES) {
      const limit = type === 'long text' || type === 'list of records' ? 20_000 : 2_000;
      expect(parseFieldValue(field({ type }), [' '.repeat(limit + 1)])).toMatchObject({
        issue: `This is longer than ${limit} characters.`,
      });
    }
  });

  it('takes an absent box for unticked, and the words that mean no', () => {
    const tick = field({ type: 'yes/no' });
    expect(parseFieldValue(tick, [])).toEqual({ ok: true, value: false });
    for (const no of ['0', 'false', 'No', 'off'])
      expect(parseFieldValue(tick, [no])).toEqual({ ok: true, value: false });
    for (const yes of ['on', 'yes', '1', 'true'])
      expect(parseFieldValue(tick, [yes])).toEqual({ ok: true, value: true });
    expect(parseFieldValue({ ...tick, required: true }, []).ok).toBe(false);
    for (const both of [
      ['0', '1'],
      ['1', '0'],
    ])
      expect(parseFieldValue(tick, both)).toEqual({ ok: true, value: true });
  });

  it('takes only known answers of a choice, once each', () => {
    const one = field({ type: 'choice', options: ['a', 'b'] });
    expect(parseFieldValue(one, ['a'])).toEqual({ ok: true, value: 'a' });
    expect(parseFieldValue(one, ['c']).ok).toBe(false);
    expect(parseFieldValue(one, ['a', 'b']).ok).toBe(false);
    expect(parseFieldValue({ ...one, type: 'several choices' }, ['b', 'a', 'b'])).toEqual({
      ok: true,
      value: ['b', 'a'],
    });
    expect(parseFieldValue({ ...one, type: 'several choices', required: true }, []).ok).toBe(false);
  });

  it('fills a hidden field that the page left empty', () => {
    expect(parseFieldValue(field({ widget: 'hidden', preset: 'home' }), [''])).toEqual({ ok: true, value: 'home' });
    expect(parseFieldValue(field({ widget: 'hidden', preset: 'home' }), ['about'])).toEqual({
      ok: true,
      value: 'about',
    });
  });

  it('lets an email that is not required be empty, but not wrong', () => {
    expect(parseFieldValue(field({ type: 'email' }), [''])).toEqual({ ok: true, value: '' });
    expect(parseFieldValue(field({ type: 'email' }), ['nobody']).ok).toBe(false);
  });
});

it('prints values in words', () => {
  expect([printValue(true), printValue(false), printValue(['a', 'b']), printValue('x'), printValue(undefined)]).toEqual(
    ['yes', 'no', 'a, b', 'x', ''],
  );
});

it('says what the form says instead of our words, whatever is wrong, and nothing where nothing is', () => {
  const errorText = 'Write it as on your ticket.';
  const ticket = field({ type: 'number', required: true, errorText });
  for (const sent of [[], [''], ['seven'], ['x'.repeat(3000)]])
    expect(parseFieldValue(ticket, sent)).toEqual({ ok: false, issue: errorText });
  expect(parseFieldValue(ticket, ['7'])).toEqual({ ok: true, value: 7 });
  const box = field({ type: 'yes/no', required: true, errorText });
  expect(parseFieldValue(box, [])).toEqual({ ok: false, issue: errorText });
});

describe('a telephone number with its country beside it', () => {
  const phone = field({ type: 'phone', widget: 'country' });
  // Numbers of the ranges that are kept for fiction (Ofcom, 01632 960000 to 960999).
  it.each([
    ['01632 960001', 'GB', '+441632960001'],
    ['+44 1632 960001', 'DE', '+441632960001'],
    ['0044 1632 960001', '', '+441632960001'],
    ['', 'GB', ''],
  ])('%j with %j is %j', (number, country, value) =>
    expect(
      parseFieldValue(
        phone,
        sentFor(phone, [
          ['f.country', country],
          ['f.number', number],
        ]),
      ),
    ).toEqual({ ok: true, value }),
  );
  it('without one says what is missing', () => {
    const sent = sentFor(phone, [['f.number', '01632 960001']]);
    expect(parseFieldValue(phone, sent)).toMatchObject({ ok: false });
  });
  it('is sent whole by programs', () =>
    expect(sentFor(phone, [['f', '+44 1632 960001']])).toEqual(['+44 1632 960001']));
});
