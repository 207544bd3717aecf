import { bad, good, type Result } from '../result.ts';
import {
  convert,
  type FieldValue,
  inWords,
  shapeOf,
  shapeOfType,
  TYPE_NAMES,
  typeOf,
  type TypeName,
} from '../values/index.ts';

/** Fields of destinations have the same types as those of sources. */
export const DESTINATION_FIELD_TYPES = TYPE_NAMES;
export type DestinationFieldType = TypeName;

/** A name that something had in another system, and when it was first seen with another one, in milliseconds since 1970. */
export interface FormerName {
  name: string;
  until: number;
}

/** One field that the other system offers, as its catalogue says. */
export interface DestinationField {
  key: string;
  label: string;
  type: DestinationFieldType;
  required: boolean;
  /** Allowed values of a choice. */
  choices: string[];
  /** Longest text it takes; null when it does not say. */
  maxLength: number | null;
  /** Whether it is the operator's own, such as the sender of a notice: what visitors say never goes there. */
  ours?: boolean;
  /** What it was called before, where it was renamed there. */
  formerly?: FormerName;
}

/** What is sent to the other system: text, a number, a truth value, or several texts. */
export type SentValue = string | number | boolean | string[];

/** What a field takes, in words, as in "takes a number". */
const TAKES: Record<DestinationFieldType, string> = {
  text: 'text',
  'long text': 'text',
  email: 'an email address',
  phone: 'a telephone number',
  number: 'a number',
  money: 'an amount with its currency',
  date: 'a date',
  time: 'a time',
  'date-time': 'a date with a time',
  'yes/no': 'yes or no',
  choice: 'one of its choices',
  'several choices': 'several of its choices',
  country: 'a country',
  language: 'a language',
  URL: 'the address of a page',
  'person name': 'a name',
  'postal address': 'a postal address',
  membership: 'a membership',
  file: 'a file',
  'list of records': 'a list of records',
};

/** Puts a value into the form that the destination's field takes, or says why it cannot be. Nothing is guessed. */
export function fitValue(field: DestinationField, value: FieldValue): Result<SentValue> {
  if (field.type === 'number' && typeof value === 'boolean')
    return bad('takes a number, and this is a tick. Add the step "yes/no to 1/0".');
  if (typeof value === 'string' && (field.type === 'text' || field.type === 'long text'))
    return withinLength(field, value);
  const converted = convert(value, field.type);
  if (!converted.ok) return bad(`takes ${TAKES[field.type]}, but ${uncapital(converted.issue)}`);
  const held = converted.value;
  const unknown = choicesIn(field, held).find((one) => !field.choices.includes(one));
  if (unknown !== undefined) return bad(`takes one of ${field.choices.join(', ')}; "${unknown}" is not among them.`);
  if (typeof held !== 'object') return withinLength(field, held);
  if (field.type === 'several choices') return good(held as string[]);
  // What machines read again is written as they read it: an amount, a link, records as JSON.
  const asMachines = field.type === 'money' || field.type === 'file' || field.type === 'list of records';
  return withinLength(field, typeOf(field.type).print(held, asMachines ? undefined : 'en-GB'));
}

/**
 * The same of a value out of a field of the same type, which was read when it came. Of one that has no choices only its length
 * is left to see; one of another shape, as in a sample that somebody made up, is read anew.
 */
export const fitHeld = (field: DestinationField, value: FieldValue): Result<SentValue> =>
  typeof value === 'object' || field.type === 'choice' || shapeOf(value) !== shapeOfType(field.type)
    ? fitValue(field, value)
    : withinLength(field, value);

function choicesIn({ type, choices }: DestinationField, value: FieldValue): string[] {
  if (type === 'choice') return [inWords(value)];
  return type === 'several choices' && choices.length > 0 ? (value as string[]) : [];
}

function withinLength({ maxLength }: DestinationField, value: string | number | boolean): Result<SentValue> {
  if (typeof value === 'string' && maxLength !== null && value.length > maxLength)
    return bad(`takes at most ${maxLength} characters, and this has ${value.length}.`);
  return good(value);
}

const uncapital = (sentence: string): string =>
  /^(This|Of|There|Enter|Write|Which)\b/.test(sentence)
    ? sentence.charAt(0).toLowerCase() + sentence.slice(1)
    : sentence;
