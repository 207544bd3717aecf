import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';
import { text } from './text.ts';

/** A person's name in parts; what nobody said is ''. */
export interface PersonName {
  given: string;
  family: string;
}

/** The parts in which a name is entered. */
export const NAME_PARTS = ['given', 'family'] as const;

/**
 * A name. From one text, the first word is taken as given and the rest as family name, or, where a comma says so, the other
 * way round. That is right for most names of Western writing and wrong for others: a form that needs parts asks for them.
 */
export const personName: ValueType<PersonName> = {
  parse: (written, manner) => {
    const line = text.parse(written, manner);
    if (!line.ok) return line;
    if (!/\p{L}/u.test(line.value)) return bad('This is not a name.');
    const [family = '', given = ''] = line.value.split(/\s*,\s*/);
    if (line.value.includes(',')) return good({ given, family });
    const [first = '', ...others] = line.value.split(' ');
    return good({ given: first, family: others.join(' ') });
  },
  print: ({ given, family }) => [given, family].filter((part) => part !== '').join(' '),
  same: (a, b) => a.given === b.given && a.family === b.family,
  edgeCases: ['Mara Quill', 'Quill, Mara', 'Mara', 'Vincent van der Hill'],
};
