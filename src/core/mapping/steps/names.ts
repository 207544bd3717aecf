import { bad, good } from '../../result.ts';
import { inWords, type FieldValue } from '../../values/index.ts';
import { splitName, type NameParts } from './splitName.ts';
import { lineOf, said, step } from './step.ts';

const PARTS = [
  'first name',
  'middle names',
  'first and middle names',
  'last name',
  'all after the first name',
  'title',
  'suffix',
  'without title',
] as const;

export const namePart = step({
  help: 'takes a part of a name that is written in one text',
  takes: ['text', 'person name'],
  gives: 'text',
  options: {
    part: { kind: 'choice', label: 'Take the', preset: 'first name', of: PARTS },
    language: { kind: 'language', label: 'Order of names as in', preset: '' },
  },
  offers: PARTS.map((part) => ({ name: part === 'without title' ? 'name without title' : part, options: { part } })),
  examples: [
    { from: 'Dr Mara Anne van der Quill, PhD', to: 'Mara' },
    { from: 'Dr Mara Anne van der Quill, PhD', options: { part: 'last name' }, to: 'van der Quill' },
    { from: 'Dr Mara Anne van der Quill, PhD', options: { part: 'first and middle names' }, to: 'Mara Anne' },
    { from: 'Dr Mara Anne van der Quill, PhD', options: { part: 'title' }, to: 'Dr' },
    { from: 'Dr Mara Anne van der Quill, PhD', options: { part: 'suffix' }, to: 'PhD' },
    { from: 'Dr Mara Anne Quill', options: { part: 'without title' }, to: 'Mara Anne Quill' },
    { from: 'Mara Anne Quill', options: { part: 'all after the first name' }, to: 'Anne Quill' },
    { from: 'Quill, Mara Anne', options: { part: 'last name' }, to: 'Quill' },
    { from: 'Nagy Ilona', options: { part: 'last name', language: 'hu' }, to: 'Nagy' },
    { from: 'Inés María Campo Rivero', options: { part: 'last name', language: 'es' }, to: 'Campo Rivero' },
  ],
  say: ({ part }) => (part === 'without title' ? 'name without title' : part),
  apply: (value, { part, language }) => good(partOf(nameIn(value, language), part)),
});

/** A name as its parts were said, or as it is read from one text. */
function nameIn(value: FieldValue, language: string): NameParts {
  if (typeof value === 'object' && 'given' in value)
    return { title: '', given: value.given, middle: '', family: value.family, suffix: '' };
  return splitName(inWords(value), language);
}

function partOf(name: NameParts, part: (typeof PARTS)[number]): string {
  switch (part) {
    case 'first name':
      return name.given;
    case 'middle names':
      return name.middle;
    case 'first and middle names':
      return said(name.given, name.middle);
    case 'last name':
      return name.family;
    case 'all after the first name':
      return said(name.middle, name.family, name.suffix);
    case 'title':
      return name.title;
    case 'suffix':
      return name.suffix;
    case 'without title':
      return said(name.given, name.middle, name.family, name.suffix);
    default:
      return part satisfies never;
  }
}

const ORDERS = ['first name first', 'last name first', 'last name, first name'] as const;

export const joinName = step({
  help: 'makes one text of a first and a last name',
  takes: ['person name', 'text'],
  gives: 'text',
  options: {
    last: { kind: 'field', label: 'The last name is in (nothing chosen: in the name itself)', preset: '' },
    order: { kind: 'choice', label: 'Order', preset: 'first name first', of: ORDERS },
  },
  offers: [
    { name: 'full name', options: { order: 'first name first' } },
    { name: 'last name, first name', options: { order: 'last name, first name' } },
  ],
  examples: [
    { from: { given: 'Mara', family: 'Quill' }, to: 'Mara Quill' },
    { from: { given: 'Mara', family: 'Quill' }, options: { order: 'last name, first name' }, to: 'Quill, Mara' },
    { from: 'Ilona Nagy', options: { order: 'last name first' }, to: 'Nagy Ilona' },
  ],
  say: ({ order }) => (order === 'first name first' ? 'full name' : order),
  apply: (value, { last, order }, { values }) => {
    const name = nameIn(value, '');
    const family = last === '' ? name.family : lineOf(values[last] ?? '');
    const given = last === '' ? said(name.given, name.middle) : lineOf(value);
    if (given === '' && family === '') return bad('has no name in it');
    switch (order) {
      case 'first name first':
        return good(said(given, family));
      case 'last name first':
        return good(said(family, given));
      case 'last name, first name':
        return good([family, given].filter((part) => part !== '').join(', '));
      default:
        return order satisfies never;
    }
  },
});
