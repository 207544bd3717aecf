import { XMLParser } from 'fast-xml-parser';
import { isObject, type Loose } from '../documents/index.ts';

const ALWAYS_LISTS = new Set(['table', 'table-row', 'table-cell', 'covered-table-cell', 'p']);

const xml = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  textNodeName: '#text',
  parseTagValue: false,
  parseAttributeValue: false,
  removeNSPrefix: true,
  htmlEntities: true,
  trimValues: false,
  isArray: (name) => ALWAYS_LISTS.has(name),
});

/** A row or a cell that is said to repeat stands for at most so many: sheets end with a row that repeats to their end. */
const MOST_REPEATED = 1_000;

const listAt = (of: unknown, name: string): Loose[] =>
  isObject(of) && Array.isArray(of[name])
    ? (of[name] as unknown[]).map((one) => (isObject(one) ? one : { '#text': one }))
    : [];
const repeats = (of: Loose, what: string): number =>
  Math.min(MOST_REPEATED, Math.max(1, Number(of[`@number-${what}-repeated`] ?? 1) || 1));

/** All text in an element, whatever is around its parts. */
function textIn(of: unknown): string {
  if (typeof of === 'string') return of;
  if (Array.isArray(of)) return of.map(textIn).join('');
  if (!isObject(of)) return '';
  return Object.entries(of)
    .filter(([name]) => !name.startsWith('@'))
    .map(([, inner]) => textIn(inner))
    .join('');
}

/** An attribute, which is always a text; '' for none. */
function attribute(of: Loose, name: string): string {
  const value = of[name];
  return typeof value === 'string' ? value : '';
}

/** What a cell holds, by its type (OpenDocument 1.3, part 3, 19.385): dates and figures as machines write them. */
function cellValue(cell: Loose): string {
  switch (cell['@value-type']) {
    case 'float':
    case 'currency':
    case 'percentage':
      return attribute(cell, '@value');
    case 'date':
      return attribute(cell, '@date-value').replace(/T00:00:00$/, '');
    case 'boolean':
      return cell['@boolean-value'] === 'true' ? 'yes' : 'no';
    default:
      return listAt(cell, 'p').map(textIn).join('\n');
  }
}

/** A sheet of a file that may have several. */
export interface Sheet {
  name: string;
  rows: string[][];
}

/** A spreadsheet has more cells than are read: a row of few bytes can say that it repeats a million times. */
export class TooManyCells extends Error {}

/**
 * The sheets in the content of a spreadsheet, in their order (OpenDocument 1.3, ISO/IEC 26300).
 * @param mostCells of all sheets together @throws TooManyCells
 */
export function readOdsContent(content: string, mostCells = Infinity): Sheet[] {
  const parsed = xml.parse(content) as Loose;
  const body = (parsed['document-content'] as Loose | undefined)?.body as Loose | undefined;
  const room = { left: mostCells };
  return listAt(body?.spreadsheet, 'table').map((sheet) => ({
    name: attribute(sheet, '@name'),
    rows: rowsIn(sheet, room),
  }));
}

function rowsIn(sheet: Loose, room: { left: number }): string[][] {
  const rows: string[][] = [];
  for (const row of listAt(sheet, 'table-row')) {
    const cells: string[] = [];
    for (const cell of listAt(row, 'table-cell')) {
      const many = repeats(cell, 'columns');
      room.left -= many;
      if (room.left < 0) throw new TooManyCells();
      const value = cellValue(cell);
      for (let at = 0; at < many; at += 1) cells.push(value);
    }
    while (cells.length > 0 && cells.at(-1) === '') cells.pop();
    const many = cells.length === 0 ? 1 : repeats(row, 'rows');
    room.left -= many * (1 + cells.length);
    if (room.left < 0) throw new TooManyCells();
    for (let at = 0; at < many; at += 1) rows.push(cells);
  }
  while (rows.length > 0 && rows.at(-1)?.length === 0) rows.pop();
  return rows;
}

/** Which of several sheets is meant where nobody said: the first that has rows, or the first. */
export const usualSheet = (sheets: Sheet[]): Sheet | undefined =>
  sheets.find(({ rows }) => rows.length > 0) ?? sheets[0];

/** A cell of a workbook as text: a day without its midnight. */
export const workbookText = (value: unknown): string =>
  value === null || value === undefined
    ? ''
    : value instanceof Date
      ? value.toISOString().replace(/T00:00:00\.000Z$/, '')
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : typeof value === 'string' || typeof value === 'number'
          ? String(value)
          : '';
