import type { Result } from '../result.ts';
import { isFile, normaliseEmail, type FieldValue, type FieldValues, type SourceField } from '../values/index.ts';
import type { Payload } from './payload.ts';
import type { Signs, Suspicion } from './screening.ts';
import type { SourceDocument } from './source.ts';

/** What is wrong with one field of what was sent. */
export interface FieldIssue {
  /** Its name, as it is sent. */
  field: string;
  message: string;
  /** Which of several submissions in one payload it is in, from 0; absent when there is but one. */
  part?: number;
}

/** What is wrong with several fields, as one text. */
export const inOneText = (issues: FieldIssue[]): string => issues.map(({ message }) => message).join(' ');

/** One submission in a payload: its values by the ids of its fields, or what is wrong with them. */
export type Reading = { ok: true; values: FieldValues } | { ok: false; issues: FieldIssue[] };

/** Reads every field of one submission: the values of those that can be read, and what is wrong with the others, all at once. */
export function readEach(
  fields: SourceField[],
  parse: (field: SourceField) => Result<FieldValue>,
): { values: FieldValues; issues: FieldIssue[] } {
  const values: FieldValues = {};
  const issues: FieldIssue[] = [];
  for (const field of fields) {
    const parsed = parse(field);
    if (parsed.ok) values[field.id] = parsed.value;
    else issues.push({ field: field.key, message: parsed.issue });
  }
  return { values, issues };
}

/** Reads one submission: all of it, or none. */
export function readFields(fields: SourceField[], parse: (field: SourceField) => Result<FieldValue>): Reading {
  const { values, issues } = readEach(fields, parse);
  return issues.length > 0 ? { ok: false, issues } : { ok: true, values };
}

/** A payload that is nothing that a source of the kind can read. */
export interface Unreadable {
  problem: string;
}

/** What reading goes by beside what was sent. */
export interface ReadingFacts {
  /** What is known of the visitor, by the ids of such facts. */
  known: FieldValues;
  now: number;
}

/** What sets sources of a kind apart: how what is sent to them is read, and what guards them. */
export interface Kind<Document extends SourceDocument> {
  read: (document: Document, payload: Payload, facts: ReadingFacts) => Reading[] | Unreadable;
  screen: (document: Document, signs: Signs) => Suspicion | null;
}

/**
 * What makes two submissions of one source the same request: the values, with addresses as they identify a person, and
 * files by what is in them. A double click, a reload and a repeated request give the same text; a changed answer does not.
 */
export function contentOf(fields: SourceField[], values: FieldValues): string {
  return JSON.stringify(
    fields.map(({ id, type }) => {
      const value = values[id];
      if (type === 'email' && typeof value === 'string') return [id, normaliseEmail(value)];
      return [id, isFile(value) ? value.sha256 : value];
    }),
  );
}
