import { plainField, type SourceField } from '../../core/values/index.ts';
import { SOURCE_FORMAT, type FileDocument } from '../../core/intake/index.ts';
import { pathToColumn } from '../../core/tables/index.ts';
import type { Invented } from './people.ts';

const column = (
  name: string,
  key: string,
  type: SourceField['type'],
  more: Partial<SourceField> = {},
): SourceField => ({
  ...plainField(key, type),
  label: name,
  path: pathToColumn(name),
  ...more,
});

/** The list that the friends of the observatory kept by themselves, before there was anything else. */
export const friendsSource = (): FileDocument => ({
  format: SOURCE_FORMAT,
  kind: 'file',
  fields: [
    column('E-mail', 'email', 'email', { required: true, keepAs: 'email' }),
    column('First name', 'given', 'text', { keepAs: 'first_name' }),
    column('Last name', 'family', 'text', { keepAs: 'last_name' }),
    column('Friend since', 'since', 'date'),
    column('Gave', 'gave', 'number'),
  ],
  statement: '',
  trust: 'less',
});

/** That list, as somebody exported it: with a semicolon, days as they are written here, and some slips. */
export function friendsList(people: Invented[]): string {
  const rows = people.map(({ given, family, email }, at) => {
    const day = `${String((at % 28) + 1).padStart(2, '0')}.${String((at % 12) + 1).padStart(2, '0')}.${2015 + (at % 9)}`;
    const gave = at % 6 === 0 ? '1.250,00' : `${10 + (at % 40)},50`;
    const address = at % 23 === 7 ? email.replace('@', ' at ') : at % 31 === 11 ? '' : email;
    return [address, given, family, at % 29 === 13 ? `31.02.${2015 + (at % 9)}` : day, gave].join(';');
  });
  return ['E-mail;First name;Last name;Friend since;Gave', ...rows].join('\r\n');
}
