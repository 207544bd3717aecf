import { type FieldValues, normaliseEmail, parseFieldValue, sentFor, type SourceField } from '../values/index.ts';
import type { Entries } from './entries.ts';

export interface FieldIssue {
  field: string;
  message: string;
}

export type ReadSubmission = { ok: true; values: FieldValues } | { ok: false; issues: FieldIssue[] };

/** Reads a payload against a source's fields. Names that the source does not know are left in the raw payload only. */
export function readSubmission(fields: SourceField[], entries: Entries): ReadSubmission {
  const values: FieldValues = {};
  const issues: FieldIssue[] = [];
  for (const field of fields) {
    const parsed = parseFieldValue(field, sentFor(field, entries));
    if (parsed.ok) values[field.key] = parsed.value;
    else issues.push({ field: field.key, message: parsed.issue });
  }
  return issues.length > 0 ? { ok: false, issues } : { ok: true, values };
}

/**
 * What makes two submissions of one source the same request: the values, with addresses as they identify a person.
 * A double click, a reload and a repeated request give the same text; a changed answer does not.
 */
export function contentOf(fields: SourceField[], values: FieldValues): string {
  return JSON.stringify(
    fields.map(({ key, type }) => {
      const value = values[key];
      return [key, type === 'email' && typeof value === 'string' ? normaliseEmail(value) : value];
    }),
  );
}
