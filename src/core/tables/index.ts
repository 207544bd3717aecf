export { readCards } from './cards.ts';
export { asWritten, ColumnInference, WRITTEN, type InferredColumn, type Written } from './inferColumn.ts';
export { columnNames, DELIMITERS, headerIn, layoutOf, pathToColumn, type Delimiter } from './layout.ts';
export { readOdsContent, TooManyCells, usualSheet, workbookText, type Sheet } from './sheets.ts';
