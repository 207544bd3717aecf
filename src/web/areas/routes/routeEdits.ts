import {
  lineId,
  suggestLines,
  type DestinationField,
  type LineOrigin,
  type MapLine,
  type StepKind,
} from '../../../core/mapping/index.ts';
import {
  fieldsFor,
  type Catalogue,
  type ConsentAsk,
  type DuplicatePolicy,
  type Target,
  type TargetTag,
} from '../../../core/plan/index.ts';
import type { Condition } from '../../../core/conditions/index.ts';
import type { SourceField } from '../../../core/values/index.ts';

/** The id of a part of a document: it outlives renaming and reordering. */
export const newPartId = (): string => crypto.randomUUID().slice(0, 8);

/** A target as it starts: everything that can be guessed is mapped, the rest is left to the person. */
export function newTarget(
  connectionId: string,
  catalogue: Catalogue,
  { fields, asks }: { fields: SourceField[]; asks: ConsentAsk[] },
): Target {
  const kind = catalogue.kinds[0]?.id ?? '';
  const target = {
    id: newPartId(),
    when: null,
    needs: firstNeed(asks),
    connectionId,
    kind,
    places: [],
    tags: [],
    leaves: [],
    tagsOff: [],
    lines: [],
  };
  return withKind({ ...target, duplicates: catalogue.can.duplicates[0] ?? 'update' }, kind, catalogue, fields);
}

/** What a new target needs: what is asked for first. Whoever makes the route may say that it needs none. */
function firstNeed([ask]: ConsentAsk[]): Target['needs'] {
  const channel = ask?.channels[0];
  return ask && channel ? { ask: ask.id, channel } : null;
}

/** Chooses the kind of record; it has fields of its own, so the mapping begins anew. */
export function withKind(target: Target, kind: string, catalogue: Catalogue, fields: SourceField[]): Target {
  const lines = suggestLines(fields, fieldsFor(catalogue, { kind, lines: [] }), []);
  return { ...target, kind, lines, duplicates: policyFor(catalogue, kind, target.duplicates) };
}

/** What happens to who is there: where each record is a thing of its own, another one is added, and otherwise none is. */
function policyFor({ kinds, can }: Catalogue, kind: string, chosen: DuplicatePolicy): DuplicatePolicy {
  const repeats = kinds.find(({ id }) => id === kind)?.repeats === true;
  if (repeats && can.duplicates.includes('add')) return 'add';
  return chosen === 'add' ? (can.duplicates[0] ?? 'add') : chosen;
}

/** Chooses where a destination field's value comes from; '' takes the line away. */
export function setOrigin(lines: MapLine[], field: DestinationField, origin: string): MapLine[] {
  const rest = lines.filter(({ to }) => to !== field.key);
  if (origin === '') return rest;
  const before = lines.find(({ to }) => to === field.key);
  const from = originOf(origin);
  return [
    ...rest,
    {
      id: before?.id ?? lineId(field.key),
      to: field.key,
      from,
      steps: before && from.kind === 'field' ? before.steps : [],
    },
  ];
}

function originOf(origin: string): LineOrigin {
  if (origin === 'fixed:') return { kind: 'fixed', value: '' };
  if (origin === 'text:') return { kind: 'text', text: '' };
  return { kind: 'field', field: origin.slice('field:'.length) };
}

/** The choice that a line's origin is, as `setOrigin` takes it. */
export function choiceOf(line: MapLine | null): string {
  if (!line) return '';
  return line.from.kind === 'field' ? `field:${line.from.field}` : `${line.from.kind}:`;
}

export function setText(lines: MapLine[], key: string, text: string): MapLine[] {
  return lines.map((line) => (line.to === key ? { ...line, from: { kind: 'text', text } } : line));
}

/** Adds a line for a field of the operator's own naming; nothing changes when there is one. */
export function addFreeLine(lines: MapLine[], key: string): MapLine[] {
  const name = key.trim();
  return name === '' || lines.some(({ to }) => to === name)
    ? lines
    : [...lines, { id: lineId(name), to: name, from: { kind: 'text', text: '' }, steps: [] }];
}

export function setFixed(lines: MapLine[], key: string, value: string): MapLine[] {
  return lines.map((line) => (line.to === key ? { ...line, from: { kind: 'fixed', value } } : line));
}

export function addStep(lines: MapLine[], key: string, kind: StepKind): MapLine[] {
  return lines.map((line) => (line.to === key ? { ...line, steps: [...line.steps, { kind }] } : line));
}

export function removeStep(lines: MapLine[], key: string, index: number): MapLine[] {
  return lines.map((line) => (line.to === key ? { ...line, steps: line.steps.filter((_, at) => at !== index) } : line));
}

/** The answer that alone decides about a tag; null where something else does, or nothing. A tick's answer is `yes`. */
export const answerOf = ({ when }: TargetTag): { field: string; answer: string } | null =>
  when?.kind === 'test' && when.test === 'is' ? { field: when.field, answer: when.value } : null;

const isSetBy = (tag: TargetTag, field: string, answer: string): boolean => {
  const by = answerOf(tag);
  return by !== null && by.field === field && by.answer === answer;
};

/** The tag that an answer sets; '' for none. */
export const tagFor = (tags: TargetTag[], field: string, answer: string): string =>
  tags.find((tag) => isSetBy(tag, field, answer))?.tag ?? '';

/** Sets the tag of an answer; '' takes it away. */
export function setAnswerTag(tags: TargetTag[], field: string, answer: string, tag: string): TargetTag[] {
  const known = tags.find((one) => isSetBy(one, field, answer));
  if (tag === '') return tags.filter((one) => one !== known);
  if (known) return tags.map((one) => (one === known ? { ...one, tag } : one));
  const when: Condition = { kind: 'test', id: newPartId(), field, test: 'is', value: answer };
  return [...tags, { id: newPartId(), tag, when }];
}

/** Sets the tags that everybody gets; those that stay keep their ids. */
export function setTagsForAll(tags: TargetTag[], names: string[]): TargetTag[] {
  const before = tags.filter(({ when }) => when === null);
  const all = names.map(
    (tag): TargetTag => before.find((one) => one.tag === tag) ?? { id: newPartId(), tag, when: null },
  );
  return [...all, ...tags.filter(({ when }) => when !== null)];
}
