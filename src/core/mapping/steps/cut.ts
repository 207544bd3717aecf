import { good } from '../../result.ts';
import { printValue } from '../../values/index.ts';
import { step } from './step.ts';

export const cut = step({
  help: 'cuts what is too long, at the end of a word',
  takes: ['text'],
  gives: 'text',
  options: {
    length: { kind: 'number', label: 'At most so many characters', preset: 100, least: 1, most: 20_000 },
    end: { kind: 'text', label: 'What is cut ends in', preset: '' },
  },
  examples: [
    { from: 'Open night at the observatory', options: { length: 16 }, to: 'Open night at' },
    { from: 'Open night at the observatory', options: { length: 16, end: '…' }, to: 'Open night at…' },
    { from: 'Observatory', options: { length: 5 }, to: 'Obser' },
  ],
  say: ({ length }) => `cut to ${length}`,
  apply: (value, { length, end }) => {
    const text = printValue(value);
    if (text.length <= length) return good(text);
    return good(atWord(text, Math.max(0, length - end.length)) + end.slice(0, length));
  },
});

const SIGNS = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** What fits into a length (UTF-16 units), to the end of a word where it has one; no sign is cut in two. */
function atWord(text: string, length: number): string {
  let kept = '';
  for (const { segment } of SIGNS.segment(text)) {
    if (kept.length + segment.length > length) break;
    kept += segment;
  }
  const isAtEnd = /^\s/.test(text.slice(kept.length));
  const atBlank = isAtEnd ? kept : kept.replace(/\s\S*$/, '');
  return atBlank.trimEnd();
}
