import { bad, good, type Result } from '../result.ts';
import { country } from './types/country.ts';
import { date, ISO_DAY } from './types/date.ts';
import { dateTime } from './types/dateTime.ts';
import { email } from './types/email.ts';
import { file, isFile, type FileValue } from './types/file.ts';
import { language } from './types/language.ts';
import { money, type Money } from './types/money.ts';
import { number } from './types/number.ts';
import { personName, type PersonName } from './types/personName.ts';
import { phone } from './types/phone.ts';
import { postalAddress, type PostalAddress } from './types/postalAddress.ts';
import { isListOfRecords, listOfRecords, type JsonRecord } from './types/records.ts';
import { membership, type Membership } from './types/membership.ts';
import { LINE_LIMIT, longText, text } from './types/text.ts';
import { time } from './types/time.ts';
import { url } from './types/url.ts';
import { yesNo } from './types/yesNo.ts';
import { UNKNOWN_MANNER, type ValueType } from './type.ts';

/** What a field can hold, as plain JSON. */
export type FieldValue =
  string | number | boolean | string[] | JsonRecord[] | Money | PersonName | PostalAddress | Membership | FileValue;
export type FieldValues = Record<string, FieldValue>;

/** One of given answers; which those are is a matter of the field. */
const choice: ValueType<string> = { ...text, edgeCases: [] };

const severalChoices: ValueType<string[]> = {
  parse: (written) => good([...new Set(written.split('\n').map((line) => line.trim()))].filter((line) => line !== '')),
  print: (value, locale) => value.join(locale === undefined ? '\n' : ', '),
  same: (a, b) => a.length === b.length && a.every((one) => b.includes(one)),
  edgeCases: [],
};

/** Every kind of value that a field of a source or of a destination can have: one file each in types/. */
const TYPES = {
  text,
  'long text': longText,
  email,
  phone,
  number,
  money,
  date,
  time,
  'date-time': dateTime,
  'yes/no': yesNo,
  choice,
  'several choices': severalChoices,
  country,
  language,
  URL: url,
  'person name': personName,
  'postal address': postalAddress,
  membership,
  file,
  'list of records': listOfRecords,
};

export type TypeName = keyof typeof TYPES;
export const TYPE_NAMES = Object.keys(TYPES) as TypeName[];

/** @returns the type of that name, for values that it holds */
export const typeOf = (name: TypeName): ValueType<FieldValue> => TYPES[name] as unknown as ValueType<FieldValue>;

/** Values of a type that it should be tried with: its edge cases as they are held, and more texts as far as it reads them. */
export const edgeValuesOf = (name: TypeName, ...more: string[]): FieldValue[] =>
  [...typeOf(name).edgeCases, ...more].flatMap((text) => {
    const read = typeOf(name).parse(text, UNKNOWN_MANNER);
    return read.ok ? [read.value] : [];
  });

/** Whether a value is one that a type holds: for values that come from outside, such as a sample that somebody changed. */
export function holds(name: TypeName, value: unknown): value is FieldValue {
  switch (name) {
    case 'number':
      return typeof value === 'number' && Number.isFinite(value);
    case 'yes/no':
      return typeof value === 'boolean';
    case 'several choices':
      return isTexts(value);
    case 'list of records':
      return isListOfRecords(value);
    case 'file':
      return hasTexts(value, 'file', 'name', 'mediaType', 'sha256', 'link');
    case 'money':
      return hasTexts(value, 'amount', 'currency');
    case 'person name':
      return hasTexts(value, 'given', 'family');
    case 'postal address':
      return hasTexts(value, 'street', 'postcode', 'city', 'region', 'country');
    case 'membership':
      return hasTexts(value, 'level', 'begins', 'ends');
    default:
      return typeof value === 'string';
  }
}

const isTexts = (value: unknown): value is string[] =>
  Array.isArray(value) && value.every((one) => typeof one === 'string');

