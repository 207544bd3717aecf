import { distance } from 'fastest-levenshtein';
import type { FormLanguage } from '../forms/index.ts';
import { folded } from '../identity/index.ts';
import { parseEmail, parseFieldValue, typeOf, type FieldValue, type SourceField } from '../values/index.ts';
import { YES_NO } from './yesNo.ts';

/** What was typed as a value, or that it was not understood. Nothing is guessed: what could be two things is neither. */
export type Understood = { ok: true; value: FieldValue } | { ok: false };

const NOT: Understood = { ok: false };
const is = (value: FieldValue): Understood => ({ ok: true, value });

/** Small letters, no accents, no signs. */
const plain = (text: string): string =>
  folded(text)
    .replace(/['’]/g, ' ')
    .replace(/[^\p{L}\p{N}\s]/gu, '')
    .replace(/\s+/g, ' ')
    .trim();

/** One of some answers as it was typed: also by its number, or with few slips of the keys where only one comes near. */
export function understandChoice(options: string[], typed: string): string | null {
  const said = plain(typed);
  if (said === '') return null;
  const same = options.filter((option) => plain(option) === said);
  if (same.length === 1) return same[0] ?? null;
  if (/^\d{1,2}$/.test(said) && !options.some((option) => /\d/.test(option))) return options[Number(said) - 1] ?? null;
  const near = options.filter((option) => {
    const meant = plain(option);
    return distance(meant, said) <= (meant.length >= 8 ? 2 : meant.length >= 4 ? 1 : 0);
  });
  if (near.length === 1) return near[0] ?? null;
  // "the letter please" says "letter", where no other answer is in it.
  const within = options.filter((option) => ` ${said} `.includes(` ${plain(option)} `));
  return within.length === 1 ? (within[0] ?? null) : null;
}

/** Yes or no as it was typed, in a language or in English; null where it is neither, or both. */
export function understandYesNo(typed: string, language: FormLanguage): boolean | null {
  const said = plain(typed);
  const first = said.split(' ')[0] ?? '';
  const says = (which: 'yes' | 'no'): boolean =>
    [language, 'en' as const].some((one) => {
      const words = YES_NO[one][which].map(plain);
      return words.includes(said) || words.includes(first);
    });
  // In the visitor's own language first: what is no in one may be yes in another.
  const own = YES_NO[language];
  if (own.yes.map(plain).includes(said)) return true;
  if (own.no.map(plain).includes(said)) return false;
  const [yes, no] = [says('yes'), says('no')];
  return yes === no ? null : yes;
}

/** What somebody typed for a field, as far as it can be told from the words around it. */
export function understand(field: SourceField, typed: string, language: FormLanguage): Understood {
  const text = typed.trim();
  if (text === '') return NOT;
  switch (field.type) {
    case 'email': {
      const found = text.split(/[\s,;<>()]+/).filter((word) => word.includes('@'));
      const [only] = found;
      const read = found.length === 1 && only !== undefined ? parseEmail(only.replace(/[.!?]+$/, '')) : null;
      return read?.ok ? is(read.value) : NOT;
    }
    case 'phone': {
      const found = text.match(/\+?[\d][\d\s()./-]{4,}\d/g) ?? [];
      const read = found.length === 1 ? typeOf('phone').parse(found[0], { locale: language, country: null }) : null;
      return read?.ok ? is(read.value) : NOT;
    }
    case 'number': {
      const found = text.match(/-?\d[\d.,]*/g) ?? [];
      const read =
        found.length === 1
          ? typeOf('number').parse(found[0].replace(/[.,]+$/, ''), { locale: language, country: null })
          : null;
      return read?.ok ? is(read.value) : NOT;
    }
    case 'yes/no': {
      const said = understandYesNo(text, language);
      return said === null ? NOT : is(said);
    }
    case 'choice': {
      const one = understandChoice(field.options, text);
      return one === null ? NOT : is(one);
    }
    case 'date': {
      const read = typeOf('date').parse(text, { locale: language, country: null });
      return read.ok ? is(read.value) : NOT;
    }
    default: {
      const read = parseFieldValue(field, [text]);
      return read.ok ? is(read.value) : NOT;
    }
  }
}
