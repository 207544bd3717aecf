import type { ImportView } from '../../../../contract/imports.ts';

/** What an import is of, as people call it. */
export const rowsOf = ({ fetched }: Pick<ImportView, 'fetched'>): string => (fetched === null ? 'rows' : 'customers');

/** So many of them: "1 row", "20 customers". */
export const countedRows = (file: Pick<ImportView, 'fetched'>, count: number): string =>
  `${count} ${count === 1 ? rowsOf(file).slice(0, -1) : rowsOf(file)}`;
