import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';
import { text } from './text.ts';
import { country } from './country.ts';

/** A postal address; what nobody said is ''. The country is a code of ISO 3166-1 alpha-2. */
export interface PostalAddress {
  street: string;
  postcode: string;
  city: string;
  region: string;
  country: string;
}

export const ADDRESS_PARTS = ['street', 'postcode', 'city', 'region', 'country'] as const;

/** Read from parts, a line each, in the order of ADDRESS_PARTS; empty lines are parts that nobody said. */
export const postalAddress: ValueType<PostalAddress> = {
  parse: (written, manner) => {
    const parts = written
      .replace(/\r\n?/g, '\n')
      .split('\n')
      .map((part) => text.parse(part, manner));
    const wrong = parts.find((part) => !part.ok);
    if (wrong) return wrong;
    const [street = '', postcode = '', city = '', region = '', land = ''] = parts.map((part) =>
      part.ok ? part.value : '',
    );
    if ([street, postcode, city].every((part) => part === ''))
      return bad('Enter at least a street, a postcode or a town.');
    const known = land === '' ? good('') : country.parse(land, manner);
    return known.ok ? good({ street, postcode, city, region, country: known.value }) : known;
  },
  print: (value, locale) =>
    locale === undefined
      ? ADDRESS_PARTS.map((part) => value[part]).join('\n')
      : [
          value.street,
          `${value.postcode} ${value.city}`.trim(),
          value.region,
          value.country === '' ? '' : country.print(value.country, locale),
        ]
          .filter((line) => line !== '')
          .join(', '),
  same: (a, b) => ADDRESS_PARTS.every((part) => a[part] === b[part]),
  edgeCases: ['1 Ridge Road\nPR1 2HL\nPellam\n\nGB', '\n12345\nHilltown\n\n'],
};
