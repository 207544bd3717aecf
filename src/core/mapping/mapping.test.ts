import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import { shapeOf, type SourceField } from '../values/index.ts';
import {
  applyMapping,
  applyStep,
  chainTrouble,
  fitValue,
  STEP_KINDS,
  stepOf,
  stepsAfter,
  suggestLines,
  type DestinationField,
  type StepKind,
} from './index.ts';

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
    ['first name', { given: 'Mara Anne', family: 'Quill' }, 'Mara Anne'],
    ['last name', { given: 'Mara Anne', family: 'van der Quill' }, 'van der Quill'],
  ] as const)('%s turns %j into %j', (kind, from, to) =>
    expect(applyStep({ kind }, from)).toEqual({ ok: true, value: to }),
  );

  it.each(STEP_KINDS)('%s does what its example says, and gives what it says', (kind) => {
    const { example, gives, takes } = stepOf(kind);
    const [from, to] = example;
    expect(applyStep({ kind }, from)).toEqual({ ok: true, value: to });
    expect([takes.includes(shapeOf(from)), shapeOf(to)]).toEqual([true, gives]);
  });

  it('go through a list item by item', () =>
    expect(applyStep({ kind: 'lower-case' }, ['A', 'B'])).toEqual({ ok: true, value: ['a', 'b'] }));

  it('say what keeps them from a value, and guess nothing', () => {
    expect(applyStep({ kind: 'yes/no to 1/0' }, 'perhaps')).toEqual({
      ok: false,
      issue: '"perhaps" is neither yes nor no',
    });
    // What has nothing to do with a step goes on as it is: routes of before were not checked for it.
    expect(applyStep({ kind: 'lower-case' }, 7)).toEqual({ ok: true, value: 7 });
  });

  it('meet in a chain, or it is said where they do not and what would mend it, without a value', () => {
    const chain = (...kinds: StepKind[]) => kinds.map((kind) => ({ kind }));
    expect(chainTrouble('text', chain('trim', 'lower-case', 'first name'))).toBeNull();
    expect(chainTrouble('several choices', chain('trim', 'lower-case'))).toBeNull();
    expect(chainTrouble('person name', chain('last name', 'trim'))).toBeNull();
    expect(chainTrouble('yes/no', chain('trim', 'lower-case'))).toEqual({
      index: 1,
      kind: 'lower-case',
      shape: 'yes/no',
      mend: 'yes/no to 1/0',
    });
    expect(chainTrouble('person name', chain('lower-case'))).toMatchObject({ index: 0, mend: 'first name' });
    expect(chainTrouble('number', chain('first name'))).toMatchObject({ mend: null });
    expect(stepsAfter('yes/no', [])).toEqual(['trim', 'yes/no to 1/0']);
    expect(stepsAfter('number', [])).toEqual(['trim']);
  });
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
        {
          id: 'l-given',
          to: 'given',
          from: { kind: 'field', field: 'name' },
          steps: [{ kind: 'first name' }, { kind: 'lower-case' }],
        },
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
    expect(
      lines.map(({ to, from, steps }) => [to, from.kind === 'field' && from.field, steps.map(({ kind }) => kind)]),
    ).toEqual([
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
