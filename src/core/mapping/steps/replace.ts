import { good } from '../../result.ts';
import { printValue } from '../../values/index.ts';
import { step } from './step.ts';

const WHERE = ['everywhere', 'the first time'] as const;
const CAPITALS = ['count', 'do not count'] as const;

export const replace = step({
  help: 'finds a text in it, and puts another in its place',
  takes: ['text'],
  gives: 'text',
  options: {
    find: { kind: 'text', label: 'Find', preset: '' },
    by: { kind: 'text', label: 'Replace by', preset: '' },
    where: { kind: 'choice', label: 'Replace it', preset: 'everywhere', of: WHERE },
    capitals: { kind: 'choice', label: 'Capitals', preset: 'count', of: CAPITALS },
  },
  examples: [
    { from: 'a-b-c', options: { find: '-', by: '/' }, to: 'a/b/c' },
    { from: 'a-b-c', options: { find: '-', by: '/', where: 'the first time' }, to: 'a/b-c' },
    { from: 'Moon MOON', options: { find: 'moon', by: '$&', capitals: 'do not count' }, to: '$& $&' },
  ],
  say: ({ find, by }) => `"${find}" → "${by}"`,
  apply: (value, { find, by, where, capitals }) => {
    const text = printValue(value);
    if (find === '') return good(text);
    const flags = `u${where === 'everywhere' ? 'g' : ''}${capitals === 'count' ? '' : 'i'}`;
    const sought = new RegExp(find.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&'), flags);
    return good(text.replace(sought, () => by));
  },
});
