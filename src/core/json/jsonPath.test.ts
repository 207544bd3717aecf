import { describe, expect, it } from 'vitest';
import { all, depthOf, isPath, MOST_STEPS, TooManySteps, withinSteps } from './index.ts';

const nested = (deep: number, wide: number): unknown =>
  deep === 0 ? 'a' : Array.from({ length: wide }, () => nested(deep - 1, wide));

describe('paths that operators write', () => {
  it.each([`$${'..*'.repeat(12)}`, `$${'[*,*,*,*]'.repeat(10)}`, '$..[?count($..*) > 0]'])(
    'such as %s end within their steps',
    (path) => expect(() => withinSteps(() => all(nested(9, 3), path))).toThrow(TooManySteps),
  );
  it('use one budget however many are looked for', () => {
    const body = { list: Array.from({ length: 2_000 }, () => 1) };
    expect(all(body, '$.list[*]')).toHaveLength(2_000);
    const often = () => Array.from({ length: MOST_STEPS / 1_000 }, () => all(body, '$.list[*]'));
    expect(() => withinSteps(often)).toThrow(TooManySteps);
    // The next one begins anew.
    expect(withinSteps(() => all(body, '$.list[*]'))).toHaveLength(2_000);
  });
  it('search in a time that grows with the text alone', () => {
    const body = [`${'a'.repeat(50_000)}b`];
    expect(all(body, '$[?search(@, "(a+)+$")]')).toEqual([]);
    expect(all(body, '$[?match(@, "(a|a)*b")]')).toEqual(body);
  });
  it.each([
    ['a.c', 'abc', true],
    ['a.c', 'a\nc', false],
    ['[.]', 'b', false],
    ['\\p{Lu}x', 'Éx', true],
    // Not in RFC 9485: no expression, which matches nothing.
    ['\\d', '1', false],
    ['a(', 'a(', false],
  ])('take %s as RFC 9485 has it: of %j', (pattern, text, matches) =>
    expect(all([text], `$[?match(@, ${JSON.stringify(pattern)})]`)).toEqual(matches ? [text] : []),
  );
  it('are told from what are none', () => expect([isPath('$.a'), isPath('$.a[')]).toEqual([true, false]));
});

it.each([
  ['7', 0],
  ['[]', 1],
  ['{"a":[{"b":1}]}', 3],
  ['"[[["', 0],
  ['["\\"[", [1]]', 2],
  ['['.repeat(50_000), 50_000],
])('a text nests as deep as it opens: %.20s', (text, depth) => expect(depthOf(text)).toBe(depth));
