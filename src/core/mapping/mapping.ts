import { good, type Result } from '../result.ts';
import { type FieldValue, type FieldValues, isEmpty, printValue, type SourceField } from '../values/index.ts';
import { type DestinationField, fitValue, type SentValue } from './destination.ts';
import { applyStep, type Step } from './steps.ts';

/** Where a line's value comes from: a field of the source, a fixed value, or a text with {field} in it. */
export type LineOrigin =
  { kind: 'field'; field: string } | { kind: 'fixed'; value: string } | { kind: 'text'; text: string };

/** One line of a mapping: a destination field, and how it is filled. */
export interface MapLine {
  id: string;
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
  return pairs(fields, lines).map(([field, line]) => ({
    field,
    line,
    verdict: line ? fillField(field, line, values) : unfilled(field),
  }));
}

/** Which line fills each field. Found once for a mapping that is applied to many: neither list is ever changed in place. */
function pairs(fields: DestinationField[], lines: MapLine[]): Pair[] {
  const before = PAIRS.get(lines);
  if (before?.fields === fields) return before.found;
  const byField = new Map(lines.map((line) => [line.to, line]));
  const found = requiredFirst(fields).map((field): Pair => [field, byField.get(field.key) ?? null]);
  PAIRS.set(lines, { fields, found });
  return found;
}

type Pair = [field: DestinationField, line: MapLine | null];
const PAIRS = new WeakMap<MapLine[], { fields: DestinationField[]; found: Pair[] }>();

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
  const stepped = lineValue(line, values);
  if (!stepped.ok) return { kind: 'wrong', message: `${stepped.issue}.` };
  const { value } = stepped;
  if (isEmpty(value) || value === undefined) {
    return field.required ? { kind: 'wrong', message: 'is required there, and is empty here.' } : { kind: 'empty' };
  }
  const fitted = fitValue(field, value);
  return fitted.ok ? { kind: 'sent', value: fitted.value } : { kind: 'wrong', message: fitted.issue };
}

/** A line's value after its steps; undefined when the source has no such field. */
function lineValue({ from, steps }: MapLine, values: FieldValues): Result<FieldValue | undefined> {
  let value = startOf(from, values);
  for (const step of value === undefined ? [] : steps) {
    const applied = applyStep(step, value as FieldValue);
    if (!applied.ok) return applied;
    ({ value } = applied);
  }
  return good(value);
}

function startOf(from: LineOrigin, values: FieldValues): FieldValue | undefined {
  switch (from.kind) {
    case 'fixed':
      return from.value;
    case 'field':
      return values[from.field];
    case 'text':
      return fillText(from.text, values);
    default:
      return from satisfies never;
  }
}

const SLOT = /\{(@?[A-Za-z][A-Za-z0-9_.-]*)\}/g;

/** Puts values in the place of {field id}; a field that the source does not have is left as it stands, so that it is seen. */
export function fillText(text: string, values: FieldValues): string {
  return text.replace(SLOT, (slot, id: string) => (id in values ? printValue(values[id]) : slot)).trim();
}

/** The ids of the source fields that a line draws on. */
export function fieldsUsed({ from }: MapLine): string[] {
  if (from.kind === 'field') return [from.field];
  return from.kind === 'text' ? fieldsUsedIn(from.text) : [];
}

/** The ids of the source fields that stand in a text. */
export const fieldsUsedIn = (text: string): string[] => [...text.matchAll(SLOT)].map(([, id]) => id ?? '');

/** A text with fields in it, as people read and write it: with their names in the place of their ids. */
export const withNames = (text: string, fields: Pick<SourceField, 'id' | 'key'>[]): string =>
  text.replace(SLOT, (slot, id: string) => nameSlot(fields.find((field) => field.id === id)?.key) ?? slot);

/** The same text as it is kept: with the ids of fields in the place of their names, which may change. */
export const withIds = (text: string, fields: Pick<SourceField, 'id' | 'key'>[]): string =>
  text.replace(SLOT, (slot, key: string) => nameSlot(fields.find((field) => field.key === key)?.id) ?? slot);

const nameSlot = (name: string | undefined): string | undefined => (name === undefined ? undefined : `{${name}}`);
