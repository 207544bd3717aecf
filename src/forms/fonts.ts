import type { Font, Look } from '../core/forms/index.ts';

/** A font that is shipped, as browsers load it. */
export interface ShippedFont {
  family: string;
  /** Its weights, such as 200 900. */
  weight: string;
  /** Of which letters it is loaded. */
  range: string;
  /** Its file's name. */
  file: string;
}

/** Where shipped fonts are found, below our own address. */
export const FONT_PATH = '/place/fonts/';

/** What the packages call their files by: Western European letters, and those of the rest of Europe. */
const RANGES = {
  latin:
    'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD',
  'latin-ext':
    'U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF',
};

/** @param file the name of its files, with {range} in it */
const shipped = (family: string, weight: string, file: string): ShippedFont[] =>
  Object.entries(RANGES).map(([name, range]) => ({ family, weight, range, file: file.replace('{range}', name) }));

const SHIPPED: Record<Font, ShippedFont[]> = {
  site: [],
  sans: shipped('Source Sans 3 Variable', '200 900', 'source-sans-3-{range}-wght-normal.woff2'),
  serif: shipped('Source Serif 4 Variable', '200 900', 'source-serif-4-{range}-wght-normal.woff2'),
  typewriter: [
    ...shipped('Source Code Pro', '400', 'source-code-pro-{range}-400-normal.woff2'),
    ...shipped('Source Code Pro', '600', 'source-code-pro-{range}-600-normal.woff2'),
  ],
};

/** Every font that a form can be written in. */
export const SHIPPED_FONTS: ShippedFont[] = Object.values(SHIPPED).flat();

/** The shipped fonts that a look is written in. */
export const fontsOf = ({ font }: Pick<Look, 'font'>): ShippedFont[] => SHIPPED[font];

/** The same as CSS for a page. @param base our own address, without a slash at its end; '' on a page of ours */
export const printFontFaces = (look: Pick<Look, 'font'>, base: string): string =>
  fontsOf(look)
    .map(
      ({ family, weight, range, file }) =>
        `@font-face{font-family:'${family}';font-weight:${weight};font-display:swap;src:url("${base}${FONT_PATH}${file}") format("woff2");unicode-range:${range}}`,
    )
    .join('\n');
