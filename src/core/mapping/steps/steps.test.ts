import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shapeOf, shapeOfType, TYPE_NAMES, typeOf, type FieldValue } from '../../values/index.ts';
import {
  applyStep,
  chainOf,
  chainTrouble,
  isStep,
  offersAfter,
  optionsOf,
  READY,
  STEP_KINDS,
  stepInWords,
  stepOf,
  typeAfterAll,
  type StepKind,
  type StepOptions,
  type ToldStep,
} from '../index.ts';

/** The day on which every example is true. */
const facts = { values: { born: '1990-06-01', since: '2026-05-01' }, now: Date.UTC(2026, 4, 31) };
const told = (kind: StepKind, options: StepOptions = {}): ToldStep => ({ kind, options });
const after = (step: ToldStep, value: FieldValue) => applyStep(step, value, facts);

const EXAMPLES = STEP_KINDS.flatMap((kind) => stepOf(kind).examples.map((example) => [kind, example] as const));

describe('a step', () => {
  it.each(EXAMPLES)('"%s" does what its example says: %j', (kind, { from, options = {}, to }) => {
    const step = told(kind, options);
    expect(after(step, from)).toEqual({ ok: true, value: to });
    // It takes what it is shown with, and gives what it says.
    const came = shapeOf(from);
    expect(stepOf(kind).takes.map(shapeOfType)).toContain(came);
    const gives = typeAfterAll(came === 'text' ? (stepOf(kind).takes[0] ?? 'text') : came, [step]);
    expect(gives && shapeOfType(gives)).toBe(shapeOf(to));
  });

  it.each(STEP_KINDS)('"%s" is named in words, and each of its ready forms can be stored', (kind) => {
    const { offers = [], options, help } = stepOf(kind);
    expect(stepInWords(told(kind))).not.toBe('');
    expect(help).toMatch(/^[a-z]/);
    for (const offer of offers) expect(isStep({ id: 's1', kind, options: offer.options })).toBe(true);
    for (const [name, { preset }] of Object.entries(options))
      expect([name, isStep({ id: 's1', kind, options: { [name]: preset } })]).toEqual([name, true]);
  });

  it('makes something of every value that a type holds, or says why not, and never throws', () =>
    fc.assert(
      fc.property(fc.constantFrom(...STEP_KINDS), fc.constantFrom(...TYPE_NAMES), fc.string(), (kind, type, any) => {
        const values = [any, ...typeOf(type).edgeCases].flatMap((text): FieldValue[] => {
          const read = typeOf(type).parse(text, { locale: null, country: null });
          return read.ok ? [text, read.value] : [text];
        });
        for (const value of values) {
          const result = after(told(kind), value);
          if (!result.ok) expect(result.issue).not.toMatch(/\.$/);
        }
      }),
    ));

  it.each<[ToldStep, FieldValue, FieldValue]>([
    [READY.oneOrZero, false, '0'],
    [READY.oneOrZero, '', '0'],
    [READY.lastName, { given: 'Mara Anne', family: 'van der Quill' }, 'van der Quill'],
    [READY.lowerCase, ['A', 'B'], ['a', 'b']],
    // What has nothing to do with a step goes on as it is: routes of before were not checked for it.
    [READY.lowerCase, 7, 7],
    [told('look-up', { pairs: [['Moon', 'LUN']], unknown: 'is left out' }), ['Moon', 'Comets'], ['LUN']],
    [told('join a name', { last: 'since', order: 'last name first' }), 'Mara', '2026-05-01 Mara'],
    [told('time between', { unit: 'days', until: 'since' }), '2026-04-01', 30],
    [told('count'), '', 0],
    [told('cut', { length: 3 }), '👩‍🚀👩‍🚀', ''],
    [told('strip HTML'), '<p>1 &lt; 2</p><ul><li>a<li>b</ul>', '1 < 2\na\nb'],
  ])('%j makes of %j %j', (step, from, to) => expect(after(step, from)).toEqual({ ok: true, value: to }));

  it.each<[ToldStep, FieldValue, string]>([
    [READY.oneOrZero, 'perhaps', '"perhaps" is neither yes nor no'],
    [told('look-up', { pairs: [['Moon', 'LUN']], unknown: 'is an error' }), 'Sun', '"Sun" is not in the look-up table'],
    [told('read a date'), '2026-05-31', '"2026-05-31" is not a date like dd/MM/yyyy'],
    [told('read a date'), '31/02/2026', '"31/02/2026" is not a date like dd/MM/yyyy'],
    [told('write a date', { zone: 'Nowhere/Town' }), '2026-05-31T10:00:00Z', 'there is no time zone "Nowhere/Town"'],
    [told('sum', { column: 'price' }), [{ price: 'dear' }], 'cannot be added up: "dear" is not a number'],
    [told('part of a URL'), 'no address', '"no address" is not the address of a page'],
    [told('make an amount'), 'some', '"some" is not a number'],
  ])('%j says what keeps it from %j', (step, from, issue) => expect(after(step, from)).toEqual({ ok: false, issue }));
});

describe('a chain', () => {
  it('meets, or it is said where it does not and what would mend it, without a value', () => {
    expect(chainTrouble('text', [READY.trim, READY.lowerCase, READY.firstNames])).toBeNull();
    expect(chainTrouble('several choices', [READY.trim, READY.lowerCase])).toBeNull();
    expect(chainTrouble('person name', [READY.lastName, READY.trim])).toBeNull();
    expect(chainTrouble('money', [told('part of an amount'), told('write a number')])).toBeNull();
    expect(chainTrouble('yes/no', [READY.trim, READY.lowerCase])).toMatchObject({
      index: 1,
      came: 'yes/no',
      mend: { kind: 'look-up' },
    });
    // A text is no date until it is read as one.
    expect(chainTrouble('text', [told('write a date')])).toMatchObject({ index: 0, mend: { kind: 'read a date' } });
    expect(chainTrouble('file', [READY.firstNames])).toMatchObject({ mend: null });
  });

  it.each(TYPE_NAMES)('of %s is offered only what can follow, and what is offered meets', (type) => {
    for (const offer of offersAfter(type, []))
      expect([offer.name, chainTrouble(type, [offer])]).toEqual([offer.name, null]);
    expect(offersAfter(type, []).map(({ name }) => name)).toContain('trim');
  });

  it('is not stored when a step is told what it cannot be told', () => {
    const [step] = chainOf(READY.lowerCase);
    expect(isStep(step)).toBe(true);
    const strange: unknown[] = [
      { ...step, kind: 'explode' },
      { ...step, kind: 'constructor' },
      { ...step, id: '' },
      { ...step, options: { form: 'shouting' } },
      { ...step, options: { other: 'x' } },
      { ...step, options: { language: 'no language' } },
      { ...step, options: null },
      { id: 's', kind: 'cut', options: { length: 0 } },
      { id: 's', kind: 'cut', options: { length: 1.5 } },
      { id: 's', kind: 'look-up', options: { pairs: [['a']] } },
      { id: 's', kind: 'write a date', options: { zone: 'Nowhere/Town' } },
    ];
    for (const one of strange) expect([one, isStep(one)]).toEqual([one, false]);
  });

  it('does what is preset where nothing is said', () =>
    expect(optionsOf(told('cut', { end: '…' }))).toEqual({ length: 100, end: '…' }));
});
