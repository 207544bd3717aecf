import { describe, expect, it } from 'vitest';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import { plainLine } from '../../../core/mapping/index.ts';
import type { Finding } from '../../../core/plan/index.ts';
import { mended } from './routeEdits.ts';
import { findingsByPart, partIn, partOfFinding, partOfTarget, targetNames } from './routeParts.ts';

const note = plainLine({ id: 'l-note', to: 'note', from: { kind: 'field', field: 'story' } });
const route = (sourceIds: string[], ...ids: string[]) =>
  routeOf({ sourceIds, targets: ids.map((id) => targetOf(id, { lines: [note] })) });
const finding = (more: Partial<Finding>): Finding => ({
  level: 'warning',
  code: 'c',
  part: 'mapping',
  message: 'M.',
  fix: 'F.',
  why: '',
  ...more,
});

describe('which part of a route is worked on', () => {
  it.each([
    ['', route([]), 'source'],
    ['', route(['S']), 'add'],
    ['', route(['S'], 'one', 'two'), 'target one'],
    ['target two', route(['S'], 'one', 'two'), 'target two'],
    // What a link names may be gone since.
    ['target gone', route(['S'], 'one'), 'target one'],
    ['consent', route([]), 'consent'],
    ['nonsense', route(['S'], 'one'), 'target one'],
  ])('"%s" of %o is %s', (asked, document, part) => expect(partIn(asked, document)).toBe(part));

  it.each([
    [finding({ part: 'consent', target: 1 }), 'consent'],
    [finding({ part: 'tags', target: 1 }), 'target two'],
    [finding({ part: 'target' }), 'target one'],
    [finding({ part: 'mails' }), 'mails'],
  ])('%o is mended in %s', (found, part) => expect(partOfFinding(found, route(['S'], 'one', 'two'))).toBe(part));

  it('has what was found about it', () => {
    const document = route(['S'], 'one', 'two');
    const all = [
      finding({ target: 1 }),
      finding({ part: 'target', target: 1, level: 'blocker' }),
      finding({ part: 'source' }),
    ];
    const byPart = findingsByPart(all, document);
    expect(byPart.get(partOfTarget('two'))).toHaveLength(2);
    expect(byPart.get('source')).toHaveLength(1);
    expect(byPart.get(partOfTarget('one'))).toBeUndefined();
    expect(partOfFinding(finding({ part: 'target' }), route(['S']))).toBe('add');
  });
});

it('tells the targets of one connection apart', () =>
  expect(
    targetNames({ draft: route(['S'], 'a', 'b', 'c'), targetNames: ['Tern Post', 'Rowbarn', 'Tern Post'] }),
  ).toEqual(['Tern Post (1)', 'Rowbarn', 'Tern Post (2)']));

it('mends a finding by its step, in its line of its target only', () => {
  const document = route(['S'], 'one', 'two');
  const mend = { kind: 'cut' as const, options: { length: 20 } };
  const [one, two] = mended(document, finding({ target: 1, line: 'note', mend })).targets;
  expect(one).toBe(document.targets[0]);
  expect(two?.lines[0]?.steps).toMatchObject([mend]);
  expect(mended(document, finding({ target: 1 }))).toBe(document);
});
