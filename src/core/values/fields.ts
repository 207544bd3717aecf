import { bad, good, type Result } from '../result.ts';
import { parseEmail } from './email.ts';
import { inWords, TYPE_NAMES, typeOf, type FieldValue, type TypeName } from './registry.ts';
import { UNKNOWN_MANNER } from './type.ts';
import type { FileValue } from './types/file.ts';
import { numberOf } from './types/phone.ts';
import { MEMBERSHIP_PARTS } from './types/membership.ts';
import { NAME_PARTS } from './types/personName.ts';
import { ADDRESS_PARTS } from './types/postalAddress.ts';
import { LINE_LIMIT, TEXT_LIMIT } from './types/text.ts';

/** Fields of a source hold what any field holds. */
export const FIELD_TYPES = TYPE_NAMES;

/**
 * How a value is entered, apart from what it is. usual: by the control that belongs to its type. buttons: one button an
 * answer. pictures: one picture an answer. search: one types to find an answer among many. stars, scale: a number is one of a few steps. country: a telephone number
 * with its country beside it. hidden: visitors do not see it; the page sets it, or it holds what it holds at first.
 */
export const WIDGETS = ['usual', 'buttons', 'pictures', 'search', 'stars', 'scale', 'country', 'hidden'] as const;
export type Widget = (typeof WIDGETS)[number];

/** The whole numbers of a scale, and what its ends mean; '' for nothing. */
export interface Range {
  from: number;
  to: number;
  low: string;
  high: string;
}

export const PLAIN_RANGE: Range = { from: 1, to: 5, low: '', high: '' };

/** The widgets by which values of a type can be entered. */
export function widgetsOf(type: TypeName): Widget[] {
  switch (type) {
    case 'yes/no':
      return ['usual', 'buttons', 'hidden'];
    case 'choice':
      return ['usual', 'buttons', 'pictures', 'search', 'hidden'];
    case 'number':
      return ['usual', 'stars', 'scale', 'hidden'];
    case 'phone':
      return ['usual', 'country', 'hidden'];
    case 'several choices':
      return ['usual', 'pictures'];
    case 'file':
    case 'person name':
    case 'postal address':
    case 'membership':
      return ['usual'];
    default:
      return ['usual', 'hidden'];
  }
}

/** How much of a line a field takes, where there is room. */
export const WIDTHS = ['full', 'half', 'third'] as const;
export type Width = (typeof WIDTHS)[number];

/**
 * Which of two values of a contact is the present one. first: what is known stays, and only gaps are filled. most trusted:
 * the one whose source is trusted more, and the latest where both are trusted alike.
 */
export const KEEP_RULES = ['latest', 'first', 'longest', 'most trusted'] as const;
export type KeepRule = (typeof KEEP_RULES)[number];

/** How far what a source says of people is trusted, beside what others say of them; the least first. */
export const TRUSTS = ['less', 'usual', 'more'] as const;
export type Trust = (typeof TRUSTS)[number];

/** The inputs of a field that is entered in parts: what they are called beside the field's own name, as in `home.street`. */
export const FIELD_PARTS: Partial<Record<TypeName, readonly string[]>> = {
  'person name': NAME_PARTS,
  'postal address': ADDRESS_PARTS,
  membership: MEMBERSHIP_PARTS,
};

/** One field of a source. */
export interface SourceField {
  /** Outlives renaming: values, lines and rules are kept under it. */
  id: string;
  /** Its name in the HTML, and in what is posted. */
  key: string;
  /** Where it stands in a nested payload: a JSONPath (RFC 9535); '' when under its name. */
  path: string;
  label: string;
  /** Whether the label is seen; it is read aloud in any case. */
  labelShown: boolean;
  type: TypeName;
  widget: Widget;
  required: boolean;
  /** The answers of a choice; of a file, the media types that are taken, such as image/* (none: any). */
  options: string[];
  /** Addresses of the pictures of the answers, in their order; '' for an answer without one. */
  pictures: string[];
  /** Of a number that is entered by steps; null for the usual ones. */
  range: Range | null;
  help: string;
  /** What is said instead of our own words when what was entered cannot be taken; '' for our own. */
  errorText: string;
  placeholder: string;
  width: Width;
  /** What it holds before anybody enters anything. */
  preset: string;
  /** A token of HTML's autofill, such as organization; '' for what its type and meaning say. */
  autocomplete: string;
  /** Which value of the contact it is: email, first_name, last_name, full_name, another name, or '' for none. */
  keepAs: string;
  /** By which it becomes that value, where another is known already. */
  keepRule: KeepRule;
}

/** A field that asks for nothing but a value of its type. */
export const plainField = (key: string, type: TypeName): SourceField => ({
  id: key,
  key,
  path: '',
  label: key,
  labelShown: true,
  type,
  widget: 'usual',
  required: false,
  options: [],
  pictures: [],
  range: null,
  help: '',
  errorText: '',
  placeholder: '',
  width: 'full',
  preset: '',
  autocomplete: '',
  keepAs: '',
  keepRule: 'latest',
});

/** Whether a field is a box that is ticked for yes. */
export const isTick = ({ type, widget }: Pick<SourceField, 'type' | 'widget'>): boolean =>
  type === 'yes/no' && widget === 'usual';

/**
 * Reads what a form sent for one field.
 * @param sent the values under the field's name, in order; an absent field sends none (an unticked box)
 */
export function parseFieldValue(field: SourceField, sent: string[]): Result<FieldValue> {
  const read = readFieldValue(field, sent);
  return read.ok || field.errorText === '' ? read : bad(field.errorText);
}

