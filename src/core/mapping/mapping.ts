import { decide, fieldsAskedFor, type Condition } from '../conditions/index.ts';
import { good, type Result } from '../result.ts';
import {
  type FieldValue,
  type FieldValues,
  isEmpty,
  printValue,
  type SourceField,
  type TypeName,
} from '../values/index.ts';
import { type DestinationField, fitHeld, fitValue, type SentValue } from './destination.ts';
import { applyStep, fieldsTold, type Step, type StepFacts } from './steps/index.ts';

/** Where a line's value comes from: a field of the source, the first of several that is filled, a fixed value, or a text with {field} in it. */
export type LineOrigin =
  | { kind: 'field'; field: string }
  | { kind: 'first'; fields: string[] }
  | { kind: 'fixed'; value: string }
  | { kind: 'text'; text: string };

/** What is sent where nothing came: nothing, so that what is there stays; an empty value, so that it is cleared; or a value. */
export type WhenEmpty = { kind: 'leave out' } | { kind: 'clear' } | { kind: 'value'; value: string };

/**
 * What becomes of a value of somebody who is there already. latest: ours goes in. fill gaps: only where there is none. longest,
 * highest: the one that is. add: what is in the list there stays in it. new people: theirs stays, even an empty one.
 */
export const OVERWRITE_RULES = ['latest', 'fill gaps', 'longest', 'highest', 'add', 'new people'] as const;
export type OverwriteRule = (typeof OVERWRITE_RULES)[number];

/** One line of a mapping: a destination field, and how it is filled. */
export interface MapLine {
  id: string;
  to: string;
  from: LineOrigin;
  steps: Step[];
  whenEmpty: WhenEmpty;
  /** null: as the target says for all of its lines. */
  overwrite: OverwriteRule | null;
  /** For whom it is filled; null for everybody. */
  when: Condition | null;
}

/** A line that does what every line does unless it is told otherwise. */
export const plainLine = (line: Pick<MapLine, 'id' | 'to' | 'from'> & Partial<MapLine>): MapLine => ({
  steps: [],
  whenEmpty: { kind: 'leave out' },
  overwrite: null,
  when: null,
  ...line,
});

/** A value that is sent null is one that is cleared there. */
export type LineVerdict =
  | { kind: 'sent'; value: SentValue | null }
  | { kind: 'empty' }
  | { kind: 'wrong'; message: string }
  | { kind: 'not for them'; why: string }
  | { kind: 'unmapped' };

export interface LineResult {
  field: DestinationField;
  line: MapLine | null;
  verdict: LineVerdict;
}

/** What a line goes by: the values, and the fields of which its condition speaks. */
export interface LineFacts extends StepFacts {
  fields?: SourceField[];
}

/** Fills the destination's fields (required first) from a submission's values. One result a field, none thrown. */
export function applyMapping(fields: DestinationField[], lines: MapLine[], facts: LineFacts): LineResult[] {
  return pairs(fields, lines, facts.fields ?? NO_FIELDS).map((pair) => ({
    field: pair.field,
    line: pair.line,
    verdict: isFilled(pair) ? fillField(pair, facts) : unfilled(pair.field),
  }));
}

/** A field there with the line that fills it. */
interface Pair<Line extends MapLine | null> {
  field: DestinationField;
  line: Line;
  /** Whether what comes to it is held as its type has it, so that it need not be read anew. */
  isHeld: boolean;
}

/** Which line fills each field. Found once for a mapping that is applied to many: none of the lists is ever changed in place. */
function pairs(fields: DestinationField[], lines: MapLine[], source: SourceField[]): Pair<MapLine | null>[] {
  const before = PAIRS.get(lines);
  if (before?.fields === fields && before.source === source) return before.found;
  const byField = new Map(lines.map((line) => [line.to, line]));
  const types = new Map(source.map(({ id, type }) => [id, type]));
  const found = requiredFirst(fields).map((field): Pair<MapLine | null> => {
    const line = byField.get(field.key) ?? null;
    return { field, line, isHeld: line !== null && isHeldAs(field, line, types) };
  });
  PAIRS.set(lines, { fields, source, found });
  return found;
}

const isFilled = (pair: Pair<MapLine | null>): pair is Pair<MapLine> => pair.line !== null;

const NO_FIELDS: SourceField[] = [];
const PAIRS = new WeakMap<
  MapLine[],
  { fields: DestinationField[]; source: SourceField[]; found: Pair<MapLine | null>[] }
>();

