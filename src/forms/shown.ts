import type { FormLanguage, KeptFile, Look, VariantFace } from '../core/forms/index.ts';
import type { Entries, FormDocument } from '../core/intake/index.ts';
import { sentFor, type SourceField } from '../core/values/index.ts';
import type { Say } from './words/index.ts';

/** What of a form's document is seen. */
export type FormFace = Omit<VariantFace, 'ending'> & Pick<FormDocument, 'goOnLater'>;

/** What a form holds when it is shown. */
export interface Filled {
  /** In front of the ids of its elements, so that two forms can stand on one page. */
  prefix: string;
  /** What was typed, as it was sent; null when nobody typed anything yet. */
  typed: Entries | null;
  /** What is wrong, by field name. */
  wrong: Record<string, string>;
  /** Whether it was sent, and could not be taken for a reason of ours. */
  failed?: boolean;
  kept: Record<string, KeptFile>;
  /** The page that somebody was on before; absent for the first. */
  at?: string;
}

/** A form on its way to HTML. */
export interface FormShown {
  /** Where it is sent to. */
  action: string;
  face: FormFace;
  language: FormLanguage;
  filled: Filled;
  /** What our own page knows and the form brings along; a page of others has a line of script instead. */
  carries: Entries | 'script';
  /** The published version that is shown; absent for a draft. */
  version?: number | undefined;
  /** While it is on its way, or waits for a connection. */
  doing?: 'sending' | 'waiting';
}

/** One question on its way to HTML. */
export interface QuestionShown {
  field: SourceField;
  id: string;
  /** What it holds. */
  sent: string[];
  /** What is wrong with it; '' for nothing. */
  wrong: string;
  /** Ids of what describes it; undefined for nothing. */
  described: string | undefined;
  labels: Look['labels'];
  language: FormLanguage;
  filled: Filled;
  say: Say;
}

/** What a field holds at first. A box that gives consent is never ticked for anybody. */
const presetOf = ({ type, widget, preset }: SourceField): string[] =>
  preset === '' || (type === 'yes/no' && widget === 'usual') ? [] : preset.split('\n');

/** What a field holds as it is shown. */
export const heldBy = (field: SourceField, { typed }: Filled): string[] =>
  typed === null ? presetOf(field) : sentFor(field, typed);
