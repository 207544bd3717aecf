import type { ImportView } from '../../../../contract/imports.ts';

/** What an import is of, as people call it. */
export const rowsOf = ({ fetched }: Pick<ImportView, 'fetched'>): string => (fetched === null ? 'rows' : 'customers');
