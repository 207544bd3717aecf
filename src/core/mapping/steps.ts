import { type FieldValue, printValue } from '../values/index.ts';

/** One transformation of a value on its way. */
export const STEPS = ['trim', 'lower-case', 'first name', 'last name', 'yes/no to 1/0'] as const;
export type Step = (typeof STEPS)[number];

/** What each step does, in the interface's words. */
export const STEP_HELP: Record<Step, string> = {
  trim: 'takes off blanks at both ends and doubled blanks inside',
  'lower-case': 'turns capitals into small letters',
  'first name': 'takes the first word of a full name',
  'last name': 'takes what follows the first word of a full name',
  'yes/no to 1/0': 'turns yes, true or a tick into 1, and no, false or an empty box into 0',
};

const YES = new Set(['yes', 'true', '1', 'on', 'y']);
const NO = new Set(['no', 'false', '0', 'off', 'n', '']);

/** Applies one step. Lists go through each step item by item; a step that does not fit a value leaves it as it is. */
export function applyStep(step: Step, value: FieldValue): FieldValue {
  if (step === 'yes/no to 1/0') return yesNoToFigure(value);
  if (Array.isArray(value))
    return value.every((item) => typeof item === 'string') ? value.map((item) => applyToText(step, item)) : value;
  return typeof value === 'string' ? applyToText(step, value) : value;
}

function applyToText(step: Exclude<Step, 'yes/no to 1/0'>, text: string): string {
  switch (step) {
    case 'trim':
      return squeeze(text);
    case 'lower-case':
      return text.toLowerCase();
    case 'first name':
      return squeeze(text).split(' ')[0] ?? '';
    case 'last name':
      return squeeze(text).split(' ').slice(1).join(' ');
    default:
      return step satisfies never;
  }
}

const squeeze = (text: string) => text.trim().replace(/\s+/gu, ' ');

function yesNoToFigure(value: FieldValue): FieldValue {
  const word = printValue(value).trim().toLowerCase();
  if (YES.has(word)) return '1';
  return NO.has(word) ? '0' : value;
}
