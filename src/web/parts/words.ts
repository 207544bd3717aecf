/** Several of a thing, by the plain rule of English: lists, kinds of record. */
export const plural = (word: string): string => word.replace(/^\S+/, (first) => `${first}s`);

/** A word as it begins a label. */
export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
