import { FILLERS, GLOSSARY, type Meaning } from './glossary.ts';

/** A text without case, width and accents, so that it can be compared in any script. */
export const folded = (text: string): string =>
  text
    .normalize('NFKD')
    // The marks of kana stand for other sounds: が is not か.
    .replace(/(?![\u3099\u309A])\p{M}/gu, '')
    .normalize('NFC')
    .toLowerCase()
    .replaceAll('ß', 'ss')
    .replaceAll('ł', 'l')
    .replaceAll('ø', 'o')
    .replaceAll('œ', 'oe')
    .replaceAll('æ', 'ae');

const UNSPACED = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}ー]/u;

/** The words of a name, folded: parted at blanks, signs, and where small letters meet capitals. */
export const wordsOf = (name: string): string[] =>
  folded(name.replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2').replace(/(\p{L})(\p{N})/gu, '$1 $2'))
    .split(/[^\p{L}\p{N}°]+/u)
    .filter((word) => word !== '');

const fillers = new Set([...FILLERS].map(folded));
const isFiller = (word: string): boolean => fillers.has(word);

/** Words that are joined, as glossary terms are looked up: without what says nothing. */
const termOf = (words: string[]): string => words.filter((word) => !isFiller(word)).join(' ');

/** What each term can mean. Terms of fillers only, such as "a", are kept as they are. */
const MEANINGS = new Map<string, Meaning[]>();
/** Terms that have fillers in them, whole. */
const WHOLE = new Map<string, Meaning[]>();

const learn = (into: Map<string, Meaning[]>, term: string, meaning: Meaning): void => {
  for (const key of new Set([term, alike(term)])) into.set(key, [...new Set([...(into.get(key) ?? []), meaning])]);
};
const TERMS = GLOSSARY.flatMap(([meaning, terms]) =>
  terms.map((term) => {
    const words = wordsOf(term);
    return { meaning, whole: words.join(' '), bare: termOf(words) };
  }),
);
for (const { meaning, whole, bare } of TERMS) if (bare === whole || bare === '') learn(MEANINGS, whole, meaning);
const OWN = new Set(MEANINGS.keys());
for (const { meaning, whole, bare } of TERMS) {
  if (bare === whole || bare === '') continue;
  learn(WHOLE, whole, meaning);
  // What is left of "voor en achternaam" without what says nothing is "achternaam", which is a term with a meaning of its own.
  if (!OWN.has(bare)) learn(MEANINGS, bare, meaning);
}

const LONGEST_TERM = Math.max(...[...MEANINGS.keys()].map((term) => term.split(' ').length));
const LONGEST_WHOLE = Math.max(...[...WHOLE.keys()].map((term) => term.split(' ').length));
const UNSPACED_TERMS = [...MEANINGS.keys()].filter((term) => UNSPACED.test(term)).sort((a, b) => b.length - a.length);

/** Umlauts as they are written where there are none: ö is oe. */
function alike(term: string): string {
  return term.replace(/ae/g, 'a').replace(/oe/g, 'o').replace(/ue/g, 'u');
}

/** What a term can mean, also where it is written without umlauts, or as one where the glossary has many. */
const meaningsOf = (term: string): Meaning[] | undefined =>
  MEANINGS.get(term) ?? MEANINGS.get(alike(term)) ?? (term.length >= LONG_ENOUGH ? numberOf(term) : undefined);

const LONG_ENOUGH = 5;
const numberOf = (term: string): Meaning[] | undefined =>
  term.endsWith('s') ? MEANINGS.get(term.slice(0, -1)) : MEANINGS.get(`${term}s`);

/** One piece of a name: a term of the glossary with all that it can mean, or a word that stands for itself. */
export interface Piece {
  word: string;
  meanings: Meaning[];
}

/**
 * A name taken to pieces: the longest terms first, compounds at their joints ("Bestellnummer" is "Bestell" and "Nummer"), scripts
 * without blanks by their terms.
 */
export function piecesOf(name: string): Piece[] {
  const known = PIECES.get(name);
  if (known) return known;
  const words = wordsOf(name).flatMap((word) => (UNSPACED.test(word) ? unspaced(word) : [word]));
  const pieces: Piece[] = [];
  let from = 0;
  for (let at = 0; at < words.length;) {
    const length = longestIn(WHOLE, words, at);
    const word = words.slice(at, at + length).join(' ');
    at += Math.max(1, length);
    if (length === 0) continue;
    pieces.push(...piecesBetween(words.slice(from, at - length)), { word, meanings: WHOLE.get(word) ?? [] });
    from = at;
  }
  pieces.push(...piecesBetween(words.slice(from)));
  PIECES.set(name, pieces);
  return pieces;
}

/** The pieces of words among which no whole term with fillers stands. */
function piecesBetween(all: string[]): Piece[] {
  const words = all.filter((word) => !isFiller(word));
  const pieces: Piece[] = [];
  for (let at = 0; at < words.length;) {
    const length = longestTerm(words, at);
    const word = words.slice(at, at + Math.max(1, length)).join(' ');
    if (length > 0) pieces.push({ word, meanings: meaningsOf(word) ?? [] });
    else pieces.push(...(compound(word) ?? [{ word, meanings: [] }]));
    at += Math.max(1, length);
  }
  return pieces;
}

function longestIn(terms: Map<string, unknown>, words: string[], at: number): number {
  for (let length = Math.min(LONGEST_WHOLE, words.length - at); length > 1; length -= 1)
    if (terms.has(words.slice(at, at + length).join(' '))) return length;
  return 0;
}

const PIECES = new Map<string, Piece[]>();

function longestTerm(words: string[], at: number): number {
  for (let length = Math.min(LONGEST_TERM, words.length - at); length > 0; length -= 1)
    if (meaningsOf(words.slice(at, at + length).join(' '))) return length;
  return 0;
}

const SHORTEST_PART = 3;
const JOINTS = ['', 's', 'n', 'en', 'es', 'er'];

/** The parts of a compound, all of them in the glossary; null where it is none. */
function compound(word: string): Piece[] | null {
  for (let at = word.length - SHORTEST_PART; at >= SHORTEST_PART; at -= 1) {
    const head = word.slice(0, at);
    const tail = word.slice(at);
    const last = meaningsOf(tail);
    if (!last) continue;
    for (const joint of JOINTS) {
      if (!head.endsWith(joint) || head.length - joint.length < SHORTEST_PART) continue;
      const stem = joint === '' ? head : head.slice(0, -joint.length);
      const meanings = meaningsOf(stem);
      if (meanings)
        return [
          { word: stem, meanings },
          { word: tail, meanings: last },
        ];
    }
  }
  return null;
}

/** A word of a script that has no blanks, by the longest terms in it; what is left between them stands for itself. */
function unspaced(word: string): string[] {
  const found: string[] = [];
  let rest = '';
  const flush = () => {
    // Hiragana alone ties words together.
    if (rest !== '' && !/^\p{Script=Hiragana}+$/u.test(rest)) found.push(rest);
    rest = '';
  };
  for (let at = 0; at < word.length;) {
    const term = UNSPACED_TERMS.find((one) => word.startsWith(one, at));
    if (term) {
      flush();
      found.push(term);
      at += term.length;
    } else {
      rest += word[at] ?? '';
      at += 1;
    }
  }
  flush();
  return found;
}
