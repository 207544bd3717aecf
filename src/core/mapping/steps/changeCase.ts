import { good } from '../../result.ts';
import { printValue } from '../../values/index.ts';
import { step } from './step.ts';

const FORMS = ['lower case', 'capitals', 'title case', 'sentence case'] as const;

export const changeCase = step({
  help: 'writes it in small letters, in capitals, or with capitals at the beginning of words or sentences',
  takes: ['text'],
  gives: 'text',
  options: {
    form: { kind: 'choice', label: 'Write it in', preset: 'lower case', of: FORMS },
    language: { kind: 'language', label: 'As it is written in', preset: '' },
  },
  offers: FORMS.map((form) => ({ name: form, options: { form } })),
  examples: [
    { from: 'MARA@B.Example', to: 'mara@b.example' },
    { from: 'istanbul', options: { form: 'capitals', language: 'tr' }, to: 'İSTANBUL' },
    { from: "mara O'NEILL-quill McAllister", options: { form: 'title case' }, to: "Mara O'Neill-Quill McAllister" },
    { from: 'SEE YOU THERE. BRING A TORCH!', options: { form: 'sentence case' }, to: 'See you there. Bring a torch!' },
  ],
  say: ({ form }) => form,
  apply: (value, { form, language }) => {
    const text = printValue(value);
    const locale = language === '' ? 'und' : language;
    switch (form) {
      case 'lower case':
        // Asking for a language costs ten times as much.
        return good(language === '' ? text.toLowerCase() : text.toLocaleLowerCase(locale));
      case 'capitals':
        return good(text.toLocaleUpperCase(locale));
      case 'title case':
        return good(text.replace(/[\p{L}\p{M}]+/gu, (word) => inTitle(word, locale)));
      case 'sentence case':
        return good(
          text
            .toLocaleLowerCase(locale)
            .replace(/(^|[.!?…]\s+)(\p{L})/gu, (_, before: string, first: string) => before + capital(first, locale)),
        );
      default:
        return form satisfies never;
    }
  },
});

/** A word that mixes small letters and capitals, such as McAllister, is written so on purpose. */
function inTitle(word: string, locale: string): string {
  const isMixed = /\p{Ll}/u.test(word) && /\p{Lu}/u.test(word);
  if (isMixed) return word;
  const [first = '', ...others] = Array.from(word);
  return capital(first, locale) + others.join('').toLocaleLowerCase(locale);
}

const capital = (letter: string, locale: string): string => letter.toLocaleUpperCase(locale);
