import type { Result } from '../result.ts';

/** How whoever wrote a text writes: what is not known is null, and an ambiguity that only it would settle is reported. */
export interface Manner {
  /** A language tag (BCP 47), by which numbers and dates are read. */
  locale: string | null;
  /** Where numbers without a country code belong (ISO 3166-1 alpha-2). */
  country: string | null;
}

export const UNKNOWN_MANNER: Manner = { locale: null, country: null };

/** A kind of value: what it holds, how it is read and written, and when two are the same. */
export interface ValueType<Held> {
  /** Reads what a person or a machine wrote. An issue is a sentence for whoever wrote it. */
  parse: (text: string, manner: Manner) => Result<Held>;
  /** Writes a value so that `parse` reads it again; with a locale, as its people write it. */
  print: (value: Held, locale?: string) => string;
  /** Whether two values mean the same. */
  same: (a: Held, b: Held) => boolean;
  /** Texts that a sample should be tried with, as they are written. */
  edgeCases: string[];
}
