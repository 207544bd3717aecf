/** No word is kept longer. */
const LONGEST = 60;
/** Of a number, any part that begins at a digit is found that has at least so many. */
const LEAST_DIGITS = 4;

/** A text without capitals and accents (Unicode Standard Annex 15: compatibility decomposition, without its marks). */
export const folded = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** A name without capitals, accents and odd blanks, by which two are the same however they are written. */
export const foldedName = (name: string): string => folded(name).replace(/\s+/g, ' ').trim();

const partsOf = (text: string): string[] => text.split(/[^\p{L}\p{N}]+/u).filter(Boolean);

/**
 * The words by which a person is found: each part of the name, the address, what stands before and behind its @, and their parts,
 * and the number from any of its digits on. Whoever types the beginning of one finds them.
 */
export function searchWordsOf({ email, phone, name }: { email: string; phone: string; name: string }): string[] {
  const address = folded(email);
  const [local = '', domain = ''] = address.split('@');
  const digits = phone.replace(/\D/g, '');
  const words = [
    ...folded(name).split(/\s+/),
    ...partsOf(folded(name)),
    address,
    local,
    ...partsOf(local),
    domain,
    ...partsOf(domain),
    ...Array.from({ length: Math.max(0, digits.length - LEAST_DIGITS + 1) }, (_, at) => digits.slice(at)),
  ];
  return [...new Set(words.map((word) => word.slice(0, LONGEST)).filter(Boolean))];
}

/** What is searched for: beginnings of words, all of which have to be found. */
export function searchTermsOf(text: string): string[] {
  // A number is written in groups; its digits are one word.
  const asked = /^[+\d\s()/.-]+$/.test(text.trim()) ? text.replace(/\D/g, '') : folded(text).replace(/(^|\s)@/g, '$1');
  return [...new Set(asked.split(/\s+/).filter(Boolean))].map((term) => term.slice(0, LONGEST)).slice(0, 6);
}
