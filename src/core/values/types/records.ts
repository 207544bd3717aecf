import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** One record of a list, such as a line item: plain JSON under names. */
export type JsonRecord = Record<string, unknown>;

/** Most records of one list. */
export const RECORDS_LIMIT = 200;

/** Several records of one shape, such as the line items of an order. Written, it is a JSON array of objects. */
export const listOfRecords: ValueType<JsonRecord[]> = {
  parse: (written) => {
    let read: unknown;
    try {
      read = JSON.parse(written);
    } catch {
      return bad('This is not a list of records.');
    }
    return readRecords(read);
  },
  print: (value, locale) => (locale === undefined ? JSON.stringify(value) : value.map(inOneLine).join('\n')),
  same: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  edgeCases: ['[{"name":"Star chart","count":2},{"name":"Red torch","count":1}]'],
};

/** Takes a value for a list of records, or says why it is none. */
export function readRecords(value: unknown) {
  if (!isListOfRecords(value)) return bad('This is not a list of records.');
  return value.length > RECORDS_LIMIT ? bad(`These are more than ${RECORDS_LIMIT} records.`) : good(value);
}

export const isListOfRecords = (value: unknown): value is JsonRecord[] =>
  Array.isArray(value) && value.every((one) => typeof one === 'object' && one !== null && !Array.isArray(one));

const inOneLine = (record: JsonRecord): string =>
  Object.entries(record)
    .map(([name, value]) => `${name}: ${partInWords(value)}`)
    .join(', ');

/** A part of a record; a sum, as shops write it, with its currency. */
function partInWords(value: unknown): string {
  if (typeof value !== 'object' || value === null) return String(value);
  if ('amount' in value && 'currency' in value && Object.keys(value).length === 2)
    return `${partInWords(value.amount)} ${partInWords(value.currency)}`;
  return JSON.stringify(value);
}