/** Whether a line brings values of the field's own type as they are. */
function isHeldAs({ type }: DestinationField, { from, steps }: MapLine, types: Map<string, TypeName>): boolean {
  const origins = originFields(from);
  return (
    steps.length === 0 && from.kind !== 'text' && origins.length > 0 && origins.every((id) => types.get(id) === type)
  );
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

function fillField({ field, line, isHeld }: Pair<MapLine>, facts: LineFacts): LineVerdict {
  const decision = line.when && decide(line.when, facts, facts.fields ?? []);
  if (decision && decision.verdict !== 'holds')
    return field.required
      ? { kind: 'wrong', message: `is required there, and is left out, since ${decision.why}.` }
      : { kind: 'not for them', why: decision.why };
  const stepped = lineValue(line, facts);
  if (!stepped.ok) return { kind: 'wrong', message: `${stepped.issue}.` };
  const { value } = stepped;
  if (value !== undefined && !isEmpty(value)) return isHeld ? verdictOf(fitHeld(field, value)) : fitted(field, value);
  const { whenEmpty } = line;
  if (whenEmpty.kind === 'value' && whenEmpty.value !== '') return fitted(field, whenEmpty.value);
  if (field.required) return { kind: 'wrong', message: 'is required there, and is empty here.' };
  return whenEmpty.kind === 'clear' ? { kind: 'sent', value: null } : { kind: 'empty' };
}

const fitted = (field: DestinationField, value: FieldValue): LineVerdict => verdictOf(fitValue(field, value));

function verdictOf(fits: Result<SentValue>): LineVerdict {
  return fits.ok ? { kind: 'sent', value: fits.value } : { kind: 'wrong', message: fits.issue };
}

/** A line's value after its steps; undefined when the source has no such field. */
export function lineValue({ from, steps }: MapLine, facts: StepFacts): Result<FieldValue | undefined> {
  let value = startOf(from, facts.values);
  for (const step of value === undefined ? [] : steps) {
    const applied = applyStep(step, value as FieldValue, facts);
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
    case 'first':
      return values[from.fields.find((field) => !isEmpty(values[field])) ?? ''];
    case 'text':
      return fillText(from.text, values);
    default:
      return from satisfies never;
  }
}

const SLOT = /\{(@?[A-Za-z][A-Za-z0-9_.-]*)\}/g;

/** Puts values in the place of {field id}; a field that the source does not have is left as it stands, so that it is seen. */
export function fillText(text: string, values: FieldValues): string {
  let filled = '';
  for (const { id, written } of partsOf(text)) filled += id !== '' && id in values ? printValue(values[id]) : written;
  return filled.trim();
}

/** A piece of a text: words as they are, or {field}, with the field's id. */
interface TextPart {
  written: string;
  id: string;
}

/** The pieces of a text. Found once for a text that is filled for many. */
function partsOf(text: string): TextPart[] {
  const before = PARTS.get(text);
  if (before) return before;
  const parts: TextPart[] = [];
  let end = 0;
  for (const { index, 0: slot, 1: id = '' } of text.matchAll(SLOT)) {
    parts.push({ written: text.slice(end, index), id: '' }, { written: slot, id });
    end = index + slot.length;
  }
  parts.push({ written: text.slice(end), id: '' });
  if (PARTS.size > MOST_TEXTS) PARTS.clear();
  PARTS.set(text, parts);
  return parts;
}

const MOST_TEXTS = 1_000;
const PARTS = new Map<string, TextPart[]>();

/**
 * The type of what the steps of a line begin with.
 * @param known the fields of the source, and of how it came
 * @returns null where it is a field that is not among them
 */
export function startType(from: LineOrigin, known: SourceField[]): TypeName | null {
  switch (from.kind) {
    case 'field':
      return known.find(({ id }) => id === from.field)?.type ?? null;
    case 'first':
      return known.find(({ id }) => id === from.fields[0])?.type ?? null;
    case 'text':
    case 'fixed':
      return 'text';
    default:
      return from satisfies never;
  }
}

/** The ids of the source fields that a line draws on. */
export const fieldsUsed = ({ from, steps, when }: MapLine): string[] => [
  ...originFields(from),
  ...steps.flatMap(fieldsTold),
  ...(when ? fieldsAskedFor(when) : []),
];

function originFields(from: LineOrigin): string[] {
  switch (from.kind) {
    case 'field':
      return [from.field];
    case 'first':
      return from.fields;
    case 'text':
      return fieldsUsedIn(from.text);
    case 'fixed':
      return [];
    default:
      return from satisfies never;
  }
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
