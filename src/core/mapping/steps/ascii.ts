import slugify from '@sindresorhus/slugify';
import transliterate from '@sindresorhus/transliterate';
import { bad, good, type Result } from '../../result.ts';
import type { FieldValue } from '../../values/index.ts';
import { lineOf, step } from './step.ts';

/** By the habits of languages (ü becomes ue); what has no Latin letters, such as Japanese, cannot be written so. */
function inAscii(value: FieldValue): Result<string> {
  const written = lineOf(value);
  const ascii = transliterate(written).replace(/[^\x20-\x7E]/g, '');
  return ascii.trim() === '' ? bad(`"${written}" cannot be written in Latin letters`) : good(ascii);
}

export const plainAscii = step({
  help: 'writes it without accents and in Latin letters only',
  takes: ['text'],
  gives: 'text',
  options: {},
  examples: [
    { from: 'Zoë Müller-Ångström', to: 'Zoe Mueller-Angstroem' },
    { from: 'Ελένη', to: 'Eleni' },
  ],
  apply: inAscii,
});

export const slug = step({
  help: 'writes it as in the address of a page: small letters, digits and hyphens',
  takes: ['text'],
  gives: 'text',
  options: {},
  examples: [{ from: 'Open Night – Zoë’s talk!', to: 'open-night-zoes-talk' }],
  apply: (value) => {
    const ascii = inAscii(value);
    return ascii.ok ? good(slugify(ascii.value, { decamelize: false })) : ascii;
  },
});
