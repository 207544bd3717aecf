import { expect, it } from 'vitest';
import { sayWhen } from './Time.tsx';
import { capital, plural } from './words.ts';

it('says several of a thing, by its first word', () => {
  expect(['list', 'segment', 'kind of record'].map(plural)).toEqual(['lists', 'segments', 'kinds of record']);
});

it('begins a label with a capital', () => {
  expect(['list', ''].map(capital)).toEqual(['List', '']);
});

it.each([
  [0, 'just now'],
  [-9, 'just now'],
  [3, 'in a moment'],
  [-30, '30 seconds ago'],
  [40, 'in 40 seconds'],
  [-60, '1 minute ago'],
  [-3599, '59 minutes ago'],
  [-2 * 3600 + 1, '1 hour ago'],
  [-86_400, 'yesterday'],
  [2 * 86_400, 'in 2 days'],
  [3 * 86_400 - 20, 'in 3 days'],
  [2 * 86_400 + 3600, 'in 2 days'],
  [14 * 86_400 - 1, 'in 2 weeks'],
  [3600 - 20, 'in 1 hour'],
  [86_400 - 3600, 'in 23 hours'],
  [-3 * 86_400 + 20, '2 days ago'],
])('says when, %d seconds from now: %s', (seconds, words) => {
  expect(sayWhen(new Date(1_000_000_000 + seconds * 1000).toISOString(), 1_000_000_000)).toBe(words);
});
