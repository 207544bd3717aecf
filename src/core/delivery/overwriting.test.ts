import { describe, expect, it } from 'vitest';
import { intentOf } from '../../../test/world/intents.ts';
import type { OverwriteRule, SentValue } from '../mapping/index.ts';
import { looksFirst, overwriting, ruleFor } from './index.ts';

describe('what goes into a field of somebody who is there', () => {
  it.each<[OverwriteRule, SentValue | null, SentValue | null | undefined, SentValue | null | undefined]>([
    ['latest', 'new', 'old', 'new'],
    ['latest', null, 'old', null],
    ['fill gaps', 'new', 'old', undefined],
    ['fill gaps', 'new', '', 'new'],
    ['fill gaps', 'new', null, 'new'],
    ['fill gaps', 'new', [], 'new'],
    ['new people', 'new', '', undefined],
    ['new people', 'new', undefined, undefined],
    ['longest', 'Mara Anne', 'Mara', 'Mara Anne'],
    ['longest', 'M', 'Mara', undefined],
    ['longest', null, 'Mara', undefined],
    ['highest', 10, '9', 10],
    ['highest', 9, 10, undefined],
    ['highest', '2026-05-31', '2026-04-01', '2026-05-31'],
    ['highest', '2026-05-31', '2026-06-01', undefined],
    ['highest', null, 3, undefined],
    ['add', ['b', 'c'], ['a', 'b'], ['a', 'b', 'c']],
    ['add', ['a'], ['a', 'b'], undefined],
    ['add', 'c', 'a, b', 'a, b, c'],
    ['add', 'c', '', 'c'],
    ['add', null, 'a', undefined],
  ])('%s: %j over %j is %j', (rule, meant, held, sent) => expect(overwriting(rule, meant, held)).toEqual(sent));

  it('goes by its own rule, or by that of the target', () => {
    const intent = intentOf('a@b.example', { duplicates: 'fill gaps', rules: { points: 'highest' } });
    expect([ruleFor(intent, 'points'), ruleFor(intent, 'given')]).toEqual(['highest', 'fill gaps']);
    expect(ruleFor(intentOf('a@b.example'), 'given')).toBe('latest');
  });

  it('is looked at first where that matters', () => {
    expect(looksFirst(intentOf('a@b.example'))).toBe(false);
    expect(looksFirst(intentOf('a@b.example', { rules: { given: 'latest' } }))).toBe(false);
    expect(looksFirst(intentOf('a@b.example', { rules: { given: 'longest' } }))).toBe(true);
    expect(looksFirst(intentOf('a@b.example', { duplicates: 'leave alone' }))).toBe(true);
  });
});
