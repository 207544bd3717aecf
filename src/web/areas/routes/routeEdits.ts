import { suggestLines, type DestinationField, type MapLine, type Step } from '../../../core/mapping/index.ts';
import type { Catalogue, TagRule, Target } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';

/** A target as it starts: everything that can be guessed is mapped, the rest is left to the person. */
export function newTarget(connectionId: string, catalogue: Catalogue | null, fields: SourceField[]): Target {
  const lines = catalogue ? suggestLines(fields, catalogue.fields, []) : [];
  return { connectionId, list: '', group: '', tags: [], tagRules: [], lines, duplicates: 'update' };
}

/** Chooses where a destination field's value comes from; '' takes the line away. */
export function setOrigin(lines: MapLine[], field: DestinationField, origin: string): MapLine[] {
  const rest = lines.filter(({ to }) => to !== field.key);
  if (origin === '') return rest;
  const before = lines.find(({ to }) => to === field.key);
  const from: MapLine['from'] =
    origin === 'fixed:' ? { kind: 'fixed', value: '' } : { kind: 'field', field: origin.slice('field:'.length) };
  return [...rest, { to: field.key, from, steps: before && from.kind === 'field' ? before.steps : [] }];
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
  return tag === '' ? rest : [...rest, { field, answer, tag }];
}
