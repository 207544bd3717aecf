import { good } from '../../result.ts';
import { lineOf, step } from './step.ts';

export const trim = step({
  help: 'takes off blanks at both ends and doubled blanks inside',
  takes: ['text'],
  lets: true,
  gives: 'text',
  options: {},
  examples: [{ from: '  Mara   Quill ', to: 'Mara Quill' }],
  apply: (value) => good(lineOf(value)),
});
