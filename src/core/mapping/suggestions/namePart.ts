import { piecesOf } from './words.ts';

/** Which part of a name a label asks for, in any language of the glossary; null where it may ask for another, or for the whole. */
export function namePartOf(label: string): 'first name' | 'last name' | null {
  const [piece, ...others] = piecesOf(label);
  const [meaning, ...rivals] = piece?.meanings ?? [];
  if (others.length > 0 || rivals.length > 0) return null;
  return meaning === 'first name' || meaning === 'last name' ? meaning : null;
}
