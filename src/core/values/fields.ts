import { bad, good, type Result } from '../result.ts';
import { parseEmail } from './email.ts';
import { inWords, typeOf, type FieldValue, type TypeName } from './registry.ts';
import { UNKNOWN_MANNER } from './type.ts';
import { NAME_PARTS } from './types/personName.ts';
import { ADDRESS_PARTS } from './types/postalAddress.ts';
import { LINE_LIMIT, TEXT_LIMIT, text as line } from './types/text.ts';

/** Types of which a field of a form is entered by a control of its own; `tick`, `choice` and `hidden` are ways of entering. */
const TYPED = [
  'long text',
  'phone',
  'number',
  'money',
  'date',
  'time',
  'date-time',
  'country',
  'language',
  'URL',
  'person name',
  'postal address',
] as const satisfies readonly TypeName[];

export const FIELD_TYPES = ['text', 'email', 'choice', 'tick', 'hidden', ...TYPED] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

/** The kind of value that a field holds, however it is entered. */
export function heldType({ type, several }: Pick<SourceField, 'type' | 'several'>): TypeName {
  if (type === 'tick') return 'yes/no';
  if (type === 'hidden') return 'text';
  return type === 'choice' && several ? 'several choices' : type;
}

/** The inputs of a field that is entered in parts: what they are called beside the field's own name, as in `home.street`. */
export const FIELD_PARTS: Partial<Record<FieldType, readonly string[]>> = {
  'person name': NAME_PARTS,
  'postal address': ADDRESS_PARTS,
};

/** One field of a source. `key` is its name in the HTML and in stored values. */
export interface SourceField {
  key: string;
  label: string;
  type: FieldType;
  required: boolean;
  /** The answers of a choice. */
  options: string[];
  /** Whether a choice takes several answers. */
  several: boolean;
  help: string;
  /** What a hidden field holds when the page does not set it. */
  preset: string;
  /** Which value of the contact it is: email, first_name, last_name, full_name, another name, or '' for none. */
  keepAs: string;
}

/**
 * Reads what a form sent for one field.
 * @param sent the values under the field's name, in order; an absent field sends none (an unticked box)
 */
export function parseFieldValue(field: SourceField, sent: string[]): Result<FieldValue> {
  // Before anything is looked for in it: what is longer is no such value, and only keeps the reader busy.
  const limit = field.type === 'long text' ? TEXT_LIMIT : LINE_LIMIT;
  if (sent.some((text) => text.length > limit)) return bad(`This is longer than ${limit} characters.`);
  switch (field.type) {
    case 'tick':
      return field.required && !isTicked(sent) ? bad('Tick this box to go on.') : good(isTicked(sent));
    case 'choice':
      return parseChoice(field, sent);
    case 'hidden':
      return line.parse((sent[0] ?? '').trim() === '' ? field.preset : (sent[0] ?? ''), UNKNOWN_MANNER);
    case 'email':
      return (sent[0] ?? '').trim() === '' && !field.required ? good('') : parseEmail(sent[0] ?? '');
    default: {
      const written = sent[0] ?? '';
      if (written.trim() === '') return field.required ? bad(`${field.label} is needed.`) : good('');
      return typeOf(field.type).parse(written, UNKNOWN_MANNER);
    }
  }
}

/**
 * What a form sent for a field: under its name, or, where it is entered in parts, under the names of those.
 * @returns the texts in order; parts are put together as their type reads them
 */
export function sentFor({ key, type }: SourceField, entries: [name: string, value: string][]): string[] {
  const own = entries.filter(([name]) => name === key).map(([, value]) => value);
  const parts = FIELD_PARTS[type];
  if (own.length > 0 || !parts) return own;
  const values = parts.map((part) => entries.find(([name]) => name === `${key}.${part}`)?.[1]);
  if (values.every((value) => value === undefined)) return [];
  const lines = values.map((value) => (value ?? '').replace(/\s+/g, ' ').trim());
  if (lines.every((text) => text === '')) return [''];
  if (type !== 'person name') return [lines.join('\n')];
  const [given = '', family = ''] = lines;
  return [family === '' ? given : `${family}, ${given}`];
}

const UNTICKED = new Set(['', '0', 'false', 'no', 'off']);

/**
 * Whether a box was ticked. A form often sends a hidden "0" beside the box's own value, so that an unticked one says
 * something too: any word for yes counts, wherever it stands.
 */
export const isTicked = (sent: string[]): boolean => sent.some((text) => !UNTICKED.has(text.trim().toLowerCase()));

function parseChoice(field: SourceField, sent: string[]): Result<FieldValue> {
  const chosen = [...new Set(sent.map((text) => text.trim()).filter((text) => text !== ''))];
  const unknown = chosen.find((text) => !field.options.includes(text));
  if (unknown !== undefined) return bad(`"${unknown.slice(0, 60)}" is not one of the answers.`);
  if (field.required && chosen.length === 0) return bad('Choose an answer.');
  if (field.several) return good(chosen);
  return chosen.length > 1 ? bad('Choose one answer only.') : good(chosen[0] ?? '');
}

/** Whether a value holds nothing: empty text, no choices. An unticked box is an answer, not nothing. */
export function isEmpty(value: FieldValue | undefined): boolean {
  return value === undefined || value === '' || (Array.isArray(value) && value.length === 0);
}

/** A value in words, for people. */
export const printValue = (value: FieldValue | undefined): string => inWords(value);
