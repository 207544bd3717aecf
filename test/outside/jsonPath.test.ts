import fc from 'fast-check';
import { query as reference } from 'jsonpath-rfc9535';
import { describe, expect, it } from 'vitest';
import { isPath, located } from '../../src/core/json/index.ts';

const found = (body: unknown, path: string): unknown[] => located(body, path).map(({ value }) => value);
/** Where the order is open (members of an object), what is found is compared in one of its own. */
const inOrder = (values: unknown[]): string[] => values.map((value) => JSON.stringify(value)).sort();

const LETTERS = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
const FILTERED = {
  a: [3, 5, 1, 2, 4, 6, { b: 'j' }, { b: 'k' }, { b: {} }, { b: 'kilo' }],
  o: { p: 1, q: 2, r: 3, s: 5, t: { u: 6 } },
  e: 'f',
};
const NESTED = { o: { j: 1, k: 2 }, a: [5, 3, [{ j: 4 }, { k: 6 }]] };
const NULLS = { a: null, b: [null], c: [{}], null: 1 };
const COMPARED = { obj: { x: 'y' }, arr: [2, 3] };

/** Examples of the tables of RFC 9535, by the section that each stands in (from memory). */
const EXAMPLES: [section: string, body: unknown, path: string, found: unknown[]][] = [
  ['2.2.3', { k: 'v' }, '$', [{ k: 'v' }]],
  ['2.3.1.3', { o: { 'j j': { 'k.k': 3 } }, "'": { '@': 2 } }, "$.o['j j']", [{ 'k.k': 3 }]],
  ['2.3.1.3', { o: { 'j j': { 'k.k': 3 } }, "'": { '@': 2 } }, "$.o['j j']['k.k']", [3]],
  ['2.3.1.3', { o: { 'j j': { 'k.k': 3 } }, "'": { '@': 2 } }, '$.o["j j"]["k.k"]', [3]],
  ['2.3.1.3', { o: { 'j j': { 'k.k': 3 } }, "'": { '@': 2 } }, '$["\'"]["@"]', [2]],
  ['2.3.2.3', { o: { j: 1, k: 2 }, a: [5, 3] }, '$[*]', [{ j: 1, k: 2 }, [5, 3]]],
  ['2.3.2.3', { o: { j: 1, k: 2 }, a: [5, 3] }, '$.o[*]', [1, 2]],
  ['2.3.2.3', { o: { j: 1, k: 2 }, a: [5, 3] }, '$.o[*, *]', [1, 2, 1, 2]],
  ['2.3.2.3', { o: { j: 1, k: 2 }, a: [5, 3] }, '$.a[*]', [5, 3]],
  ['2.3.3.3', ['a', 'b'], '$[1]', ['b']],
  ['2.3.3.3', ['a', 'b'], '$[-2]', ['a']],
  ['2.3.4.3', LETTERS, '$[1:3]', ['b', 'c']],
  ['2.3.4.3', LETTERS, '$[5:]', ['f', 'g']],
  ['2.3.4.3', LETTERS, '$[1:5:2]', ['b', 'd']],
  ['2.3.4.3', LETTERS, '$[5:1:-2]', ['f', 'd']],
  ['2.3.4.3', LETTERS, '$[::-1]', [...LETTERS].reverse()],
  ['2.3.5.3', FILTERED, "$.a[?@.b == 'kilo']", [{ b: 'kilo' }]],
  ['2.3.5.3', FILTERED, "$.a[?(@.b == 'kilo')]", [{ b: 'kilo' }]],
  ['2.3.5.3', FILTERED, '$.a[?@>3.5]', [5, 4, 6]],
  ['2.3.5.3', FILTERED, '$.a[?@.b]', [{ b: 'j' }, { b: 'k' }, { b: {} }, { b: 'kilo' }]],
  ['2.3.5.3', FILTERED, '$[?@.*]', [FILTERED.a, FILTERED.o]],
  ['2.3.5.3', FILTERED, '$[?@[?@.b]]', [FILTERED.a]],
  ['2.3.5.3', FILTERED, '$.o[?@<3, ?@<3]', [1, 2, 1, 2]],
  ['2.3.5.3', FILTERED, '$.a[?@<2 || @.b == "k"]', [1, { b: 'k' }]],
  ['2.3.5.3', FILTERED, '$.a[?match(@.b, "[jk]")]', [{ b: 'j' }, { b: 'k' }]],
  ['2.3.5.3', FILTERED, '$.a[?search(@.b, "[jk]")]', [{ b: 'j' }, { b: 'k' }, { b: 'kilo' }]],
  ['2.3.5.3', FILTERED, '$.o[?@>1 && @<4]', [2, 3]],
  ['2.3.5.3', FILTERED, '$.o[?@.u || @.x]', [{ u: 6 }]],
  ['2.3.5.3', FILTERED, '$.a[?@.b == $.x]', [3, 5, 1, 2, 4, 6]],
  ['2.3.5.3', FILTERED, '$.a[?@ == @]', FILTERED.a],
  ['2.5.1.3', LETTERS, '$[0, 3]', ['a', 'd']],
  ['2.5.1.3', LETTERS, '$[0:2, 5]', ['a', 'b', 'f']],
  ['2.5.1.3', LETTERS, '$[0, 0]', ['a', 'a']],
  ['2.5.2.3', NESTED, '$..j', [1, 4]],
  ['2.5.2.3', NESTED, '$..[0]', [5, { j: 4 }]],
  ['2.5.2.3', NESTED, '$..o', [{ j: 1, k: 2 }]],
  ['2.5.2.3', NESTED, '$.o..[*, *]', [1, 2, 1, 2]],
  ['2.5.2.3', NESTED, '$.a..[0, 1]', [5, 3, { j: 4 }, { k: 6 }]],
  ['2.6.1', NULLS, '$.a', [null]],
  ['2.6.1', NULLS, '$.a[0]', []],
  ['2.6.1', NULLS, '$.a.d', []],
  ['2.6.1', NULLS, '$.b[0]', [null]],
  ['2.6.1', NULLS, '$.b[*]', [null]],
  ['2.6.1', NULLS, '$.b[?@]', [null]],
  ['2.6.1', NULLS, '$.b[?@==null]', [null]],
  ['2.6.1', NULLS, '$.c[?@.d==null]', []],
  ['2.6.1', NULLS, '$.null', [1]],
];

