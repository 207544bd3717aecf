import fc from 'fast-check';
// @ts-expect-error -- it comes without types: costs in, pairs of indices out
import untyped from 'munkres-js';
import { expect, it } from 'vitest';
import { assign } from '../../src/core/mapping/suggestions/index.ts';

const computeMunkres = untyped as (costs: number[][]) => [number, number][];

// munkres-js 1.2.2, a package by other hands, as the second opinion: of costs, and without a notion of "no fit".
it('the sum of what belongs together is the one that munkres-js finds', () =>
  fc.assert(
    fc.property(
      fc.tuple(fc.integer({ min: 1, max: 25 }), fc.integer({ min: 1, max: 25 })).chain(([rows, columns]) =>
        fc.array(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: columns, maxLength: columns }), {
          minLength: rows,
          maxLength: rows,
        }),
      ),
      (table) => {
        const sum = (pairs: number[][]) =>
          pairs.reduce((total, [row = 0, column = 0]) => total + (table[row]?.[column] ?? 0), 0);
        const costs = table.map((row) => row.map((score) => 100 - score));
        expect(sum(assign(table))).toBe(sum(computeMunkres(costs)));
      },
    ),
    { numRuns: 100 },
  ));
