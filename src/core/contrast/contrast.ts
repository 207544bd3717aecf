import Color from 'colorjs.io';
import type { Colours } from '../forms/index.ts';

/** What is read out of what of a form, and the contrast that it needs. */
export interface Contrast {
  what: keyof Colours;
  /** The colour behind it. */
  behind: keyof Colours;
  needs: number;
  has: number;
  /** The colour nearest to it that passes; null where it does, or where none would. */
  passing: string | null;
}

/** Text needs 4.5 to 1 (WCAG 2.2, 1.4.3), what shows where a control is 3 to 1 (1.4.11). */
const PAIRS: [what: keyof Colours, behind: keyof Colours, needs: number][] = [
  ['ink', 'ground', 4.5],
  ['quiet', 'ground', 4.5],
  ['onAction', 'action', 4.5],
  ['wrong', 'ground', 4.5],
  ['line', 'ground', 3],
  ['action', 'ground', 3],
  ['ink', 'fade', 4.5],
  ['quiet', 'fade', 4.5],
  ['wrong', 'fade', 4.5],
  ['action', 'fade', 3],
  ['onAction', 'hover', 4.5],
];

/** How colours of a form stand out. Of a ground that lets through, nothing can be said: those pairs are left out. */
export const contrastsOf = (colours: Colours): Contrast[] =>
  PAIRS.filter(([, behind]) => colours[behind] !== '').map(([what, behind, needs]) => {
    const has = contrastOf(colours[what], colours[behind]);
    return {
      what,
      behind,
      needs,
      has,
      passing: has >= needs ? null : nearestPassing(colours[what], colours[behind], needs),
    };
  });

/** The contrast of two colours, from 1 to 21 (WCAG 2.2, definition of contrast ratio). */
export const contrastOf = (one: string, other: string): number => new Color(one).contrast(other, 'WCAG21');

/**
 * How much of its ground has to lie over any picture, so that what is written on it stands out: held against the lightest and the
 * darkest that a picture can be.
 * @returns percent; 100 where even the bare ground is too near
 */
export function leastVeil(colours: Colours): number {
  const ground = new Color(colours.ground || '#ffffff');
  const extremes = ['#000000', '#ffffff'].map((extreme) => new Color(extreme));
  const written = PAIRS.flatMap(([what, behind, needs]) =>
    behind === 'ground' ? [{ colour: new Color(colours[what]), needs }] : [],
  );
  const passes = (veil: number): boolean =>
    extremes.every((extreme) => {
      const seen = laidOver(ground, extreme, veil / 100);
      return written.every(({ colour, needs }) => colour.contrast(seen, 'WCAG21') >= needs);
    });
  for (let veil = 0; veil < 100; veil += 1) if (passes(veil)) return veil;
  return 100;
}

/** As browsers lay one colour over another: each channel of sRGB by itself (Compositing and Blending 1, 5.1). @param share of the upper one */
function laidOver(upper: Color, lower: Color, share: number): Color {
  const channel = (at: 0 | 1 | 2) => share * (upper.coords[at] ?? 0) + (1 - share) * (lower.coords[at] ?? 0);
  return new Color('srgb', [channel(0), channel(1), channel(2)]);
}

const STEPS = 200;

/**
 * The colour nearest to one that stands out enough: of the same hue, lighter or darker, whichever is less far (OKLCH).
 * @returns as #rrggbb; null where neither does
 */
export function nearestPassing(colour: string, behind: string, needs: number): string | null {
  const { l } = new Color(colour).to('oklch');
  for (let step = 1; step <= STEPS; step += 1) {
    for (const lightness of [(l ?? 0) - step / STEPS, (l ?? 0) + step / STEPS]) {
      if (lightness < 0 || lightness > 1) continue;
      const tried = new Color(colour)
        .to('oklch')
        .set('l', lightness)
        .to('srgb')
        .toGamut()
        .toString({ format: 'hex', collapse: false });
      if (contrastOf(tried, behind) >= needs) return tried;
    }
  }
  return null;
}
