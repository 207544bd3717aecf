import { piecesOf } from './words.ts';

/** Whether words speak of agreeing to something, or of a letter: a tick may be anything else as well. */
export const speaksOfConsent = (words: string): boolean =>
  piecesOf(words).some(({ meanings }) => meanings.includes('opt in') || meanings.includes('newsletter'));
