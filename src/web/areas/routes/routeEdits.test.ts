import { sourceField } from '../../../../test/world/fields.ts';
import { catalogueOf } from '../../../../test/world/catalogue.ts';
import { expect, it } from 'vitest';
import type { DestinationField, MapLine } from '../../../core/mapping/index.ts';
import { addStep, newTarget, removeStep, setFixed, setOrigin, setTagRule, tagFor } from './routeEdits.ts';

const given: DestinationField = {
  key: 'given',
  label: 'First name',
  type: 'text',
  required: true,
  choices: [],
  maxLength: null,
};

it('maps, adds steps, fixes a value, and takes the line away', () => {
  let lines: MapLine[] = setOrigin([], given, 'field:name');
  lines = addStep(addStep(lines, 'given', 'trim'), 'given', 'first name');
  expect(lines).toEqual([
    { id: 'l-given', to: 'given', from: { kind: 'field', field: 'name' }, steps: ['trim', 'first name'] },
  ]);
  expect(removeStep(lines, 'given', 0)[0]?.steps).toEqual(['first name']);
  expect(setOrigin(lines, given, 'field:other')[0]?.steps).toEqual(['trim', 'first name']);
  expect(setFixed(setOrigin(lines, given, 'fixed:'), 'given', 'Guest')).toEqual([
    { id: 'l-given', to: 'given', from: { kind: 'fixed', value: 'Guest' }, steps: [] },
  ]);
  expect(setOrigin(lines, given, '')).toEqual([]);
});

it('sets one tag an answer', () => {
  const rules = setTagRule(setTagRule([], 'likes', 'Moon', 'moon'), 'likes', 'Moon', 'luna');
  expect(rules).toHaveLength(1);
  expect(tagFor(rules, 'likes', 'Moon')).toBe('luna');
  expect(setTagRule(rules, 'likes', 'Moon', '')).toEqual([]);
});

it('starts a target with what can be guessed', () => {
  const name = sourceField('name', 'text', { label: 'Name', required: true });
  expect(newTarget('C', catalogueOf({ fields: [given] }), [name]).lines).toMatchObject([
    { to: 'given', steps: ['first name'] },
  ]);
});