describe('JSONPath: the examples of RFC 9535', () => {
  it.each(EXAMPLES)('%s: in %j, %s finds %j', (_, body, path, values) => {
    expect(inOrder(found(body, path))).toEqual(inOrder(values));
    // A reader by others, which names the compliance suite of the RFC as passed.
    expect(inOrder(reference(body as never, path))).toEqual(inOrder(values));
  });

  it('finds in order where things have one', () => {
    const ordered = EXAMPLES.filter(([, body]) => Array.isArray(body));
    for (const [, body, path, values] of ordered) expect(found(body, path)).toEqual(values);
  });

  /** Comparisons of 2.3.5.3, table 11 (from memory): whether each holds. */
  it.each<[string, boolean]>([
    ['$.absent1 == $.absent2', true],
    ['$.absent1 <= $.absent2', true],
    ["$.absent == 'g'", false],
    ['$.absent1 != $.absent2', false],
    ["$.absent != 'g'", true],
    ['1 <= 2', true],
    ['1 > 2', false],
    ["13 == '13'", false],
    ["'a' <= 'b'", true],
    ["'a' > 'b'", false],
    ['$.obj == $.arr', false],
    ['$.obj != $.arr', true],
    ['$.obj == $.obj', true],
    ['$.obj != $.obj', false],
    ['$.arr == $.arr', true],
    ['$.obj == 17', false],
    ['$.obj <= $.arr', false],
    ['$.obj < $.arr', false],
    ['$.obj <= $.obj', true],
    ['1 <= $.arr', false],
    ['1 >= $.arr', false],
    ['true <= true', true],
    ['true > true', false],
  ])('%s is %j', (comparison, holds) => expect(found(COMPARED, `$[?${comparison}]`).length > 0).toBe(holds));

  it.each(['', 'a', '$.', '$a', '$[', '$[01]', '$[-0]', '$[1', "$['a", '$[?@.a = 1]', '$[?@.a == @.*]', '$ .a '])(
    '%j is none',
    (path) => {
      expect(isPath(path)).toBe(false);
      expect(() => reference({}, path)).toThrow();
    },
  );

  it('a number that JSON cannot hold exactly is none (2.1, by RFC 7493)', () => {
    expect(isPath('$[9007199254740991]')).toBe(true);
    expect(isPath('$[9007199254740992]')).toBe(false);
  });
});

