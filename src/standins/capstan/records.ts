import { randomBytes } from 'node:crypto';
import type { CapstanRecord, CapstanState, Column, Kind } from './state.ts';

export interface Trouble {
  status: 400 | 409 | 422;
  code: string;
  text: string;
  column?: string;
}

/** Everything arrives as text, from forms and from JSON alike. */
export type Cells = Record<string, string>;

/** What keeps cells from being taken: columns that do not exist, are empty though they must not be, or hold the wrong thing. */
export function checkCells(kind: Kind, cells: Cells, held: Cells): Trouble | null {
  for (const [code, text] of Object.entries(cells)) {
    const column = kind.columns.find((candidate) => candidate.code === code);
    if (!column) return { status: 422, code: 'NO_COLUMN', text: `${kind.title} has no column ${code}.`, column: code };
    const wrong = text === '' ? null : wrongCell(column, text);
    if (wrong)
      return { status: 422, code: column.form === 'mail' ? 'BAD_MAIL' : 'BAD_CELL', text: wrong, column: code };
  }
  const missing = kind.columns.find(({ code, must }) => must && (cells[code] ?? held[code] ?? '') === '');
  return missing
    ? { status: 422, code: 'MUST_FILL', text: `${missing.title} must be filled.`, column: missing.code }
    : null;
}

function wrongCell({ title, form, picks, most }: Column, text: string): string | null {
  switch (form) {
    case 'mail':
      return /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(text) ? null : `${title}: ${text} is no mail address.`;
    case 'whole':
      return /^-?\d+$/.test(text) ? null : `${title} takes a whole number.`;
    case 'tick':
      return text === '1' || text === '0' ? null : `${title} takes 1 or 0.`;
    case 'pick':
      return picks.includes(text) ? null : `${title} takes one of: ${picks.join(', ')}.`;
    case 'day':
      return /^\d{4}-\d{2}-\d{2}$/.test(text) ? null : `${title} takes a day such as 2026-05-31.`;
    case 'call':
    case 'words':
      return most !== null && text.length > most ? `${title} takes at most ${most} characters.` : null;
    default:
      return form satisfies never;
  }
}

export const recordsWhere = (state: CapstanState, kind: string, column: string, is: string): CapstanRecord[] =>
  state.records.filter(
    (record) => record.kind === kind && (record.cells[column] ?? '').toLowerCase() === is.toLowerCase(),
  );

export function makeRecord(state: CapstanState, kind: Kind, cells: Cells): CapstanRecord | Trouble {
  const trouble = checkCells(kind, cells, {});
  if (trouble) return trouble;
  const [twin] = kind.repeats ? [] : recordsWhere(state, kind.slug, 'mail', cells.mail ?? '');
  if (twin) return { status: 409, code: 'TWIN', text: `Record ${twin.no} has this mail address already.` };
  const record = {
    // Long enough that two made at one moment never share it: what is done to one of them would be done to the other.
    no: `R${Date.now().toString(36)}${randomBytes(5).toString('hex')}`,
    kind: kind.slug,
    cells,
    segments: [],
    made: new Date().toISOString(),
    changes: 1,
  };
  state.records.push(record);
  return record;
}

export function changeRecord(record: CapstanRecord, kind: Kind, cells: Cells): Trouble | null {
  const trouble = checkCells(kind, cells, record.cells);
  if (trouble) return trouble;
  Object.assign(record.cells, cells);
  record.changes += 1;
  return null;
}
