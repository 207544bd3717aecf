import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import type { SourceField } from '../values/index.ts';
import { applyMapping, applyStep, fitValue, suggestLines, type DestinationField } from './index.ts';

const there = (
  key: string,
  type: DestinationField['type'],
  more: Partial<DestinationField> = {},
): DestinationField => ({ key, label: key, type, required: false, choices: [], maxLength: null, ...more });
const here = (key: string, type: SourceField['type'] = 'text', label = key) => sourceField(key, type, { label });

describe('steps', () => {
  it.each([
    ['trim', '  Mara   Quill ', 'Mara Quill'],
    ['lower-case', 'MARA@B.Example', 'mara@b.example'],
    ['first name', ' Mara Anne Quill', 'Mara'],
    ['last name', 'Mara Anne Quill', 'Anne Quill'],
    ['last name', 'Mara', ''],
    ['yes/no to 1/0', true, '1'],
    ['yes/no to 1/0', false, '0'],
    ['yes/no to 1/0', 'Yes', '1'],
    ['yes/no to 1/0', 'perhaps', 'perhaps'],
  ] as const)('%s turns %j into %j', (step, from, to) => expect(applyStep(step, from)).toBe(to));

  it('goes through a list item by item', () => expect(applyStep('lower-case', ['A', 'B'])).toEqual(['a', 'b']));
});

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
    const results = applyMapping(fields, [], {});
    expect(results.map(({ field, verdict }) => [field.key, verdict.kind])).toEqual([
      ['given', 'wrong'],
      ['note', 'unmapped'],
    ]);
  });

  it('applies the steps in order, and fixed values as they are', () => {
    const results = applyMapping(
      fields,
      [
        { id: 'l-given', to: 'given', from: { kind: 'field', field: 'name' }, steps: ['first name', 'lower-case'] },
        { id: 'l-note', to: 'note', from: { kind: 'fixed', value: 'web' }, steps: [] },
      ],
      { name: 'Mara Quill' },
    );
    expect(results.map(({ verdict }) => verdict)).toEqual([
      { kind: 'sent', value: 'mara' },
      { kind: 'sent', value: 'web' },
    ]);
  });

  it('does not send what is empty', () => {
    const [, note] = applyMapping(
      fields,
      [{ id: 'l-note', to: 'note', from: { kind: 'field', field: 'gone' }, steps: [] }],
      {},
    );
    expect(note?.verdict).toEqual({ kind: 'empty' });
  });
});

describe('suggestions', () => {
  it('split a full name, match names that mean the same, and turn a tick into a figure', () => {
    const lines = suggestLines(
      [here('your-name', 'text', 'Your name'), here('mail', 'email', 'E-mail'), here('telescope', 'yes/no')],
      [
        there('email', 'email'),
        there('given', 'text', { label: 'First name' }),
        there('family', 'text', { label: 'Last name' }),
        there('telescope', 'number'),
        there('born', 'date'),
      ],
      [],
    );
    expect(lines.map(({ to, from, steps }) => [to, from.kind === 'field' && from.field, steps])).toEqual([
      ['email', 'mail', ['trim', 'lower-case']],
      ['given', 'your-name', ['first name']],
      ['family', 'your-name', ['last name']],
      ['telescope', 'telescope', ['yes/no to 1/0']],
    ]);
  });

  it("never put a visitor's address where the operator's own belongs", () => {
    const mail = [
      there('from', 'email', { ours: true }),
      there('to', 'email', { ours: true }),
      there('replyTo', 'email'),
    ];
    expect(suggestLines([here('mail', 'email')], mail, []).map(({ to }) => to)).toEqual(['replyTo']);
  });

  it('never touch a line that a person has made', () => {
    const own = [{ id: 'l-email', to: 'email', from: { kind: 'fixed' as const, value: 'x' }, steps: [] }];
    expect(suggestLines([here('email', 'email')], [there('email', 'email')], own)).toEqual([]);
  });
});
