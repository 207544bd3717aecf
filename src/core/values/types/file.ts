import { bad } from '../../result.ts';
import type { ValueType } from '../type.ts';

/** A file that a visitor handed over. What it holds is stored apart; only signed-in people can fetch it. */
export interface FileValue {
  /** Its id here. */
  file: string;
  /** As the visitor's machine called it. */
  name: string;
  /** The media type found from its content, never the one that was claimed. */
  mediaType: string;
  /** Bytes. */
  size: number;
  /** SHA-256 of the content, in hexadecimal. */
  sha256: string;
  /** Where signed-in people fetch it. */
  link: string;
}

/** Whether a value is a file. */
export const isFile = (value: unknown): value is FileValue =>
  typeof value === 'object' && value !== null && 'file' in value && 'sha256' in value;

/** Another system is given the link. A text never becomes a file. */
export const file: ValueType<FileValue> = {
  parse: () => bad('This is not a file. Choose one to send along.'),
  print: (value, locale) => (locale === undefined ? value.link : `${nameAndSize(value, locale)} ${value.link}`),
  same: (a, b) => a.sha256 === b.sha256,
  edgeCases: [],
};

/** What a file is called, and how large it is. */
export const nameAndSize = ({ name, size }: Pick<FileValue, 'name' | 'size'>, locale?: string): string =>
  `${name} (${inBytes(size, locale)})`;

const UNITS = ['byte', 'kilobyte', 'megabyte', 'gigabyte'];

/** A size in the units of CLDR, by thousands. @param size bytes */
export function inBytes(size: number, locale = 'en-GB'): string {
  const step = Math.min(UNITS.length - 1, Math.floor(Math.log10(Math.max(1, size)) / 3));
  const unit = UNITS[step];
  return new Intl.NumberFormat(locale, {
    style: 'unit',
    unit,
    unitDisplay: step === 0 ? 'long' : 'short',
    maximumFractionDigits: 1,
  }).format(size / 1000 ** step);
}