function readFieldValue(field: SourceField, sent: string[]): Result<FieldValue> {
  // Before anything is looked for in it: what is longer is no such value, and only keeps the reader busy.
  const limit = field.type === 'long text' || field.type === 'list of records' ? TEXT_LIMIT : LINE_LIMIT;
  if (sent.some((text) => text.length > limit)) return bad(`This is longer than ${limit} characters.`);
  if (isTick(field)) return field.required && !isTicked(sent) ? bad('Tick this box to go on.') : good(isTicked(sent));
  const first = sent[0] ?? '';
  const written = field.widget === 'hidden' && first.trim() === '' ? field.preset : first;
  switch (field.type) {
    case 'choice':
    case 'several choices':
      return parseChoice(field, field.widget === 'hidden' ? [written] : sent);
    case 'email':
      return written.trim() === '' && !field.required ? good('') : parseEmail(written);
    case 'number':
      return isStepped(field) && written.trim() !== ''
        ? parseStep(field.range ?? PLAIN_RANGE, written)
        : readOther(field, written);
    default:
      return readOther(field, written);
  }
}

/** Whether a number is one of a few steps. */
const isStepped = ({ widget }: SourceField): boolean => widget === 'stars' || widget === 'scale';

function parseStep({ from, to }: Range, written: string): Result<FieldValue> {
  const step = Number(written);
  return Number.isInteger(step) && step >= from && step <= to ? good(step) : bad(`Choose from ${from} to ${to}.`);
}

function readOther(field: SourceField, written: string): Result<FieldValue> {
  if (written.trim() !== '') return typeOf(field.type).parse(written, UNKNOWN_MANNER);
  return field.required ? bad(neededMessage(field)) : good('');
}

/** What is said of a required field that is empty. */
export const neededMessage = ({ label, type }: Pick<SourceField, 'label' | 'type'>): string =>
  type === 'choice' || type === 'several choices' || type === 'yes/no'
    ? 'Choose an answer.'
    : /[.?!:]$/.test(label)
      ? 'This is needed.'
      : `${label} is needed.`;

/**
 * What a form sent for a field: under its name, or, where it is entered in parts, under the names of those.
 * @returns the texts in order; parts are put together as their type reads them
 */
export function sentFor(
  { key, type, widget, options }: SourceField,
  entries: [name: string, value: string][],
): string[] {
  const own = entries.filter(([name]) => name === key).map(([, value]) => value);
  if (own.length === 0 && type === 'list of records') return rowsIn(key, options, entries);
  if (own.length === 0 && type === 'phone' && widget === 'country') {
    const part = (name: string) => entries.find(([one]) => one === `${key}.${name}`)?.[1];
    const number = part('number');
    return number === undefined ? [] : [numberOf(number, part('country') ?? '')];
  }
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

/** Takes a file for a field, unless it is of a kind that the field does not take. */
export function takesFile({ options }: SourceField, value: FileValue): Result<FieldValue> {
  const isTaken = options.some((kind) =>
    kind.endsWith('/*') ? value.mediaType.startsWith(kind.slice(0, -1)) : value.mediaType === kind,
  );
  return isTaken || options.length === 0
    ? good(value)
    : bad(`"${value.name}" is ${value.mediaType}, which is not taken here; send ${options.join(' or ')}.`);
}

/** The rows of a list that were filled in, as the JSON of its records: cells are named by row and column, from 0. */
function rowsIn(key: string, columns: string[], entries: [name: string, value: string][]): string[] {
  const rows = new Map<string, Record<string, string>>();
  for (const [name, value] of entries) {
    const [row, at] = name.startsWith(`${key}.`) ? name.slice(key.length + 1).split('.') : [];
    const column = columns[Number(at)];
    if (row === undefined || column === undefined || value.trim() === '') continue;
    rows.set(row, { ...rows.get(row), [column]: value.trim() });
  }
  return rows.size === 0 ? [] : [JSON.stringify([...rows.values()])];
}

const UNTICKED = new Set(['', '0', 'false', 'no', 'off']);

/**
 * Whether a box was ticked. A form often sends a hidden "0" beside the box's own value, so that an unticked one says
 * something too: any word for yes counts, wherever it stands.
 */
export const isTicked = (sent: string[]): boolean => sent.some((text) => !UNTICKED.has(text.trim().toLowerCase()));

/** Takes the answers that were chosen, or says what is wrong with them. */
export function parseChoice(field: SourceField, sent: string[]): Result<FieldValue> {
  const chosen = [...new Set(sent.map((text) => text.trim()).filter((text) => text !== ''))];
  const unknown = chosen.find((text) => !field.options.includes(text));
  if (unknown !== undefined) return bad(`"${unknown.slice(0, 60)}" is not one of the answers.`);
  if (field.required && chosen.length === 0) return bad(neededMessage(field));
  if (field.type === 'several choices') return good(chosen);
  return chosen.length > 1 ? bad('Choose one answer only.') : good(chosen[0] ?? '');
}

/** The answers that a field can have, as they come; none where anything can come. */
export function answersOf({ type, options }: Pick<SourceField, 'type' | 'options'>): string[] {
  if (type === 'yes/no') return ['yes', 'no'];
  return type === 'choice' || type === 'several choices' ? options : [];
}

/** Whether a value holds nothing: empty text, no choices. An unticked box is an answer, not nothing. */
export function isEmpty(value: FieldValue | undefined): boolean {
  return value === undefined || value === '' || (Array.isArray(value) && value.length === 0);
}

/** A value in words, for people. */
export const printValue = (value: FieldValue | undefined): string => inWords(value);
