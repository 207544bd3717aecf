import {
  lineId,
  suggestLines,
  type DestinationField,
  type LineOrigin,
  type MapLine,
  type Step,
} from '../../../core/mapping/index.ts';
import {
  fieldsFor,
  type Catalogue,
  type DuplicatePolicy,
  type TagRule,
  type Target,
} from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';

/** The id of a part of a document: it outlives renaming and reordering. */
export const newPartId = (): string => crypto.randomUUID().slice(0, 8);

/** A target as it starts: everything that can be guessed is mapped, the rest is left to the person. */
export function newTarget(connectionId: string, catalogue: Catalogue, fields: SourceField[]): Target {
  const kind = catalogue.kinds[0]?.id ?? '';
  const target = {
    id: newPartId(),
    when: null,
    connectionId,
    kind,
    list: '',
    group: '',
    tags: [],
    tagRules: [],
    leaves: [],
    tagsOff: [],
    lines: [],
  };
  return withKind({ ...target, duplicates: catalogue.can.duplicates[0] ?? 'update' }, kind, catalogue, fields);
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

export function addStep(lines: MapLine[], key: string, step: Step): MapLine[] {
  return lines.map((line) => (line.to === key ? { ...line, steps: [...line.steps, step] } : line));
}

export function removeStep(lines: MapLine[], key: string, index: number): MapLine[] {
  return lines.map((line) => (line.to === key ? { ...line, steps: line.steps.filter((_, at) => at !== index) } : line));
}

/** The tag that an answer sets; '' for none. */
export function tagFor(rules: TagRule[], field: string, answer: string): string {
  return rules.find((rule) => rule.field === field && rule.answer === answer)?.tag ?? '';
}

export function setTagRule(rules: TagRule[], field: string, answer: string, tag: string): TagRule[] {
  const rest = rules.filter((rule) => rule.field !== field || rule.answer !== answer);
  return tag === '' ? rest : [...rest, { id: newPartId(), field, answer, tag }];
}
