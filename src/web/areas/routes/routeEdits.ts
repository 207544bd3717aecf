import { addStep } from './lines/lineEdits.ts';
import { newPartId } from '../../parts/newPartId.ts';
import {
  applyStep,
  matchAnswers,
  suggestLines,
  type MapLine,
  type SuggestFacts,
  type Suggestion,
} from '../../../core/mapping/index.ts';
import {
  fieldsFor,
  findingKey,
  type Catalogue,
  type ConsentAsk,
  type DuplicatePolicy,
  type Finding,
  type RouteDocument,
  type Target,
  type TargetTag,
} from '../../../core/plan/index.ts';
import type { Condition } from '../../../core/conditions/index.ts';
import { printValue, type SourceField } from '../../../core/values/index.ts';

/** The route with the step that mends a finding put at the end of its line. */
export function mended(document: RouteDocument, { target: at, line, mend }: Finding): RouteDocument {
  if (line === undefined || !mend) return document;
  return {
    ...document,
    targets: document.targets.map((target, index) =>
      index === at ? { ...target, lines: addStep(target.lines, line, mend) } : target,
    ),
  };
}

/** The route with a finding let stand for a reason; null takes that back. */
export function withReason(document: RouteDocument, finding: Finding, reason: string | null): RouteDocument {
  const { [findingKey(finding)]: _, ...others } = document.accepted;
  return { ...document, accepted: reason === null ? others : { ...others, [findingKey(finding)]: reason } };
}

/** A target as it starts: what is sure is mapped, the rest is offered. */
export function newTarget(
  connectionId: string,
  catalogue: Catalogue,
  { fields, asks, hints }: { fields: SourceField[]; asks: ConsentAsk[]; hints: SuggestFacts },
): Target {
  const kind = catalogue.kinds[0]?.id ?? '';
  const target = {
    id: newPartId(),
    when: null,
    branch: null,
    needs: firstNeed(asks),
    connectionId,
    kind,
    places: [],
    tags: [],
    leaves: [],
    tagsOff: [],
    lines: [],
  };
  return withKind({ ...target, duplicates: catalogue.can.duplicates[0] ?? 'update' }, kind, catalogue, {
    fields,
    hints,
  });
}

/**
 * Makes a target one of those of which only the first goes that is for the person; null lets it stand by itself. A branch of one is
 * none.
 */
export function joinBranch(document: RouteDocument, targetId: string, withId: string | null): RouteDocument {
  const { targets } = document;
  const branch = withId === null ? null : (targets.find(({ id }) => id === withId)?.branch ?? newPartId());
  const joined = targets.map((target) =>
    target.id === targetId || (withId !== null && target.id === withId) ? { ...target, branch } : target,
  );
  const isAlone = (one: Target) => joined.every((other) => other === one || other.branch !== one.branch);
  return { ...document, targets: joined.map((one) => (isAlone(one) ? { ...one, branch: null } : one)) };
}

/** The targets with which one shares a branch, before it. */
export const branchBefore = ({ targets }: RouteDocument, { id, branch }: Target): Target[] => {
  const at = targets.findIndex((one) => one.id === id);
  return branch === null ? [] : targets.slice(0, at).filter((one) => one.branch === branch);
};

/** What a new target needs: what is asked for first. Whoever makes the route may say that it needs none. */
function firstNeed([ask]: ConsentAsk[]): Target['needs'] {
  const channel = ask?.channels[0];
  return ask && channel ? { ask: ask.id, channel } : null;
}

/** Chooses the kind of record; it has fields of its own, so the mapping begins anew. */
export function withKind(
  target: Target,
  kind: string,
  catalogue: Catalogue,
  { fields, hints }: { fields: SourceField[]; hints: SuggestFacts },
): Target {
  const lines = sureLines(suggestLines(fields, fieldsFor(catalogue, { kind, lines: [] }), [], hints));
  return { ...target, kind, lines, duplicates: policyFor(catalogue, kind, target.duplicates) };
}

/** The lines that are sure enough to be filled in. */
export const sureLines = (suggestions: Suggestion[]): MapLine[] =>
  suggestions.filter(({ applies }) => applies).map(({ line }) => line);

/** What happens to who is there: where each record is a thing of its own, another one is added, and otherwise none is. */
function policyFor({ kinds, can }: Catalogue, kind: string, chosen: DuplicatePolicy): DuplicatePolicy {
  const repeats = kinds.find(({ id }) => id === kind)?.repeats === true;
  if (repeats && can.duplicates.includes('add')) return 'add';
  return chosen === 'add' ? (can.duplicates[0] ?? 'add') : chosen;
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

/** An answer of a field, by which something can be set. */
export interface Answer {
  field: string;
  answer: string;
}

/**
 * Sets a tag for each answer that has none: one that is there and is called alike, otherwise a new one named for the answer.
 * @param known the tags that are there
 */
export function setTagForEach(tags: TargetTag[], answers: Answer[], known: string[]): TargetTag[] {
  const open = answers.filter(({ field, answer }) => tagFor(tags, field, answer) === '');
  const found = matchAnswers(
    open.map(({ answer }) => answer),
    known.map((name) => ({ id: name, name })),
  );
  return open.reduce((before, { field, answer }) => {
    const tag = found.find((one) => one.answer === answer)?.id ?? newTagFor(answer);
    return setAnswerTag(before, field, answer, tag);
  }, tags);
}

/** A tag named for an answer: as in an address, or as it is where its script cannot be written so. */
function newTagFor(answer: string): string {
  const slug = applyStep({ kind: 'slug', options: {} }, answer, { values: {}, now: 0 });
  return slug.ok && slug.value !== '' ? printValue(slug.value) : answer;
}

/** Sets the tags that everybody gets; those that stay keep their ids. */
export function setTagsForAll(tags: TargetTag[], names: string[]): TargetTag[] {
  const before = tags.filter(({ when }) => when === null);
  const all = names.map(
    (tag): TargetTag => before.find((one) => one.tag === tag) ?? { id: newPartId(), tag, when: null },
  );
  return [...all, ...tags.filter(({ when }) => when !== null)];
}
