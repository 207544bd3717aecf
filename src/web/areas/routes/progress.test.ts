import { expect, it } from 'vitest';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import type { Finding } from '../../../core/plan/index.ts';
import { tasksOf } from './progress.ts';

const nothing = { findings: [] as Finding[], state: 'draft' as const, changed: true, proof: null };
const open = (tasks: ReturnType<typeof tasksOf>) => tasks.filter(({ isDone }) => !isDone).map(({ text }) => text);
const blocker = (part: Finding['part']): Finding => ({
  level: 'blocker',
  code: 'x',
  part,
  message: '',
  fix: '',
  why: '',
});
const target = targetOf('t', { places: [{ id: 'p', list: 'L', group: '', when: null }] });

it('begins with what comes first, and ends when it is proved and published', () => {
  expect(open(tasksOf(routeOf({ sourceIds: [] }), nothing))[0]).toBe('choose where submissions come from');
  expect(open(tasksOf(routeOf(), nothing))[0]).toBe('choose where people go');
  expect(open(tasksOf(routeOf({ targets: [target] }), nothing))).toEqual(['send a test person', 'publish it']);
  const proof = { trialId: 'T', version: 1, state: 'proved' as const, at: '', by: '', stale: false };
  const done = { ...nothing, state: 'live' as const, changed: false, proof };
  expect(open(tasksOf(routeOf({ targets: [target] }), done))).toEqual([]);
  expect(open(tasksOf(routeOf({ targets: [target] }), { ...done, proof: { ...proof, stale: true } }))).toEqual([
    'send a test person',
  ]);
});

it.each([
  ['mapping', 'map what is required there'],
  ['consent', 'decide consent'],
  ['target', 'choose the list and who goes there'],
] as const)('what stands in the way of %s is to be done', (part, text) =>
  expect(open(tasksOf(routeOf({ targets: [target] }), { ...nothing, findings: [blocker(part)] }))[0]).toBe(text),
);
