/** A figure as people read it here. */
export const figure = (value: number): string =>
  new Intl.NumberFormat('en-GB', { maximumFractionDigits: value < 10 ? 1 : 0 }).format(value);

/** A share in percent, with as many places as say something: 1 of 31 is 3.23 %. */
export const percent = (share: number): string =>
  `${new Intl.NumberFormat('en-GB', { maximumFractionDigits: share < 0.1 ? 2 : 1 }).format(100 * share)} %`;
