import { bad, good, type Result } from '../result.ts';
import { type FieldValue, parseEmail, printValue } from '../values/index.ts';

export const DESTINATION_FIELD_TYPES = ['text', 'email', 'number', 'yes/no', 'choice', 'date', 'phone'] as const;
export type DestinationFieldType = (typeof DESTINATION_FIELD_TYPES)[number];

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
}

/** What is sent to the other system: text, a number or a truth value. */
export type SentValue = string | number | boolean;

/** Puts a value into the form that the destination's field takes, or says why it cannot be. */
export function fitValue(field: DestinationField, value: FieldValue): Result<SentValue> {
  const text = printValue(value).trim();
  switch (field.type) {
    case 'email':
      return parseEmail(text);
    case 'number': {
      if (typeof value === 'boolean') return bad('takes a number, and this is a tick. Add the step "yes/no to 1/0".');
      const figure = Number(text);
      return Number.isFinite(figure) ? good(figure) : bad(`takes a number, and "${text}" is none.`);
    }
    case 'yes/no':
      if (typeof value === 'boolean') return good(value);
      if (/^(1|true|yes|on)$/i.test(text)) return good(true);
      if (/^(0|false|no|off)$/i.test(text)) return good(false);
      return bad(`takes yes or no, and "${text}" is neither.`);
    case 'choice':
      return field.choices.includes(text)
        ? good(text)
        : bad(`takes one of ${field.choices.join(', ')}; "${text}" is not among them.`);
    case 'date':
      return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text))
        ? good(text)
        : bad(`takes a date like 2026-05-31, and "${text}" is none.`);
    case 'phone':
    case 'text':
      if (typeof value === 'boolean') return good(value ? 'yes' : 'no');
      return field.maxLength !== null && text.length > field.maxLength
        ? bad(`takes at most ${field.maxLength} characters, and this has ${text.length}.`)
        : good(text);
    default:
      return field.type satisfies never;
  }
}
