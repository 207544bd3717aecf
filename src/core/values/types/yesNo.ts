import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

const YES = new Set(['1', 'true', 'yes', 'on', 'y', 'ja', 'oui', 'sí', 'si', 'sim', 'tak']);
const NO = new Set(['0', 'false', 'no', 'off', 'n', 'nein', 'non', 'não', 'nie', 'nee', 'nej']);

/** Yes or no. Nothing at all is no answer. */
export const yesNo: ValueType<boolean> = {
  parse: (written) => {
    const word = written.trim().toLowerCase();
    if (YES.has(word)) return good(true);
    return NO.has(word) ? good(false) : bad(`"${written.trim().slice(0, 40)}" is neither yes nor no.`);
  },
  print: (value) => (value ? 'yes' : 'no'),
  same: (a, b) => a === b,
  edgeCases: ['yes', 'no', '1', '0', 'TRUE'],
};
