import { oneLine } from '../values/index.ts';

/** Whether one of the names by which people know whoever asks stands in a text; case and line breaks do not matter. */
export const isSaid = (names: string[], text: string): boolean =>
  names.some((name) => plain(text).includes(plain(name)));

const plain = (text: string): string => oneLine(text.normalize('NFC')).toLowerCase();
