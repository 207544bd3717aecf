import { bad, good } from '../../result.ts';
import { inWords, printValue } from '../../values/index.ts';
import { step } from './step.ts';

const YES = new Set(['yes', 'true', '1', 'on', 'y']);
const NO = new Set(['no', 'false', '0', 'off', 'n', '']);

export const yesNoWords = step({
  help: 'writes yes, true or a tick in one way, and no, false or an empty box in another',
  takes: ['yes/no', 'text'],
  takesEmpty: true,
  gives: 'text',
  options: {
    yes: { kind: 'text', label: 'Yes becomes', preset: '1' },
    no: { kind: 'text', label: 'No becomes', preset: '0' },
  },
  offers: [
    { name: 'yes/no to 1/0', options: { yes: '1', no: '0' } },
    { name: 'yes/no to true/false', options: { yes: 'true', no: 'false' } },
    { name: 'yes/no to Y/N', options: { yes: 'Y', no: 'N' } },
    { name: 'yes/no to two values', options: { yes: 'yes', no: 'no' } },
  ],
  examples: [
    { from: true, to: '1' },
    { from: 'off', options: { yes: 'member', no: 'guest' }, to: 'guest' },
  ],
  say: ({ yes, no }) => `yes/no to ${yes}/${no}`,
  apply: (value, { yes, no }) => {
    const word = printValue(value).trim().toLowerCase();
    if (YES.has(word)) return good(yes);
    return NO.has(word) ? good(no) : bad(`"${inWords(value)}" is neither yes nor no`);
  },
});
