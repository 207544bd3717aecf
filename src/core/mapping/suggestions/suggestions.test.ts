import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../../test/world/fields.ts';
import type { SourceField } from '../../values/index.ts';
import type { DestinationField } from '../destination.ts';
import { fieldsUsed, plainLine } from '../mapping.ts';
import { chainOf } from '../steps/index.ts';
import { assign, matchAnswers, suggestLines, type SuggestFacts } from './index.ts';
import { piecesOf } from './words.ts';

const here = (label: string, type: SourceField['type'] = 'text', more: Partial<SourceField> = {}) =>
  sourceField(label, type, { label, ...more });
const there = (label: string, type: DestinationField['type'] = 'text', more: Partial<DestinationField> = {}) => ({
  key: label,
  label,
  type,
  required: false,
  choices: [],
  maxLength: null,
  ...more,
});

/** What fills what, by itself or as an offer (with a question mark). */
const suggested = (source: SourceField[], fields: DestinationField[], facts: SuggestFacts = {}) =>
  suggestLines(source, fields, [], facts).map(
    ({ line, applies }) => `${line.to} < ${fieldsUsed(line).join('+')}${applies ? '' : ' ?'}`,
  );

describe('names are taken to pieces', () => {
  it.each([
    ['emailAddress', ['email address']],
    ['Bestellnummer', ['bestell', 'nummer']],
    ['Geburts_datum', ['geburts', 'datum']],
    ['Bezoekdatum', ['bezoek', 'datum']],
    ['ご連絡先メールアドレス', ['ご連絡先', 'メールアドレス']],
    ['Date of birth', ['date of birth']],
    ['Your date and birth', ['date birth']],
    ['your  Telescope!', ['telescope']],
    ['Ваше имя', ['ваше', 'имя']],
  ])('%s', (name, pieces) => expect(piecesOf(name).map(({ word }) => word)).toEqual(pieces));

  it.each([
    ['Achternaam', ['last name']],
    ['Voor- en achternaam', ['full name']],
    ['Efternamn', ['last name']],
    ['För- och efternamn', ['full name']],
    ['Nachname', ['last name']],
    ['Vor- und Nachname', ['full name']],
    ['Cognome', ['last name']],
    ['Nome e cognome', ['full name']],
    ['Apellidos', ['last name']],
    ['Nombre y apellidos', ['full name']],
  ])('%s means %j and nothing else, whatever a longer term is without its small words', (name, meanings) =>
    expect([...new Set(piecesOf(name).flatMap((piece) => piece.meanings))]).toEqual(meanings),
  );

  it('kana with marks are other kana, and accents are none', () => {
    expect(piecesOf('カ')).not.toEqual(piecesOf('ガ'));
    expect(piecesOf('Prénom')).toEqual(piecesOf('prenom'));
  });
});

describe('the assignment', () => {
  const scores = fc.tuple(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 1, max: 7 })).chain(([rows, columns]) =>
    fc.array(fc.array(fc.double({ min: -0.2, max: 1, noNaN: true }), { minLength: columns, maxLength: columns }), {
      minLength: rows,
      maxLength: rows,
    }),
  );
  const sumOf = (table: number[][], pairs: [number, number][]) =>
    pairs.reduce((sum, [row, column]) => sum + (table[row]?.[column] ?? 0), 0);
  /** The most that any choice of a column for each row gives. */
  const brute = ([row, ...rest]: number[][], taken: number[] = []): number =>
    row === undefined
      ? 0
      : Math.max(
          brute(rest, taken),
          ...row.flatMap((score, column) =>
            taken.includes(column) ? [] : [Math.max(0, score) + brute(rest, [...taken, column])],
          ),
        );

  it('gives as much as trying everything does, and nobody twice', () =>
    fc.assert(
      fc.property(scores, (table) => {
        const pairs = assign(table);
        expect(sumOf(table, pairs)).toBeCloseTo(brute(table), 9);
        expect(new Set(pairs.map(([row]) => row)).size).toBe(pairs.length);
        expect(new Set(pairs.map(([, column]) => column)).size).toBe(pairs.length);
      }),
      { numRuns: 60 },
    ));
});

describe('one field tells what another means', () => {
  it.each([
    [['First name', 'Name'], ['Last name < Name']],
    [
      ['Nombre', 'Apellidos'],
      ['Last name < Apellidos', 'First name < Nombre'],
    ],
    [['Name'], ['Last name < Name', 'First name < Name']],
  ])('%j', (labels, lines) =>
    expect(
      suggested(
        labels.map((label) => here(label)),
        [there('Last name'), there('First name')],
      ),
    ).toEqual(expect.arrayContaining(lines)),
  );

  it('a state is a region among addresses; elsewhere nobody can say', () => {
    expect(suggested([here('State'), here('City')], [there('Region'), there('Status')])).toEqual(['Region < State']);
    expect(suggested([here('State')], [there('Region')])).toEqual(['Region < State ?']);
  });
});

