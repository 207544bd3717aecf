/** A figure as people read it here. */
export const figure = (value: number): string =>
  new Intl.NumberFormat('en-GB', { maximumFractionDigits: value < 10 ? 1 : 0 }).format(value);

/** A share in percent, with as many places as say something: 1 of 31 is 3.23 %. */
export const percent = (share: number): string =>
  `${new Intl.NumberFormat('en-GB', { maximumFractionDigits: share < 0.1 ? 2 : 1 }).format(100 * share)} %`;

const UNITS: [unit: string, seconds: number][] = [
  ['day', 86_400],
  ['hour', 3_600],
  ['minute', 60],
  ['second', 1],
];

/** A stretch of time as people say it: 1.5 minutes. @param seconds more than 0 */
export function timeSpan(seconds: number): string {
  const [unit, length] = UNITS.find(([, one]) => seconds >= one) ?? ['second', 1];
  const many = seconds / length;
  return `${figure(many)} ${unit}${many === 1 ? '' : 's'}`;
}
