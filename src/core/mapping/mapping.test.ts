import { describe, expect, it } from 'vitest';
import type { FieldValues } from '../values/index.ts';
import {
  applyMapping,
  chainOf,
  fieldsUsed,
  fitValue,
  plainLine,
  READY,
  type DestinationField,
  type LineResult,
  type MapLine,
} from './index.ts';

const there = (
  key: string,
  type: DestinationField['type'],
  more: Partial<DestinationField> = {},
): DestinationField => ({ key, label: key, type, required: false, choices: [], maxLength: null, ...more });
/** What a line knows, on the day of the examples. */
const facts = (values: FieldValues) => ({ values, now: Date.UTC(2026, 4, 31) });

describe('what a destination takes', () => {
  it.each([
    [there('f', 'number'), '7', 7],
    [there('f', 'yes/no'), '0', false],
    [there('f', 'yes/no'), true, true],
    [there('f', 'text'), ['a', 'b'], 'a, b'],
    [there('f', 'text'), true, 'yes'],
    [there('f', 'choice', { choices: ['x'] }), 'x', 'x'],
    [there('f', 'date'), '2026-02-28', '2026-02-28'],
    [there('f', 'date'), '31.5.2026', '2026-05-31'],
    [there('f', 'phone'), '+44 1632 960001', '+441632960001'],
    [there('f', 'country'), 'Germany', 'DE'],
    [there('f', 'several choices', { choices: ['a', 'b'] }), ['b'], ['b']],
  ] as const)('%o takes %j as %j', (field, value, sent) =>
    expect(fitValue(field, value as string)).toEqual({ ok: true, value: sent }),
  );

  it.each([
    [there('f', 'number'), true],
    [there('f', 'number'), 'seven'],
    [there('f', 'yes/no'), 'perhaps'],
    [there('f', 'text', { maxLength: 3 }), 'four'],
    [there('f', 'choice', { choices: ['x'] }), 'y'],
    [there('f', 'date'), '2026-02-30'],
    [there('f', 'date'), '3/4/2026'],
    [there('f', 'number'), '0x1F'],
    [there('f', 'number'), ' '],
    [there('f', 'several choices', { choices: ['a', 'b'] }), ['c']],
  ] as const)('%o refuses %j', (field, value) => expect(fitValue(field, value as string).ok).toBe(false));
});

describe('applying a mapping', () => {
  const fields = [there('note', 'text'), there('given', 'text', { required: true })];

  it('puts required fields first, and says which of them get nothing', () => {
    const results = applyMapping(fields, [], facts({}));
    expect(results.map(({ field, verdict }) => [field.key, verdict.kind])).toEqual([
      ['given', 'wrong'],
      ['note', 'unmapped'],
    ]);
  });

  it('applies the steps in order, and fixed values as they are', () => {
    const results = applyMapping(
      fields,
      [
        plainLine({
          id: 'l-given',
          to: 'given',
          from: { kind: 'field', field: 'name' },
          steps: chainOf(READY.firstNames, READY.lowerCase),
        }),
        plainLine({ id: 'l-note', to: 'note', from: { kind: 'fixed', value: 'web' } }),
      ],
      facts({ name: 'Mara Quill' }),
    );
    expect(results.map(({ verdict }) => verdict)).toEqual([
      { kind: 'sent', value: 'mara' },
      { kind: 'sent', value: 'web' },
    ]);
  });

  it('does not send what is empty', () => {
    const [, note] = applyMapping(
      fields,
      [plainLine({ id: 'l-note', to: 'note', from: { kind: 'field', field: 'gone' } })],
      facts({}),
    );
    expect(note?.verdict).toEqual({ kind: 'empty' });
  });
});

describe('a line of which nothing comes', () => {
  const fields = [there('note', 'number'), there('given', 'text', { required: true })];
  const verdictOf = (to: string, line: Partial<MapLine>) =>
    applyMapping(
      fields,
      [plainLine({ id: 'l', to, from: { kind: 'field', field: 'gone' }, ...line })],
      facts({ second: 'B' }),
    ).find(({ field }) => field.key === to)?.verdict;

  it.each<[string, Partial<MapLine>, LineResult['verdict']]>([
    ['note', { whenEmpty: { kind: 'leave out' } }, { kind: 'empty' }],
    ['note', { whenEmpty: { kind: 'clear' } }, { kind: 'sent', value: null }],
    ['note', { whenEmpty: { kind: 'value', value: '7' } }, { kind: 'sent', value: 7 }],
    ['given', { whenEmpty: { kind: 'value', value: 'friend' } }, { kind: 'sent', value: 'friend' }],
    ['given', { from: { kind: 'first', fields: ['gone', 'second'] } }, { kind: 'sent', value: 'B' }],
    [
      'given',
      { from: { kind: 'first', fields: [] } },
      { kind: 'wrong', message: 'is required there, and is empty here.' },
    ],
    // Nobody is served by a required field that is cleared.
    ['given', { whenEmpty: { kind: 'clear' } }, { kind: 'wrong', message: 'is required there, and is empty here.' }],
  ])('%s with %j', (to, line, verdict) => expect(verdictOf(to, line)).toEqual(verdict));

  it('says what it draws on, steps as well', () =>
    expect(
      fieldsUsed(
        plainLine({
          id: 'l',
          to: 'note',
          from: { kind: 'first', fields: ['a', 'b'] },
          steps: chainOf({ kind: 'time between', options: { until: 'c' } }),
        }),
      ),
    ).toEqual(['a', 'b', 'c']));
});
