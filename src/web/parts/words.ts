/** A word as it begins a label. */
export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