const hasTexts = (value: unknown, ...names: string[]): boolean =>
  typeof value === 'object' &&
  value !== null &&
  names.every((name) => typeof (value as Record<string, unknown>)[name] === 'string');

/** The type that a value has by its shape alone: a text is a text, whatever is in it. */
export function shapeOf(value: FieldValue): TypeName {
  if (typeof value === 'number') return 'number';
  if (typeof value === 'boolean') return 'yes/no';
  if (typeof value === 'string') return 'text';
  if (Array.isArray(value)) return isTexts(value) ? 'several choices' : 'list of records';
  if (isFile(value)) return 'file';
  if ('currency' in value) return 'money';
  if ('begins' in value) return 'membership';
  return 'given' in value ? 'person name' : 'postal address';
}

/** The shape that values of a type have. */
export function shapeOfType(type: TypeName): TypeName {
  switch (type) {
    case 'number':
    case 'yes/no':
    case 'several choices':
    case 'list of records':
    case 'file':
    case 'money':
    case 'person name':
    case 'postal address':
    case 'membership':
      return type;
    default:
      return 'text';
  }
}

/**
 * Turns a value into one of another type, without guessing: what it prints is read anew.
 * @returns the value as that type holds it, or why it cannot be
 */
export function convert(value: FieldValue, to: TypeName): Result<FieldValue> {
  if (to === 'URL' && isFile(value)) return good(value.link);
  if (holds(to, value) && (typeof value !== 'string' || to === 'text' || to === 'long text' || to === 'choice'))
    return good(value);
  if (to === 'text' || to === 'long text' || to === 'choice') return good(inWords(value));
  if (to === 'several choices') return good(isTexts(value) ? value : [inWords(value)]);
  if (typeof value === 'boolean' && to !== 'yes/no') return bad('this is a tick');
  const written = typeOf(shapeOf(value)).print(value);
  if (isTexts(value) && value.length !== 1) return bad(`"${inWords(value)}" is several`);
  if (written.length > LINE_LIMIT) return bad(`this is longer than ${LINE_LIMIT} characters`);
  return typeOf(to).parse(written, UNKNOWN_MANNER);
}

/** A value of a field in words, for people: a day or a moment as they write it; moments in UTC, which is said. */
export function inWordsOfType(type: TypeName, value: FieldValue | undefined, locale = 'en-GB'): string {
  if (typeof value !== 'string' || (type !== 'date' && type !== 'date-time')) return inWords(value, locale);
  // What was kept before a field had its type may be anything.
  if (!typeOf(type).parse(value, UNKNOWN_MANNER).ok) return inWords(value, locale);
  const hasZone = type === 'date-time' && /(Z|[+-]\d{2}:\d{2})$/.test(value);
  return `${typeOf(type).print(value, locale)}${hasZone ? ' UTC' : ''}`;
}

/** A moment with its zone (ISO 8601, RFC 3339), as machines write it. */
const MOMENT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(?::\d{2}(?:\.\d+)?)?(?:Z|[+-]\d{2}:\d{2})$/;

/** A value in words of which nobody says the type: what is known of a person, or held by a service, in whatever shape it is. */
export function inWordsBySight(value: unknown, locale = 'en-GB'): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string')
    return inWordsOfType(ISO_DAY.test(value) ? 'date' : MOMENT.test(value) ? 'date-time' : 'text', value, locale);
  if (typeof value !== 'object' || TYPE_NAMES.some((type) => holds(type, value)))
    return inWords(value as FieldValue, locale);
  const parts = Array.isArray(value)
    ? value.map((one) => inWordsBySight(one, locale))
    : Object.entries(value).map(([name, part]) => `${name}: ${inWordsBySight(part, locale)}`);
  return parts.filter((part) => part !== '').join(', ');
}

/** A value in words, for people. */
export function inWords(value: FieldValue | undefined, locale = 'en-GB'): string {
  if (value === undefined) return '';
  if (typeof value === 'number') return number.print(value);
  return typeOf(shapeOf(value)).print(value, locale);
}
