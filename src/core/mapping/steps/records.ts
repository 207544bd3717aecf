import { Big } from 'big.js';
import { TEST_NAMES, TESTS } from '../../conditions/index.ts';
import { bad, good } from '../../result.ts';
import { inWords, isListOfRecords, type FieldValue } from '../../values/index.ts';
import { decimalOf } from './money.ts';
import { said, step } from './step.ts';

/** What stands in a record under a name, as a value; '' for nothing. */
function cellOf(record: Record<string, unknown>, column: string): FieldValue {
  const held = Object.hasOwn(record, column) ? record[column] : undefined;
  if (typeof held === 'string' || typeof held === 'number' || typeof held === 'boolean') return held;
  return held === undefined || held === null ? '' : JSON.stringify(held);
}

const recordsOf = (value: FieldValue) => (isListOfRecords(value) ? value : []);

const ORDER_LINES = [
  { item: 'Star chart', count: 2, price: '4.10' },
  { item: 'Red torch', count: 1, price: '7.20' },
];

export const sum = step({
  help: 'adds up a column of a list of records',
  takes: ['list of records'],
  gives: 'number',
  options: { column: { kind: 'text', label: 'Column', preset: '' } },
  examples: [{ from: ORDER_LINES, options: { column: 'price' }, to: 11.3 }],
  say: ({ column }) => `sum of ${column}`,
  apply: (value, { column }) => {
    let total = new Big(0);
    for (const record of recordsOf(value)) {
      const cell = cellOf(record, column);
      if (cell === '') continue;
      const number = decimalOf(cell);
      if (!number.ok) return bad(`cannot be added up: ${number.issue}`);
      total = total.plus(number.value);
    }
    return good(total.toNumber());
  },
});

export const column = step({
  help: 'takes one column of a list of records, each value once',
  takes: ['list of records'],
  gives: 'several choices',
  options: { column: { kind: 'text', label: 'Column', preset: '' } },
  examples: [{ from: ORDER_LINES, options: { column: 'item' }, to: ['Star chart', 'Red torch'] }],
  say: (options) => `column ${options.column}`,
  apply: (value, options) => {
    const cells = recordsOf(value).map((record) => inWords(cellOf(record, options.column)));
    return good([...new Set(cells)].filter((cell) => cell !== ''));
  },
});

const WHICH = ['first', 'last'] as const;

export const pick = step({
  help: 'takes the first or the last of several answers, or of a column of records',
  takes: ['several choices', 'list of records'],
  gives: 'text',
  options: {
    which: { kind: 'choice', label: 'Take the', preset: 'first', of: WHICH },
    column: { kind: 'text', label: 'Column, of a list of records', preset: '' },
  },
  offers: WHICH.map((which) => ({ name: `${which} of several`, options: { which } })),
  examples: [
    { from: ['Moon', 'Comets'], to: 'Moon' },
    { from: ORDER_LINES, options: { which: 'last', column: 'item' }, to: 'Red torch' },
  ],
  say: (options) => said(options.which, options.column),
  apply: (value, options) => {
    const items = isListOfRecords(value)
      ? value.map((record) => inWords(cellOf(record, options.column)))
      : Array.isArray(value)
        ? value.map(String)
        : [inWords(value)];
    return good((options.which === 'first' ? items[0] : items.at(-1)) ?? '');
  },
});

export const filter = step({
  help: 'keeps only those answers or records for which something is true',
  takes: ['several choices', 'list of records'],
  gives: (_, came) => came,
  options: {
    column: { kind: 'text', label: 'Column, of a list of records', preset: '' },
    test: { kind: 'choice', label: 'Keep what', preset: 'is', of: TEST_NAMES },
    value: { kind: 'text', label: 'Compared with', preset: '' },
  },
  examples: [
    { from: ['Moon', 'Comets'], options: { test: 'is not', value: 'Moon' }, to: ['Comets'] },
    {
      from: ORDER_LINES,
      options: { column: 'count', test: 'is more than', value: '1' },
      to: [{ item: 'Star chart', count: 2, price: '4.10' }],
    },
  ],
  say: (options) => said('only', options.column, options.test, options.value),
  apply: (value, options, { now }) => {
    const keeps = (given: FieldValue) => {
      if (options.test === 'is empty') return given === '';
      if (options.test === 'is filled') return given !== '';
      return given !== '' && TESTS[options.test].holds(given, options.value, now) === true;
    };
    if (isListOfRecords(value)) return good(value.filter((record) => keeps(cellOf(record, options.column))));
    return good(
      Array.isArray(value) ? value.filter((one): one is string => typeof one === 'string' && keeps(one)) : value,
    );
  },
});
