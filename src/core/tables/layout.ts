import Papa from 'papaparse';
import { stepTo } from '../json/index.ts';

/** What can stand between two columns. */
export const DELIMITERS = [',', ';', '\t', '|'] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** How a file of text is laid out, and what it was judged by. */
export interface Layout {
  delimiter: Delimiter;
  header: boolean;
  because: string;
}

const NAMES: Record<Delimiter, string> = { ',': 'A comma', ';': 'A semicolon', '\t': 'A tab', '|': 'A bar' };

/** Judges how the beginning of a file of text is laid out: what parts its rows into as many columns each, and more than one. */
export function layoutOf(head: string): Layout {
  // Its last line may be cut.
  const whole = head.includes('\n') ? head.slice(0, head.lastIndexOf('\n')) : head;
  const tried = DELIMITERS.map((delimiter) => {
    const { data } = Papa.parse<string[]>(whole, { delimiter, skipEmptyLines: true });
    const columns = data[0]?.length ?? 0;
    const alike = data.filter((row) => row.length === columns).length;
    return { delimiter, rows: data, columns, alike: columns > 1 ? alike / data.length : 0 };
  });
  const [best] = [...tried].sort((one, other) => other.alike - one.alike || other.columns - one.columns);
  const { delimiter, rows, columns, alike } = best ?? { delimiter: ',' as const, rows: [], columns: 1, alike: 0 };
  const parted =
    alike === 0
      ? 'Nothing parts its rows: it is one column.'
      : `${NAMES[delimiter]} parts ${alike === 1 ? 'every row' : `${Math.round(alike * 100)} % of the rows`} looked at into ${columns} columns.`;
  const { header, why } = headerIn(rows);
  return { delimiter, header, because: `${parted} ${why}` };
}

/** Whether the first row names the columns: its texts differ from one another, and are none of what stands below. */
export function headerIn(rows: string[][]): { header: boolean; why: string } {
  const [first = [], ...others] = rows;
  const names = first.map((name) => name.trim());
  const isNamed = names.every((name) => name !== '' && name.length <= 80 && !/^[\d.,/-]+$|@/.test(name));
  const isOwn = new Set(names.map((name) => name.toLowerCase())).size === names.length;
  const isBelow = others.some((row) => row.some((value, at) => value.trim() !== '' && value.trim() === names[at]));
  return isNamed && isOwn && !isBelow
    ? { header: true, why: 'The first row names the columns.' }
    : { header: false, why: 'The first row is like the others: it names nothing.' };
}

/** Where a field finds a column: a JSONPath. */
export const pathToColumn = (name: string): string => `$${stepTo(name)}`;

/** The names of columns, each its own: doubled ones get a number, and nameless ones their place. */
export function columnNames(first: string[], header: boolean): string[] {
  const names: string[] = [];
  for (const [at, written] of first.entries()) {
    const name = header ? written.trim().replace(/\s+/g, ' ').slice(0, 80) : '';
    const base = name === '' ? `Column ${at + 1}` : name;
    let own = base;
    for (let number = 2; names.includes(own); number += 1) own = `${base} ${number}`;
    names.push(own);
  }
  return names;
}
