import { describe, expect, it } from 'vitest';
import { checksWord } from './checksWord.ts';

const line = { blockers: 0, warnings: 0, archivedAt: null };

describe('a route is called clear', () => {
  it('where its checks found nothing', () => expect(checksWord(line)).toBe('clear'));
  it.each([
    ['blockers', 1],
    ['warnings', 1],
  ])('not where there are %s', (what, count) => expect(checksWord({ ...line, [what]: count })).toBeNull());
  it('not where nobody looked: it is archived', () =>
    expect(checksWord({ ...line, archivedAt: '2026-05-01T00:00:00.000Z' })).toBe('not looked at'));
});
