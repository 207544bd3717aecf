import { COUNTRY_CODES, FIELD_PARTS, typeOf, type FieldType } from '../values/index.ts';

/** By which element of HTML a field is entered. */
export type Control =
  | { kind: 'input'; type: string; autocomplete: string; attributes: Record<string, string> }
  | { kind: 'lines' }
  | { kind: 'countries'; autocomplete: string }
  | { kind: 'parts'; parts: { part: string; label: string; control: Control }[] };

const input = (type: string, autocomplete = '', attributes: Record<string, string> = {}): Control => ({
  kind: 'input',
  type,
  autocomplete,
  attributes,
});

const PART_LABELS: Record<string, [label: string, control: Control]> = {
  given: ['First name', input('text', 'given-name')],
  family: ['Last name', input('text', 'family-name')],
  street: ['Street and number', input('text', 'street-address')],
  postcode: ['Postcode', input('text', 'postal-code')],
  city: ['Town', input('text', 'address-level2')],
  region: ['Region', input('text', 'address-level1')],
  country: ['Country', { kind: 'countries', autocomplete: 'country' }],
};

/** Tokens of HTML's autofill (WHATWG HTML, 4.10.18.7.1), where a field's meaning is known. */
const TOKENS: Record<string, string> = { first_name: 'given-name', last_name: 'family-name', full_name: 'name' };

/** The control of a field, the same wherever its form is shown. Choices, ticks and hidden fields have their own. */
export function controlOf({
  type,
  keepAs,
}: {
  type: Exclude<FieldType, 'tick' | 'choice' | 'hidden'>;
  keepAs: string;
}): Control {
  switch (type) {
    case 'email':
      return input('email', 'email');
    case 'text':
      return input('text', TOKENS[keepAs] ?? '');
    case 'long text':
      return { kind: 'lines' };
    case 'phone':
      return input('tel', 'tel', { placeholder: '+44 1632 960001' });
    case 'number':
      return input('number', '', { step: 'any', inputmode: 'decimal' });
    case 'money':
      return input('text', '', { placeholder: '12.50 EUR' });
    case 'date':
      return input('date', keepAs === 'birthday' ? 'bday' : '');
    case 'time':
      return input('time');
    case 'date-time':
      return input('datetime-local');
    case 'language':
      return input('text', 'language');
    case 'URL':
      return input('url', 'url', { placeholder: 'https://' });
    case 'country':
      return { kind: 'countries', autocomplete: 'country' };
    case 'person name':
    case 'postal address':
      return { kind: 'parts', parts: (FIELD_PARTS[type] ?? []).map(partOf) };
    default:
      return type satisfies never;
  }
}

function partOf(part: string) {
  const [label, control] = PART_LABELS[part] ?? [part, input('text')];
  return { part, label, control };
}

let countries: { code: string; name: string }[] | null = null;

/** Countries by their English names, in the order of these. Named and sorted once: every address has them. */
export const countryOptions = (): { code: string; name: string }[] =>
  (countries ??= COUNTRY_CODES.map((code) => ({ code, name: typeOf('country').print(code, 'en') })).sort((a, b) =>
    a.name.localeCompare(b.name, 'en'),
  ));
