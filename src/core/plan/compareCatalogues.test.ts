import { plainLine } from '../mapping/index.ts';
import { describe, expect, it } from 'vitest';
import { abilities, catalogueOf } from '../../../test/world/catalogue.ts';
import type { DestinationField } from '../mapping/index.ts';
import { compareCatalogues, fieldsFor } from './index.ts';

const field = (key: string, more: Partial<DestinationField> = {}): DestinationField => ({
  key,
  label: key,
  type: 'text',
  required: false,
  choices: [],
  maxLength: null,
  ...more,
});
const texts = (before: DestinationField[], after: DestinationField[]) =>
  compareCatalogues(catalogueOf({ fields: before }), catalogueOf({ fields: after })).map(
    ({ level, text }) => `${level}: ${text}`,
  );

describe('what changed there since it was last fetched', () => {
  it('is nothing when nothing did', () => expect(texts([field('town')], [field('town')])).toEqual([]));
  it.each<[string, DestinationField[], DestinationField[], string[]]>([
    [
      'required now',
      [field('town')],
      [field('town', { required: true })],
      ['warning: The field town is now required.'],
    ],
    [
      'no longer',
      [field('town', { required: true })],
      [field('town')],
      ['note: The field town is no longer required.'],
    ],
    ['gone', [field('town')], [], ['warning: The field town vanished.']],
    ['new', [], [field('town')], ['note: The field town is new.']],
    ['new and required', [], [field('town', { required: true })], ['warning: The field town is new, and required.']],
    [
      'another type',
      [field('town')],
      [field('town', { type: 'number' })],
      ['warning: The field town now takes number, and took text.'],
    ],
    [
      'shorter',
      [field('town', { maxLength: 9 })],
      [field('town', { maxLength: 5 })],
      ['warning: The field town now takes at most 5 characters.'],
    ],
    [
      'a choice less',
      [field('town', { choices: ['a', 'b'] })],
      [field('town', { choices: ['a'] })],
      ['warning: The field town no longer takes "b".'],
    ],
  ])('a field that is %s', (_, before, after, told) => expect(texts(before, after)).toEqual(told));

  it('names places by the words of the service, the troubling first', () => {
    const can = abilities({ calls: { list: 'segment', group: 'group', kind: 'sheet' } });
    const before = catalogueOf({
      can,
      lists: [
        { id: '1', name: 'Old', groups: [] },
        { id: '2', name: 'Kept', groups: [] },
      ],
    });
    const after = catalogueOf({
      can,
      lists: [
        { id: '2', name: 'Renamed', groups: [] },
        { id: '3', name: 'Added', groups: [] },
      ],
    });
    expect(compareCatalogues(before, after).map(({ text }) => text)).toEqual([
      'The segment Old vanished.',
      'The segment Kept is now called Renamed.',
      'The segment Added is new.',
    ]);
  });
});

describe('the fields that a target can fill', () => {
  const line = (to: string) => plainLine({ id: `l-${to}`, to, from: { kind: 'fixed' as const, value: '' } });
  it('are those of its kind of record', () => {
    const kinds = [
      { id: 'a', name: 'A', fields: [field('one')] },
      { id: 'b', name: 'B', fields: [field('two')] },
    ];
    const catalogue = catalogueOf({ can: abilities({ kinds: true }), kinds });
    expect(fieldsFor(catalogue, { kind: 'b', lines: [] }).map(({ key }) => key)).toEqual(['two']);
    expect(fieldsFor(catalogue, { kind: 'gone', lines: [] })).toEqual([]);
  });
  it('are any that the operator named, where the service takes any', () => {
    const catalogue = catalogueOf({ can: abilities({ freeFields: true }), fields: [field('known')] });
    expect(fieldsFor(catalogue, { kind: '', lines: [line('own')] }).map(({ key }) => key)).toEqual(['known', 'own']);
    expect(fieldsFor(catalogueOf(), { kind: '', lines: [line('own')] })).toEqual([]);
  });
});
