import { inOneText, readPayload, type FileDocument, type Payload, type ShopDocument } from '../../core/intake/index.ts';
import { asWritten, type Written } from '../../core/tables/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import type { Row } from './rows.ts';

/** A row as a payload: its cells as they are written everywhere. */
export const payloadOf = ({ cells }: Row, written: Record<string, Written>): Payload => ({
  kind: 'json',
  json: Object.fromEntries(
    Object.entries(cells).map(([name, cell]) => {
      const own = Object.hasOwn(written, name) ? written[name] : undefined;
      if (typeof cell !== 'string') return [name, cell];
      // As we, and others, keep what begins like a formula from being one in a sheet.
      const text = /^'[=+\-@]/.test(cell) ? cell.slice(1) : cell;
      return [name, own === undefined ? text : asWritten(text, own)];
    }),
  ),
  files: [],
});

/** What a row holds by the fields of its source, or why it cannot be taken, in one text. */
export function readRow(
  document: FileDocument | ShopDocument,
  payload: Payload,
): { values: FieldValues } | { why: string } {
  const readings = readPayload(document, payload, { known: {}, now: 0 });
  if (!Array.isArray(readings)) return { why: readings.problem };
  const [reading] = readings;
  if (!reading) return { why: 'There is nothing in it.' };
  return reading.ok ? { values: reading.values } : { why: inOneText(reading.issues) };
}

/** A cell as text, as it is shown and handed back. */
export function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  return typeof cell === 'string' ? cell : JSON.stringify(cell);
}
