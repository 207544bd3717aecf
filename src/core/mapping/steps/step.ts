import type { Result } from '../../result.ts';
import { oneLine, printValue, type FieldValue, type FieldValues, type TypeName } from '../../values/index.ts';

/** One row of a look-up: what comes, and what it becomes. */
export type Pair = readonly [from: string, to: string];

/** What a step is told: under the names of its options. */
export type OptionValue = string | number | readonly Pair[];
export type StepOptions = Record<string, OptionValue>;

/** One thing that a step can be told. `preset` is what it does when nothing is said. */
export type StepOption = { label: string } & (
  | { kind: 'text'; preset: string }
  | { kind: 'number'; preset: number; least: number; most: number }
  | { kind: 'choice'; preset: string; of: readonly string[] }
  /** A language tag (BCP 47). */
  | { kind: 'language'; preset: string }
  /** An ISO 4217 code. */
  | { kind: 'currency'; preset: string }
  /** A time zone of the IANA database. */
  | { kind: 'time zone'; preset: string }
  | { kind: 'pairs'; preset: readonly Pair[] }
  /** Id of another field of the source; '' for none. */
  | { kind: 'field'; preset: string }
);

/** What a step knows beside the value. */
export interface StepFacts {
  /** All that came, by field id. */
  values: FieldValues;
  /** In milliseconds since 1970. */
  now: number;
}

type OptionsOf<O extends Record<string, StepOption>> = { [Name in keyof O]: ValueOf<O[Name]> };
type ValueOf<O extends StepOption> = O extends { kind: 'number' }
  ? number
  : O extends { kind: 'choice'; of: readonly (infer Word)[] }
    ? Word
    : O extends { kind: 'pairs' }
      ? readonly Pair[]
      : string;

/** A value, and what becomes of it. It is shown as help, and it is a test. */
export interface Example {
  from: FieldValue;
  /** What differs from the presets. */
  options?: StepOptions;
  to: FieldValue;
}

interface Manner<O extends Record<string, StepOption>> {
  /** In the interface's words, after the step's name. */
  help: string;
  /** The types that it makes something of. */
  takes: TypeName[];
  /** Whether what it does not take may come to it, and goes through as it is: it has no blanks. */
  lets?: true;
  /** Whether it makes something of an empty value; otherwise that stays empty. */
  takesEmpty?: true;
  /** The type of what it makes. */
  gives: TypeName | ((options: OptionsOf<O>, came: TypeName) => TypeName);
  options: O;
  /** Ready forms of it, by the names under which people look for them; none: it is found by its own name alone. */
  offers?: { name: string; options: StepOptions }[];
  examples: [Example, ...Example[]];
  /** What it does, as on its chip. */
  say?: (options: OptionsOf<O>) => string;
  /** @returns what it makes, or what keeps it from that, as said after the name of a field */
  apply: (value: FieldValue, options: OptionsOf<O>, facts: StepFacts) => Result<FieldValue>;
}

/** What is done with a value on its way, in one respect. */
export type StepManner = Manner<Record<string, StepOption>>;

/** A step, with its options typed by what it says of them. */
export const step = <const O extends Record<string, StepOption>>(manner: Manner<O>): StepManner =>
  manner as unknown as StepManner;

/** In whose manner dates and numbers are written where no language is told. */
export const localeOf = (language: string): string => (language === '' ? 'en-GB' : language);

/** Words with a blank between them, without those that are not there. */
export const said = (...words: string[]): string => words.filter((word) => word !== '').join(' ');

/** A value as one line of text. */
export const lineOf = (value: FieldValue): string => oneLine(printValue(value));
