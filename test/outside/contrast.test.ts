import { describe, expect, it } from 'vitest';
import { contrastOf, contrastsOf, nearestPassing } from '../../src/core/contrast/index.ts';
import { PLAIN_LOOK, PLAIN_NIGHT } from '../../src/core/forms/index.ts';

/** The definition, step by step (WCAG 2.2, relative luminance and contrast ratio). */
function byDefinition(one: string, other: string): number {
  const luminance = (colour: string) => {
    const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) => {
      const share = parseInt(colour.slice(at, at + 2), 16) / 255;
      return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  };
  const [light = 0, dark = 0] = [luminance(one), luminance(other)].sort((a, b) => b - a);
  return (light + 0.05) / (dark + 0.05);
}

describe('contrast', () => {
  // Black on white is 21 to 1 by definition; the greys are pairs that are often cited (from memory).
  it.each([
    ['#000000', '#ffffff', 21],
    ['#ffffff', '#ffffff', 1],
    ['#777777', '#ffffff', 4.48],
    ['#767676', '#ffffff', 4.54],
    ['#949494', '#ffffff', 3.03],
  ])('of %s on %s is %f', (one, other, ratio) => {
    expect(contrastOf(one, other)).toBeCloseTo(ratio, 2);
    expect(contrastOf(other, one)).toBe(contrastOf(one, other));
  });

  it('is as the definition computes it, for colours all over', () => {
    const parts = ['00', '33', '77', 'c4', 'ff'];
    const colours = parts.flatMap((red) => parts.flatMap((green) => parts.map((blue) => `#${red}${green}${blue}`)));
    for (const [at, colour] of colours.entries()) {
      const other = colours[(at * 37) % colours.length] ?? '';
      // The package has the weights of sRGB with more digits than WCAG writes.
      expect(contrastOf(colour, other)).toBeCloseTo(byDefinition(colour, other), 2);
    }
  });
});

describe('the nearest colour that passes', () => {
  it.each([
    ['#8fbcc4', '#ffffff', 4.5],
    ['#ffd98a', '#ffffff', 3],
    ['#1a1a1a', '#14191c', 4.5],
    ['#c02020', '#202020', 4.5],
  ])('to %s on %s passes, and stays near', (colour, behind, needs) => {
    const passing = nearestPassing(colour, behind, needs);
    expect(passing).toMatch(/^#[0-9a-f]{6}$/);
    expect(byDefinition(passing ?? '', behind)).toBeGreaterThanOrEqual(needs);
    // No more than is needed: a step less would not do.
    expect(byDefinition(passing ?? '', behind)).toBeLessThan(needs + 0.5);
  });
  it('is none where nothing can pass', () => expect(nearestPassing('#777777', '#777777', 20)).toBeNull());
});

it.each([
  ['by day', PLAIN_LOOK.colours],
  ['at night', PLAIN_NIGHT],
])('the colours that a form starts with stand out, %s', (_, colours) => {
  expect(contrastsOf(colours).filter(({ has, needs }) => has < needs)).toEqual([]);
});

it('says nothing of a ground that shows what is behind', () =>
  expect(contrastsOf({ ...PLAIN_LOOK.colours, ground: '' }).map(({ what }) => what)).toEqual(['onAction']));
