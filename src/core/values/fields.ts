import { bad, good, type Result } from '../result.ts';
import { parseEmail } from './email.ts';
import { inWords, type FieldValue } from './registry.ts';

export const FIELD_TYPES = ['text', 'email', 'choice', 'tick', 'hidden'] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

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

const TEXT_LIMIT = 2000;

/**
 * Reads what a form sent for one field.
 * @param sent the values under the field's name, in order; an absent field sends none (an unticked box)
 */
export function parseFieldValue(field: SourceField, sent: string[]): Result<FieldValue> {
  const first = (sent[0] ?? '').trim();
  if (sent.some((text) => text.length > TEXT_LIMIT)) return bad(`This is longer than ${TEXT_LIMIT} characters.`);
  switch (field.type) {
    case 'tick':
      return field.required && !isTicked(sent) ? bad('Tick this box to go on.') : good(isTicked(sent));
    case 'email':
      if (first === '' && !field.required) return good('');
      return parseEmail(first);
    case 'choice':
      return parseChoice(field, sent);
    case 'hidden':
      return good(first === '' ? field.preset : first);
    case 'text':
      return first === '' && field.required ? bad(`${field.label} is needed.`) : good(first);
    default:
      return field.type satisfies never;
  }
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
