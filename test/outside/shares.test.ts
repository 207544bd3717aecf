import { describe, expect, it } from 'vitest';
import { intervalOf, shareOf } from '../../src/core/insight/index.ts';

describe('shares', () => {
  // Figures of the trade: common practice, no published source.
  it.each([
    [1, 31, '3.23'],
    [1, 10, '10.00'],
    [0, 17, '0.00'],
  ])('%i of %i is %s %%', (count, of, percent) => expect((100 * (shareOf(count, of) ?? NaN)).toFixed(2)).toBe(percent));
  it('of nothing says nothing', () => expect(shareOf(0, 0)).toBeNull());
});

describe('intervals', () => {
  // R. G. Newcombe, "Two-sided confidence intervals for the single proportion", Statistics in Medicine 17 (1998), table I,
  // method 3 (score without continuity correction); four figures, from memory.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
    [29, 29, 0.883, 1],
  ])('%i of %i lies from %f to %f', (count, of, from, to) => {
    const [low = NaN, high = NaN] = intervalOf(count, of) ?? [];
    expect(low).toBeCloseTo(from, 4);
    expect(high).toBeCloseTo(to, 4);
  });
  it('of nothing there is none', () => expect(intervalOf(0, 0)).toBeNull());
});
