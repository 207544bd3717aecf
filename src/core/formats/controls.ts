import { COUNTRY_CODES, FIELD_PARTS, typeOf, type SourceField, type TypeName } from '../values/index.ts';

/** By which elements of HTML a field is entered. */
export type Control =
  | { kind: 'input'; type: string; autocomplete: string; attributes: Record<string, string> }
  | { kind: 'lines' }
  | { kind: 'countries'; autocomplete: string }
  | { kind: 'parts'; parts: { part: string; label: string; control: Control }[] }
  | { kind: 'rows'; columns: string[] }
  | { kind: 'tick' }
  | { kind: 'answers'; as: 'list' | 'buttons' | 'boxes'; answers: { value: string; label: string }[] }
  | { kind: 'file'; accept: string }
  | { kind: 'hidden' };

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
const TOKENS: Record<string, string> = {
  first_name: 'given-name',
  last_name: 'family-name',
  full_name: 'name',
  company: 'organization',
  postcode: 'postal-code',
  birthday: 'bday',
};

/** The tokens that a field can be given by hand (WHATWG HTML, 4.10.18.7.1, from memory); off keeps browsers from filling it in. */
export const AUTOFILL_TOKENS = [
  'off',
  'name',
  'given-name',
  'additional-name',
  'family-name',
  'nickname',
  'honorific-prefix',
  'honorific-suffix',
  'email',
  'tel',
  'tel-national',
  'organization',
  'organization-title',
  'street-address',
  'address-line1',
  'address-line2',
  'address-level1',
  'address-level2',
  'postal-code',
  'country',
  'country-name',
  'language',
  'bday',
  'sex',
  'url',
  'one-time-code',
] as const;

/** The control of a field, the same wherever its form is shown. */
export function controlOf(field: Pick<SourceField, 'type' | 'widget' | 'keepAs' | 'options'>): Control {
  const { type, widget, options } = field;
  if (widget === 'hidden') return { kind: 'hidden' };
  switch (type) {
    case 'yes/no':
      return widget === 'usual'
        ? { kind: 'tick' }
        : {
            kind: 'answers',
            as: 'buttons',
            answers: [
              { value: 'yes', label: 'Yes' },
              { value: 'no', label: 'No' },
            ],
          };
    case 'choice':
      return { kind: 'answers', as: widget === 'usual' ? 'list' : 'buttons', answers: answersOf(options) };
    case 'several choices':
      return { kind: 'answers', as: 'boxes', answers: answersOf(options) };
    case 'file':
      return { kind: 'file', accept: options.join(',') };
    case 'list of records':
      return { kind: 'rows', columns: options };
    default:
      return entered(type, field.keepAs);
  }
}

const answersOf = (options: string[]) => options.map((value) => ({ value, label: value }));

type EnteredType = Exclude<TypeName, 'yes/no' | 'choice' | 'several choices' | 'file' | 'list of records'>;

function entered(type: EnteredType, keepAs: string): Control {
  const token = TOKENS[keepAs] ?? '';
  switch (type) {
    case 'email':
      return input('email', 'email');
    case 'text':
      return input('text', token);
    case 'long text':
      return { kind: 'lines' };
    case 'phone':
      return input('tel', 'tel', { placeholder: '+44 1632 960001' });
    case 'number':
      return input('number', '', { step: 'any', inputmode: 'decimal' });
    case 'money':
      return input('text', '', { placeholder: '12.50 EUR' });
    case 'date':
      return input('date', token);
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
