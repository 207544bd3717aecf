export { readCards } from './cards.ts';
export { asWritten, ColumnJudge, WRITTEN, type ColumnFound, type Written } from './judge.ts';
export { columnNames, DELIMITERS, headerIn, layoutOf, pathToColumn, type Delimiter } from './layout.ts';
export { readOdsContent, TooManyCells, usualSheet, workbookText, type Sheet } from './sheets.ts';