describe('what is not filled in by itself', () => {
  it.each([
    ["somebody else's address", [here("Friend's email", 'email')], [there('Email', 'email')], []],
    ['scripts of which nothing is known, and other words', [here('Имя')], [there('Город')], []],
    ['a tick, where an address belongs', [here('Email', 'yes/no')], [there('Email', 'email')], []],
    [
      'one of two that fit alike',
      [here('Visit date', 'date'), here('Date of your visit', 'date')],
      [there('Visit', 'date')],
      ['Visit < Visit date ?'],
    ],
  ])('%s', (_, source, fields, lines) => expect(suggested(source, fields)).toEqual(lines));

  it('is filled in where the words are the same, in any script', () =>
    expect(suggested([here('Город'), here('Имя')], [there('имя'), there('город')])).toEqual([
      'имя < Имя',
      'город < Город',
    ]));
});

describe('what else is known', () => {
  it('goes by what was mapped before, and says so', () => {
    const facts = { before: [{ from: 'Leitstern', to: 'Guide', steps: [{ kind: 'slug' as const, options: {} }] }] };
    const [only] = suggestLines([here('Leitstern')], [there('Guide')], [], facts);
    expect(only).toMatchObject({ applies: true, because: ['mapped so in another route'] });
    expect(only?.line.steps).toMatchObject([{ kind: 'slug' }]);
    expect(suggested([here('Leitstern')], [there('Guide')])).toEqual([]);
  });

  it('sees addresses in a text field', () => {
    const source = [here('Contact')];
    const samples = [{ Contact: 'mara@hill.example' }, { Contact: 'ada@hill.example' }];
    expect(suggested(source, [there('Email', 'email')])).toEqual([]);
    expect(suggestLines(source, [there('Email', 'email')], [], { samples })[0]).toMatchObject({
      because: expect.arrayContaining(['its values look like email addresses']) as string[],
    });
  });

  it('writes a table where the answers of a choice are called differently there', () => {
    const [line] = suggestLines(
      [here('Plan', 'choice', { options: ['Family plan', 'Student'] })],
      [there('Plan', 'choice', { choices: ['students', 'family'] })],
      [],
    );
    expect(line?.line.steps).toEqual(
      chainOf({
        kind: 'look-up',
        options: {
          pairs: [
            ['Family plan', 'family'],
            ['Student', 'students'],
          ],
        },
      }),
    );
  });

  it.each([
    ['money', 'number', 'amount'],
    ['yes/no', 'number', 'yes/no'],
  ] as const)('adds the step that makes %s a %s', (from, to, kind) =>
    expect(suggestLines([here('Deposit', from)], [there('Deposit', to)], [])[0]?.line.steps[0]?.kind).toContain(kind),
  );

  it("never puts a visitor's address where the operator's own belongs, nor touches a line of a person", () => {
    const mail = [there('from', 'email', { ours: true }), there('replyTo', 'email')];
    expect(suggested([here('mail', 'email')], mail)).toEqual(['replyTo < mail']);
    const own = [plainLine({ id: 'l', to: 'email', from: { kind: 'fixed', value: 'x' } })];
    expect(suggestLines([here('email', 'email')], [there('email', 'email')], own)).toEqual([]);
  });
});

describe('answers and what they stand for', () => {
  it.each([
    [
      ['The Moon and planets', 'Evenings for families'],
      ['families', 'planets', 'comets'],
      ['planets', 'families'],
    ],
    [
      ['Oui', 'Non'],
      ['oui', 'non'],
      ['oui', 'non'],
    ],
    [['Newsletter'], ['Infobrief'], ['Infobrief']],
    [['Comets'], ['Moon'], []],
  ])('%j among %j', (answers, names, found) =>
    expect(
      matchAnswers(
        answers,
        names.map((name) => ({ id: name, name })),
      ).map(({ id }) => id),
    ).toEqual(found),
  );
});

it('what a name was split into before stays split, and is no whole name', () => {
  const before = [
    { from: 'Name', to: 'First name', steps: [{ kind: 'part of a name' as const, options: { part: 'first name' } }] },
    { from: 'Name', to: 'Last name', steps: [{ kind: 'part of a name' as const, options: { part: 'last name' } }] },
  ];
  const lines = suggestLines([here('Name')], [there('First name'), there('Last name')], [], { before });
  expect(lines.map(({ line }) => line.steps.map(({ kind }) => kind))).toEqual([['part of a name'], ['part of a name']]);
});

describe('what is filled in by itself', () => {
  it('is no consent, tick or status, unless both sides are called the same', () => {
    expect(suggested([here('Address verified', 'yes/no')], [there('Wants mail', 'yes/no')])).not.toContain(
      'Wants mail < Address verified',
    );
    expect(suggested([here('Newsletter', 'yes/no')], [there('Subscribed to newsletter', 'yes/no')])).not.toContain(
      'Subscribed to newsletter < Newsletter',
    );
    expect(suggested([here('Newsletter', 'yes/no')], [there('Newsletter', 'yes/no')])).toEqual([
      'Newsletter < Newsletter',
    ]);
  });
  it('can carry what comes: a moment is not filled into a day by itself', () =>
    expect(suggested([here('Visited', 'date-time')], [there('Visited', 'date')])).not.toContain('Visited < Visited'));
});
