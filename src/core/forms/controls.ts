import {
  COUNTRY_CODES,
  FIELD_PARTS,
  PLAIN_RANGE,
  typeOf,
  type Range,
  type SourceField,
  type TypeName,
} from '../values/index.ts';

/** By which elements of HTML a field is entered. */
export type Control =
  | { kind: 'input'; type: string; autocomplete: string; attributes: Record<string, string> }
  | { kind: 'lines' }
  | { kind: 'countries'; autocomplete: string }
  | { kind: 'parts'; parts: { part: string; control: Control }[] }
  | { kind: 'rows'; columns: string[] }
  | { kind: 'tick' }
  | {
      kind: 'answers';
      as: 'list' | 'buttons' | 'boxes' | 'search' | 'pictures';
      answers: string[];
      /** Of several answers. */
      several?: boolean;
    }
  | { kind: 'steps'; as: 'stars' | 'scale'; range: Range }
  | { kind: 'file'; accept: string }
  | { kind: 'hidden' };

const input = (type: string, autocomplete = '', attributes: Record<string, string> = {}): Control => ({
  kind: 'input',
  type,
  autocomplete,
  attributes,
});

const PART_CONTROLS: Record<string, Control> = {
  given: input('text', 'given-name'),
  family: input('text', 'family-name'),
  street: input('text', 'street-address'),
  postcode: input('text', 'postal-code'),
  city: input('text', 'address-level2'),
  region: input('text', 'address-level1'),
  country: { kind: 'countries', autocomplete: 'country' },
  begins: input('date'),
  ends: input('date'),
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
export function controlOf(field: Pick<SourceField, 'type' | 'widget' | 'keepAs' | 'options' | 'range'>): Control {
  const { type, widget, options, range } = field;
  if (widget === 'hidden') return { kind: 'hidden' };
  switch (type) {
    case 'yes/no':
      return widget === 'usual'
        ? { kind: 'tick' }
        : {
            kind: 'answers',
            as: 'buttons',
            answers: ['yes', 'no'],
          };
    case 'choice':
      return {
        kind: 'answers',
        as: widget === 'usual' ? 'list' : widget === 'search' || widget === 'pictures' ? widget : 'buttons',
        answers: options,
      };
    case 'several choices':
      return { kind: 'answers', as: widget === 'pictures' ? 'pictures' : 'boxes', answers: options, several: true };
    case 'number':
      return widget === 'stars' || widget === 'scale'
        ? { kind: 'steps', as: widget, range: range ?? PLAIN_RANGE }
        : entered(type, field.keepAs);
    case 'phone':
      return widget === 'country'
        ? {
            kind: 'parts',
            parts: [
              { part: 'country', control: { kind: 'countries', autocomplete: 'tel-country-code' } },
              { part: 'number', control: input('tel', 'tel-national') },
            ],
          }
        : entered(type, field.keepAs);
    case 'file':
      return { kind: 'file', accept: options.join(',') };
    case 'list of records':
      return { kind: 'rows', columns: options };
    default:
      return entered(type, field.keepAs);
  }
}

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
    case 'membership':
      return { kind: 'parts', parts: (FIELD_PARTS[type] ?? []).map(partOf) };
    default:
      return type satisfies never;
  }
}

const partOf = (part: string) => ({ part, control: PART_CONTROLS[part] ?? input('text') });

const countries = new Map<string, { code: string; name: string }[]>();

/** Countries by their names in a language, in the order of these. Named and sorted once: every address has them. */
export function countryOptions(language: string): { code: string; name: string }[] {
  const known = countries.get(language);
  if (known) return known;
  const named = COUNTRY_CODES.map((code) => ({ code, name: typeOf('country').print(code, language) }));
  named.sort((a, b) => a.name.localeCompare(b.name, language));
  countries.set(language, named);
  return named;
}
