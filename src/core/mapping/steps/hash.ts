import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { good } from '../../result.ts';
import { lineOf, step } from './step.ts';

export const hash = step({
  help: 'gives the SHA-256 of the address, without blanks and in small letters, for systems that match people by it',
  takes: ['text', 'email', 'phone'],
  gives: 'text',
  options: {},
  offers: [{ name: 'SHA-256 hash', options: {} }],
  examples: [
    {
      from: ' Mara@Pellam-Ridge.example ',
      to: '3a7f46ce9c9cdcebf2b517b55290c18376f1cff7a1ce330d1a1c3cb32c15c7dd',
    },
  ],
  say: () => 'SHA-256',
  apply: (value) => good(bytesToHex(sha256(utf8ToBytes(lineOf(value).toLowerCase())))),
});
