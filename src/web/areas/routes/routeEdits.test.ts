import { sourceField } from '../../../../test/world/fields.ts';
import { abilities, catalogueOf } from '../../../../test/world/catalogue.ts';
import { expect, it } from 'vitest';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import type { DestinationField } from '../../../core/mapping/index.ts';
import type { TargetTag } from '../../../core/plan/index.ts';
import {
  branchBefore,
  joinBranch,
  newTarget,
  setAnswerTag,
  setTagForEach,
  setTagsForAll,
  tagFor,
  withKind,
} from './routeEdits.ts';

/** A source without fields. */
const bare = { fields: [], hints: {} };

const given: DestinationField = {
  key: 'given',
  label: 'First name',
  type: 'text',
  required: true,
  choices: [],
  maxLength: null,
};

it('sets one tag an answer', () => {
  const rules = setAnswerTag(setAnswerTag([], 'likes', 'Moon', 'moon'), 'likes', 'Moon', 'luna');
  expect(rules).toHaveLength(1);
  expect(tagFor(rules, 'likes', 'Moon')).toBe('luna');
  expect(setAnswerTag(rules, 'likes', 'Moon', '')).toEqual([]);
});

it('keeps the tags that more than an answer decides about, and the ids of those that stay', () => {
  const some: TargetTag = { id: 'c', tag: 'near', when: { kind: 'all', of: [] } };
  const tags = [{ id: 'a', tag: 'web', when: null }, { id: 'b', tag: 'old', when: null }, some];
  expect(setTagsForAll(tags, ['new', 'web'])).toMatchObject([{ tag: 'new' }, { id: 'a', tag: 'web' }, some]);
  expect(setAnswerTag(tags, 'likes', 'Moon', 'moon')).toHaveLength(4);
});

it('starts a target with what can be guessed', () => {
  const name = sourceField('name', 'text', { label: 'Name', required: true });
  expect(newTarget('C', catalogueOf({ fields: [given] }), { fields: [name], asks: [], hints: {} })).toMatchObject({
    lines: [{ to: 'given', steps: [{ kind: 'part of a name' }] }],
    needs: null,
  });
  const asks = [{ id: 'a', purpose: 'p', channels: ['sms' as const], tickField: '' }];
  expect(newTarget('C', catalogueOf(), { fields: [], asks, hints: {} }).needs).toEqual({ ask: 'a', channel: 'sms' });
});

it('adds another where each record is a thing of its own, and updates where it is a person', () => {
  const kinds = [
    { id: 'enquiry', name: 'Enquiry', repeats: true, fields: [given] },
    { id: 'person', name: 'Person', repeats: false, fields: [given] },
  ];
  const can = abilities({ kinds: true, duplicates: ['update', 'fill gaps', 'leave alone', 'add'] });
  const catalogue = catalogueOf({ kinds, can });
  const enquiry = newTarget('C', catalogue, { fields: [], asks: [], hints: {} });
  expect([enquiry.kind, enquiry.duplicates]).toEqual(['enquiry', 'add']);
  const person = withKind(enquiry, 'person', catalogue, bare);
  expect(person.duplicates).toBe('update');
  // What was chosen by hand stays among kinds of the same sort.
  expect(withKind({ ...person, duplicates: 'fill gaps' }, 'person', catalogue, bare).duplicates).toBe('fill gaps');
  expect(withKind(person, 'enquiry', catalogue, bare).duplicates).toBe('add');
});

it('sets a tag for each answer that has none: one that is there, or a new one named for it', () => {
  const answers = ['The Moon and planets', 'Taking pictures', 'Кометы'].map((answer) => ({ field: 'likes', answer }));
  const tags = setTagForEach(setAnswerTag([], 'likes', 'Taking pictures', 'mine'), answers, ['planets', 'newsletter']);
  expect(answers.map(({ field, answer }) => tagFor(tags, field, answer))).toEqual(['planets', 'mine', 'komety']);
});

it('joins targets of which one is taken, and dissolves what one would be left in', () => {
  const apart = routeOf({ targets: [targetOf('a'), targetOf('b'), targetOf('c')] });
  const two = joinBranch(apart, 'b', 'a');
  expect(two.targets.map(({ branch }) => branch !== null)).toEqual([true, true, false]);
  const three = joinBranch(two, 'c', 'b');
  expect(new Set(three.targets.map(({ branch }) => branch)).size).toBe(1);
  const last = three.targets[2];
  expect(last && branchBefore(three, last).map(({ id }) => id)).toEqual(['a', 'b']);
  expect(joinBranch(two, 'b', null)).toEqual(apart);
});
