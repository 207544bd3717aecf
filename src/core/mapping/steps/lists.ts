import { good } from '../../result.ts';
import { printValue, shapeOf } from '../../values/index.ts';
import { step } from './step.ts';

export const joinList = step({
  help: 'makes one text of several',
  takes: ['several choices'],
  gives: 'text',
  options: { by: { kind: 'text', label: 'Between them', preset: ', ' } },
  offers: [
    { name: 'join by commas', options: { by: ', ' } },
    { name: 'join by semicolons', options: { by: ';' } },
  ],
  examples: [{ from: ['Moon', 'Comets'], to: 'Moon, Comets' }],
  say: ({ by }) => `join by "${by}"`,
  apply: (value, { by }) => good(Array.isArray(value) ? value.map(String).join(by) : printValue(value)),
});

export const splitList = step({
  help: 'makes several texts of one',
  takes: ['text'],
  gives: 'several choices',
  options: { by: { kind: 'text', label: 'Between them', preset: ',' } },
  offers: [
    { name: 'split at commas', options: { by: ',' } },
    { name: 'split at semicolons', options: { by: ';' } },
  ],
  examples: [{ from: 'Moon, Comets,, Moon', to: ['Moon', 'Comets'] }],
  say: ({ by }) => `split at "${by}"`,
  apply: (value, { by }) => {
    const text = printValue(value);
    const parts = by === '' ? [text] : text.split(by);
    return good([...new Set(parts.map((part) => part.trim()))].filter((part) => part !== ''));
  },
});

export const count = step({
  help: 'counts the answers, or the records of a list',
  takes: ['several choices', 'list of records'],
  takesEmpty: true,
  gives: 'number',
  options: {},
  examples: [
    { from: ['Moon', 'Comets'], to: 2 },
    { from: [{ item: 'Star chart' }], to: 1 },
  ],
  apply: (value) => good(shapeOf(value) === 'text' ? 0 : (value as unknown[]).length),
});
