import { bad, good } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** A language, by its tag (BCP 47) in its canonical form. Read also by the English name of one of two letters (ISO 639-1). */
export const language: ValueType<string> = {
  parse: (written) => {
    const typed = written.trim().replaceAll('_', '-');
    const byName = BY_NAME().get(typed.toLowerCase());
    if (byName) return good(byName);
    try {
      const [tag] = Intl.getCanonicalLocales(typed);
      // Well-formed is not enough: "english" would be a language of seven letters.
      if (tag && /^[a-z]{2,3}(-|$)/.test(tag) && ENGLISH.of(tag.split('-')[0] ?? '') !== tag.split('-')[0])
        return good(tag);
    } catch {
      // not well-formed: said below
    }
    return bad(`"${typed.slice(0, 40)}" is not a language, like "en" or "German".`);
  },
  print: (value, locale) =>
    locale === undefined ? value : (new Intl.DisplayNames(locale, { type: 'language' }).of(value) ?? value),
  same: (a, b) => a.toLowerCase() === b.toLowerCase(),
  edgeCases: ['en', 'pt-BR', 'German', 'zh-Hant-TW'],
};

const ENGLISH = new Intl.DisplayNames('en', { type: 'language', fallback: 'code' });
let byName: Map<string, string> | null = null;

/** English names of all languages that have a code of two letters. */
function BY_NAME(): Map<string, string> {
  if (byName) return byName;
  byName = new Map();
  const letters = Array.from('abcdefghijklmnopqrstuvwxyz');
  for (const first of letters)
    for (const second of letters) {
      const name = ENGLISH.of(first + second) ?? '';
      if (name !== first + second) byName.set(name.toLowerCase(), first + second);
    }
  return byName;
}