/** The elements of a slice, as 2.3.4.2.2 works them out (from memory). @param length of the list */
function sliceOf(length: number, start: number | null, end: number | null, step: number): number[] {
  if (step === 0) return [];
  const normal = (at: number) => (at >= 0 ? at : length + at);
  const from = normal(start ?? (step > 0 ? 0 : length - 1));
  const to = normal(end ?? (step > 0 ? length : -length - 1));
  const within = (at: number, least: number, most: number) => Math.min(Math.max(at, least), most);
  const [lower, upper] =
    step > 0
      ? [within(from, 0, length), within(to, 0, length)]
      : [within(to, -1, length - 1), within(from, -1, length - 1)];
  const found: number[] = [];
  if (step > 0) for (let at = lower; at < upper; at += step) found.push(at);
  else for (let at = upper; at > lower; at += step) found.push(at);
  return found;
}

it('a slice finds what the RFC works out, whichever way it goes', () => {
  const bound = fc.option(fc.integer({ min: -7, max: 7 }), { nil: null });
  fc.assert(
    fc.property(
      fc.nat(6),
      bound,
      bound,
      fc.option(fc.integer({ min: -3, max: 3 }), { nil: null }),
      (length, from, to, step) => {
        const list = Array.from({ length }, (_, at) => at);
        const path = `$[${from ?? ''}:${to ?? ''}${step === null ? '' : `:${step}`}]`;
        expect(found(list, path)).toEqual(sliceOf(length, from, to, step ?? 1));
      },
    ),
    { numRuns: 3_000, seed: 9 },
  );
});

it('what any path without filters finds in anything is what the other reader finds', () => {
  const name = fc.constantFrom('a', 'b', 'c', 'ä', 'x y');
  const json = fc.letrec<{ value: unknown }>((tie) => ({
    value: fc.oneof(
      { maxDepth: 4, depthSize: 'large' },
      fc.constantFrom<unknown>(null, true, false, 0, 1, -2.5, 'a', 'kilo', ''),
      fc.array(tie('value'), { maxLength: 4 }),
      fc.dictionary(name, tie('value'), { maxKeys: 4, noNullPrototype: true }),
    ),
  })).value;
  const index = fc.integer({ min: -4, max: 4 });
  // Filters, and slices from behind, are held against the RFC itself, above: the other reader is wrong about some of them (1.3.0).
  const part = fc.option(fc.nat(4), { nil: '' });
  const selector = fc.oneof(
    name.map((text) => JSON.stringify(text)),
    fc.constant('*'),
    index.map(String),
    fc.tuple(part, part, part).map((all) => all.join(':')),
  );
  const segment = fc
    .tuple(fc.constantFrom('', '', '..'), fc.array(selector, { minLength: 1, maxLength: 2 }))
    .map(([deep, all]) => `${deep}[${all.join(',')}]`);
  fc.assert(
    fc.property(json, fc.array(segment, { maxLength: 3 }), (body, segments) => {
      const path = `$${segments.join('')}`;
      expect(inOrder(found(body, path))).toEqual(inOrder(reference(body as never, path)));
    }),
    { numRuns: 3_000, seed: 9 },
  );
});
