import { type FieldValue, type FieldValues, isEmpty } from '../values/index.ts';
import { type DestinationField, fitValue, type SentValue } from './destination.ts';
import { applyStep, type Step } from './steps.ts';

/** Where a line's value comes from: a field of the source, or a fixed value. */
export type LineOrigin = { kind: 'field'; field: string } | { kind: 'fixed'; value: string };

/** One line of a mapping: a destination field, and how it is filled. */
export interface MapLine {
  to: string;
  from: LineOrigin;
  steps: Step[];
}

export type LineVerdict =
  { kind: 'sent'; value: SentValue } | { kind: 'empty' } | { kind: 'wrong'; message: string } | { kind: 'unmapped' };

export interface LineResult {
  field: DestinationField;
  line: MapLine | null;
  verdict: LineVerdict;
}

/** Fills the destination's fields (required first) from a submission's values. One result a field, none thrown. */
export function applyMapping(fields: DestinationField[], lines: MapLine[], values: FieldValues): LineResult[] {
  const byField = new Map(lines.map((line) => [line.to, line]));
  return requiredFirst(fields).map((field) => {
    const line = byField.get(field.key) ?? null;
    return { field, line, verdict: line ? fillField(field, line, values) : unfilled(field) };
  });
}

/** Required fields first, otherwise in the catalogue's order. */
export function requiredFirst(fields: DestinationField[]): DestinationField[] {
  return [...fields].sort((a, b) => Number(b.required) - Number(a.required));
}

function unfilled(field: DestinationField): LineVerdict {
  return field.required
    ? { kind: 'wrong', message: 'is required there, and nothing is mapped to it.' }
    : { kind: 'unmapped' };
}

function fillField(field: DestinationField, line: MapLine, values: FieldValues): LineVerdict {
  const value = lineValue(line, values);
  if (isEmpty(value) || value === undefined) {
    return field.required ? { kind: 'wrong', message: 'is required there, and is empty here.' } : { kind: 'empty' };
  }
  const fitted = fitValue(field, value);
  return fitted.ok ? { kind: 'sent', value: fitted.value } : { kind: 'wrong', message: fitted.issue };
}

/** A line's value after its steps; undefined when the source has no such field. */
export function lineValue(line: MapLine, values: FieldValues): FieldValue | undefined {
  const start = line.from.kind === 'fixed' ? line.from.value : values[line.from.field];
  return start === undefined ? undefined : line.steps.reduce((value, step) => applyStep(step, value), start);
}
