import { Readable } from 'node:stream';
import { Hono } from 'hono';
import { stringify } from 'csv-stringify';
import {
  ImportEvidenceInput,
  ImportRunInput,
  ReadingInput,
  type FileReading,
  type ImportRows,
  type ImportView,
} from '../../../contract/imports.ts';
import { isoTime } from '../../../core/isoTime.ts';
import { addImport } from '../../commands/imports/addImport.ts';
import {
  beginImport,
  deleteImport,
  IMPORT_FATES,
  moveOn,
  readAnew,
  rehearseImport,
  undoImport,
} from '../../commands/imports/changeImport.ts';
import type { Context } from '../../context.ts';
import { cellText } from '../../importing/reading.ts';
import { firstRowsOf, UnreadableFile } from '../../importing/rows.ts';
import { uploadPath } from '../../intake/uploads.ts';
import { findImport, listImports, listRejects, type ImportRecord } from '../../store/imports.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, Problem, readInput } from '../problems.ts';
import { fileNameIn } from '../sentFile.ts';

/** The column of rejected rows that says why; it is none of the file's own. */
const REASON = 'Why it was not taken';
const FIRST_ROWS = 12;
const REJECTS_TOGETHER = 1_000;

/** Files whose rows become submissions of a source. */
export function importRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  async function must(sourceId: string, id: string): Promise<ImportRecord> {
    const record = await findImport(store.db, id);
    if (record?.sourceId !== sourceId) throw notFound('import');
    return record;
  }
  const viewOf = async (sourceId: string, id: string): Promise<ImportView> => toView(await must(sourceId, id));

  async function firstRows(fileId: string, reading: FileReading) {
    try {
      return await firstRowsOf(context.reading, uploadPath(context, fileId), reading, FIRST_ROWS);
    } catch (error) {
      if (error instanceof UnreadableFile) throw new Problem(422, 'unreadable', error.message);
      throw error;
    }
  }

  app.get('/:id/imports', allow('sources:read'), async (c) => {
    return c.json((await listImports(store.db, c.req.param('id'))).map(toView));
  });

  /** The body is the file. */
  app.post('/:id/imports', allow('people:act'), async (c) => {
    const { body } = c.req.raw;
    if (!body) throw new Problem(422, 'invalid', 'There is no file in it.');
    const sourceId = c.req.param('id');
    const id = outcome(await addImport(c.get('actor'), context, { sourceId, name: fileNameIn(c), content: body }));
    return c.json(await viewOf(sourceId, id), 201);
  });

  /** The first rows, as they are read. */
  app.get('/:id/imports/:import/rows', allow('people:read'), async (c) => {
    const { fileId, reading, columns } = await must(c.req.param('id'), c.req.param('import'));
    const found = reading ? await firstRows(fileId, reading) : [];
    const rows = found.map(({ number, cells }) => ({
      number,
      cells: Object.fromEntries(Object.entries(cells).map(([name, cell]) => [name, cellText(cell).slice(0, 200)])),
    }));
    return c.json({ columns: columns.map(({ name }) => name), rows } satisfies ImportRows);
  });

  app.put('/:id/imports/:import/reading', allow('people:act'), async (c) => {
    const about = { sourceId: c.req.param('id'), id: c.req.param('import') };
    const { encoding, delimiter, header, sheet, written } = await readInput(c, ReadingInput);
    outcome(await readAnew(c.get('actor'), context, { ...about, encoding, delimiter, header, sheet, written }));
    return c.json(await viewOf(about.sourceId, about.id));
  });

  app.post('/:id/imports/:import/rehearse', allow('people:act'), async (c) => {
    const about = { sourceId: c.req.param('id'), id: c.req.param('import') };
    const { agreed, words, where, when } = await readInput(c, ImportEvidenceInput);
    outcome(await rehearseImport(c.get('actor'), context, { ...about, evidence: { agreed, words, where, when } }));
    return c.json(await viewOf(about.sourceId, about.id));
  });

  app.post('/:id/imports/:import/begin', allow('people:act'), async (c) => {
    const about = { sourceId: c.req.param('id'), id: c.req.param('import') };
    const { agreed, words, where, when, perMinute } = await readInput(c, ImportRunInput);
    const evidence = { agreed, words, where, when };
    outcome(await beginImport(c.get('actor'), context, { ...about, evidence, perMinute }));
    return c.json(await viewOf(about.sourceId, about.id));
  });

  for (const fate of IMPORT_FATES)
    app.post(`/:id/imports/:import/${fate}`, allow('people:act'), async (c) => {
      const about = { sourceId: c.req.param('id'), id: c.req.param('import') };
      outcome(await moveOn(c.get('actor'), context, { ...about, fate }));
      return c.json(await viewOf(about.sourceId, about.id));
    });

  app.post('/:id/imports/:import/undo', allow('people:act'), async (c) => {
    const about = { sourceId: c.req.param('id'), id: c.req.param('import') };
    outcome(await undoImport(c.get('actor'), context, about));
    return c.json(await viewOf(about.sourceId, about.id));
  });

  app.delete('/:id/imports/:import', allow('people:act'), async (c) => {
    outcome(await deleteImport(c.get('actor'), context, { sourceId: c.req.param('id'), id: c.req.param('import') }));
    return c.body(null, 204);
  });

  /** The rows that were not taken, with why, as CSV: to be mended and brought again. */
  app.get('/:id/imports/:import/rejects.csv', allow('people:read'), async (c) => {
    const { id, name, columns } = await must(c.req.param('id'), c.req.param('import'));
    const names = columns.map((column) => column.name);
    const csv = stringify({ header: true, columns: [...names, REASON], bom: true, escape_formulas: true });
    void (async () => {
      let after = 0;
      for (;;) {
        const rejects = await listRejects(store.db, id, after, REJECTS_TOGETHER);
        for (const { cells, why } of rejects) csv.write([...names.map((one) => cellText(cells[one])), why]);
        const last = rejects.at(-1);
        if (!last) break;
        after = last.row;
      }
      csv.end();
    })().catch((error: unknown) => csv.destroy(error as Error));
    c.header('content-type', 'text/csv; charset=utf-8');
    c.header(
      'content-disposition',
      `attachment; filename="${name.replace(/[^\w.-]+/g, '-').replace(/\.\w+$/, '')}-not-taken.csv"`,
    );
    return c.body(Readable.toWeb(csv) as ReadableStream);
  });

  return app;
}

const toView = ({ createdAt, endedAt, byName, ...record }: ImportRecord): ImportView => {
  const { id, name, size, state, problem, reading, written, columns, total, evidence, perMinute, done, counts } =
    record;
  return {
    id,
    name,
    size,
    state,
    problem,
    at: new Date(createdAt).toISOString(),
    by: byName,
    endedAt: isoTime(endedAt),
    reading,
    written,
    columns,
    total,
    evidence,
    perMinute,
    done,
    counts,
    // What is being rehearsed is told by how far it is.
    rehearsed: record.rehearsed,
    fetched: record.fetched?.count ?? null,
    fedBy: record.fedBy,
  };
};
