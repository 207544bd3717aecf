import { Hono, type Context, type MiddlewareHandler } from 'hono';
import type { Sheet, SheetColumn, RowbarnState } from './state.ts';

const MOST = 2;

interface Row {
  row?: Record<string, unknown>;
}

/** Rowbarn's API: bearer tokens, sheets of text cells, rows that are only ever added, pages by offset. */
export function rowbarnApi(state: () => RowbarnState, changed: () => void): Hono {
  const api = new Hono();
  const fault = (c: Context, status: 400 | 404, name: string, why: string) => c.json({ fault: name, why }, status);

  const needs =
    (scope: string): MiddlewareHandler =>
    async (c, next) => {
      const token = (c.req.header('authorization') ?? '').replace(/^Bearer /i, '');
      const grant = state().grants.find((one) => one.kind === 'access' && one.token === token);
      // RFC 6750, 3.1
      const challenge = (error: string) => ({ 'www-authenticate': `Bearer realm="rowbarn", error="${error}"` });
      if (!grant || grant.until <= Date.now())
        return c.json({ fault: 'token', why: 'The token is unknown or over.' }, 401, challenge('invalid_token'));
      if (!grant.scope.split(' ').includes(scope))
        return c.json({ fault: 'scope', why: `The token lacks ${scope}.` }, 403, challenge('insufficient_scope'));
      return next();
    };

  const part = (c: Context, all: unknown[]) => {
    const offset = Number(c.req.query('offset') ?? 0);
    const limit = Math.min(MOST, Number(c.req.query('limit') ?? MOST));
    return c.json({ entries: all.slice(offset, offset + limit), total: all.length });
  };
  const sheetOf = (c: Context): Sheet | undefined => state().sheets.find(({ id }) => id === c.req.param('id'));
  const noSheet = (c: Context) => fault(c, 404, 'no-sheet', 'There is no such sheet.');

  api.get('/me', needs('sheets.read'), (c) => c.json(state().person));
  api.get('/sheets', needs('sheets.read'), (c) =>
    part(
      c,
      state().sheets.map(({ id, title }) => ({ id, title })),
    ),
  );
  api.get('/sheets/:id/columns', needs('sheets.read'), (c) => {
    const sheet = sheetOf(c);
    return sheet ? part(c, sheet.columns) : noSheet(c);
  });
  api.get('/sheets/:id/rows', needs('sheets.read'), (c) => {
    const sheet = sheetOf(c);
    if (!sheet) return noSheet(c);
    const { where = '', is = '' } = c.req.query();
    const found = sheet.rows.filter(({ cells }) => (cells[where] ?? '').toLowerCase() === is.toLowerCase());
    return part(c, found.reverse());
  });
  api.post('/sheets/:id/rows', needs('sheets.append'), async (c) => {
    const sheet = sheetOf(c);
    if (!sheet) return noSheet(c);
    const { row = {} } = await c.req.json<Row>().catch((): Row => ({}));
    const trouble = wrongRow(sheet.columns, row);
    if (trouble) return fault(c, 400, trouble.name, trouble.why);
    const added = {
      number: sheet.rows.length + 1,
      cells: row as Record<string, string>,
      added: new Date().toISOString(),
    };
    sheet.rows.push(added);
    changed();
    return c.json({ entry: added }, 201);
  });

  return api;
}

function wrongRow(columns: SheetColumn[], row: Record<string, unknown>): { name: string; why: string } | null {
  for (const [heading, value] of Object.entries(row)) {
    const column = columns.find((candidate) => candidate.heading === heading);
    if (!column) return { name: 'no-column', why: `There is no column ${heading}.` };
    if (typeof value !== 'string') return { name: 'not-text', why: `${heading} takes text only.` };
    if (column.cell === 'digits' && !/^\d*$/.test(value))
      return { name: 'wrong-cell', why: `${heading} takes digits.` };
    if (column.cell === 'date' && !/^(\d{4}-\d{2}-\d{2}.*)?$/.test(value))
      return { name: 'wrong-cell', why: `${heading} takes a date such as 2026-05-31.` };
  }
  const empty = columns.find(({ heading, filled }) => filled && (row[heading] ?? '') === '');
  return empty ? { name: 'not-filled', why: `${empty.heading} has to be filled.` } : null;
}
