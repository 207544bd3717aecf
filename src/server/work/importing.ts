import { NOTHING_REHEARSED, TAKEN_TOGETHER, type RehearsedCounts } from '../../contract/imports.ts';
import { keyText } from '../../core/identity/index.ts';
import { type FileDocument, type ShopDocument, saidPartsOf } from '../../core/intake/index.ts';
import { NOBODY, planSubmission } from '../../core/plan/index.ts';
import { ColumnInference, pathToColumn, type InferredColumn } from '../../core/tables/index.ts';
import { codeOf } from '../connectors/exchange.ts';
import { Marks } from '../importing/marks.ts';
import { cellText, payloadOf, readRow } from '../importing/reading.ts';
import { judgeFile, rowsOf, UnreadableFile, type Row } from '../importing/rows.ts';
import { fetchPart } from './fetching.ts';
import type { Context } from '../context.ts';
import { runBeats } from './beats.ts';
import { hashOfName, takeSubmission, whyNot } from '../intake/take.ts';
import { uploadPath } from '../intake/uploads.ts';
import type { PlanningContexts } from '../planning/planningContexts.ts';
import {
  addRejects,
  advanceImport,
  findImport,
  importBefore,
  moveImport,
  rejectedRows,
  takeImport,
  type ImportRecord,
} from '../store/imports.ts';
import { inTransaction } from '../store/database.ts';
import { readKnownPeople, identityClaims, undoSubmission } from '../store/people/index.ts';
import { dropOfSubmission } from '../store/deliveries.ts';
import { namedSubmissions } from '../store/submissions.ts';
import { findSource, type SourceRecord } from '../store/sources.ts';

const BEAT_MS = 500;
const MINUTE_MS = 60_000;
/** So much time that was lost is made up for by a pace above the one that was set. */
const MOST_LATE_MS = 2_000;
/** For so long an import is a worker's that said nothing of it. */
const LEASE_MS = 20_000;
/** So many rows are rehearsed between two words of how far it is. */
const REHEARSED_TOGETHER = 1_000;
const JUDGED_TOGETHER = 5_000;

/** So often a part of an import may fail, or take its worker with it, before nobody tries it any more. */
const MOST_TRIES = 4;
const TRIED_OFTEN = `It was tried ${MOST_TRIES + 1} times and never came to its end; the log says why. Export the file in another way, or in smaller parts.`;

/** So many files are kept open: of those that were paused, the first is read from its beginning again. */
const MOST_OPEN = 8;

/** Files that are being read, and how far: to go on does not mean to begin again. */
class OpenFiles {
  readonly #open = new Map<string, { rows: AsyncGenerator<Row>; at: number; seen: Marks; before: Marks }>();

  /** The next rows after one, so many at most; the keys of whom was seen before in this reading, and what was taken of the file of before. */
  async next(context: Context, { id, fileId, reading, lastRow, state, beforeId }: ImportRecord, most: number) {
    const key = `${id} ${state}`;
    let file = this.#open.get(key);
    if (!reading) throw new UnreadableFile('It was not judged yet.');
    if (file?.at !== lastRow || lastRow === 0) {
      await this.close(key);
      const [oldest] = this.#open.keys();
      if (oldest !== undefined && this.#open.size >= MOST_OPEN) await this.close(oldest);
      const before = beforeId === null ? new Marks() : await takenOf(context, beforeId);
      file = { rows: rowsOf(context.reading, uploadPath(context, fileId), reading), at: 0, seen: new Marks(), before };
      this.#open.set(key, file);
    }
    const rows: Row[] = [];
    while (rows.length < most) {
      const next = await file.rows.next();
      if (next.done) break;
      const { value } = next;
      file.at = value.number;
      if (value.number > lastRow) rows.push(value);
    }
    if (rows.length === 0) await this.close(key);
    return { rows, seen: file.seen, before: file.before };
  }

  async close(key: string): Promise<void> {
    await this.#open.get(key)?.rows.return(undefined);
    this.#open.delete(key);
  }

  async closeAll(): Promise<void> {
    for (const key of [...this.#open.keys()]) await this.close(key);
  }
}

/** By what two rows are known to say the same. */
const markOf = ({ cells }: Row): string => JSON.stringify(cells);

/** What stands in the rows of an import that were taken; nothing where its file was deleted. */
async function takenOf(context: Context, importId: string): Promise<Marks> {
  const { db } = context.store;
  const record = await findImport(db, importId);
  if (!record?.reading) return new Marks();
  const rejected = await rejectedRows(db, importId);
  const marks = new Marks();
  try {
    for await (const row of rowsOf(context.reading, uploadPath(context, record.fileId), record.reading))
      if (!rejected.has(row.number)) marks.add(markOf(row));
  } catch (error) {
    if (codeOf(error) !== 'ENOENT') throw error;
  }
  return marks;
}

/** Works on imports of files: judges, rehearses, and takes their rows, a part at a time. One worker at a time has an import. */
export function runImports(
  context: Context,
  owner: string,
  planningContexts: PlanningContexts,
): { stop(): Promise<void> } {
  const files = new OpenFiles();
  const beats = runBeats(context, BEAT_MS, 'importing', (isStopped) =>
    workOnOne(context, owner, planningContexts, files, isStopped),
  );
  return {
    async stop() {
      await beats.stop();
      await files.closeAll();
    },
  };
}

/** @returns whether there may be more to do at once */
async function workOnOne(
  context: Context,
  owner: string,
  planningContexts: PlanningContexts,
  files: OpenFiles,
  isStopped: () => boolean,
): Promise<boolean> {
  const { store, now } = context;
  const record = await takeImport(store.db, owner, now(), LEASE_MS);
  if (!record) return false;
  try {
    // Also where each try took its worker with it, and nobody was left to say so.
    if (record.tries > MOST_TRIES) throw new UnreadableFile(TRIED_OFTEN);
    if (record.state === 'fetching') await fetchPart(context, record);
    else if (record.state === 'judging') await judge(context, record, isStopped);
    else if (record.state === 'undoing') await undoPart(context, record);
    else if (record.state === 'rehearsing') await rehearsePart(context, planningContexts, files, record);
    else await takePart(context, files, record);
  } catch (error) {
    if (!(error instanceof UnreadableFile)) throw error;
    await giveUp(context, record, error.message);
  }
  return true;
}

/** Nobody tries it any more before somebody looked at it. What is in the middle of being taken may go on from there. */
async function giveUp({ store, now }: Context, { id, state }: ImportRecord, problem: string): Promise<void> {
  const event = state === 'running' ? 'paused' : 'found unreadable';
  await moveImport(store.db, id, event, now(), { problem: problem.slice(0, 300) });
}

/** Finds out how a file is read, and what stands in its columns, over all of its rows. */
async function judge(context: Context, record: ImportRecord, isStopped: () => boolean): Promise<void> {
  const { store, now } = context;
  const place = uploadPath(context, record.fileId);
  const reading = record.reading ?? (await judgeFile(context.reading, place));
  const columns = new Map<string, ColumnInference>();
  let total = 0;
  for await (const { number, cells } of rowsOf(context.reading, place, reading)) {
    if (isStopped()) return;
    total += 1;
    for (const [name, cell] of Object.entries(cells)) {
      const column = columns.get(name) ?? new ColumnInference(name);
      columns.set(name, column);
      column.add(cellText(cell), number);
    }
    if (total % JUDGED_TOGETHER === 0) {
      const isOurs = await advanceImport(store.db, record, { done: total, leaseUntil: now() + LEASE_MS });
      if (!isOurs) return;
    }
  }
  if (total === 0) throw new UnreadableFile('There are no rows in it.');
  const found = [...columns.values()].map((column) => column.found());
  const judged = {
    reading,
    columns: found,
    written: Object.fromEntries(found.map(({ name, written }) => [name, record.written[name] ?? written])),
    total,
    done: 0,
    lastRow: 0,
  };
  const missing = record.goesOn ? await missingIn(context, record, found) : null;
  await inTransaction(store, async (db) => {
    const problem = missing === null || missing === '' ? '' : `Nothing was taken by itself: ${missing}`.slice(0, 300);
    await moveImport(db, record.id, 'judged', now(), { ...judged, problem });
    if (missing === '') await moveImport(db, record.id, 'begun', now(), { beforeId: await importBefore(db, record) });
  });
}

/** Why a file that came by itself is not taken before somebody looks at it; '' where nothing speaks against it. */
async function missingIn(context: Context, record: ImportRecord, columns: InferredColumn[]): Promise<string> {
  const { state, live } = await sourceOf(context, record);
  if (state !== 'live' || live?.kind !== 'file') return 'its source is not live.';
  const there = new Set(columns.map(({ name }) => pathToColumn(name)));
  const missing = live.fields.filter(({ key, path }) => !there.has(path === '' ? pathToColumn(key) : path));
  if (missing.length === 0) return '';
  return `no column is there for ${missing.map(({ label, key }) => label || key).join(', ')}.`;
}

async function sourceOf({ store }: Context, { sourceId }: ImportRecord): Promise<SourceRecord> {
  const source = await findSource(store.db, sourceId);
  if (source?.draft.kind !== 'file' && source?.draft.kind !== 'shop') throw new UnreadableFile('Its source is gone.');
  return source;
}

/** Finds out what would become of the next rows, by what is live. Nothing is stored of it but the counts. */
async function rehearsePart(
  context: Context,
  planningContexts: PlanningContexts,
  files: OpenFiles,
  record: ImportRecord,
): Promise<void> {
  const { store, now } = context;
  const source = await sourceOf(context, record);
  const document = (source.live ?? source.draft) as FileDocument | ShopDocument;
  const { rows: all, seen, before } = await files.next(context, record, REHEARSED_TOGETHER);
  const rows = before.size === 0 ? all : all.filter((row) => !before.has(markOf(row)));
  const last = all.at(-1);
  const counts: RehearsedCounts = { ...(record.rehearsed ?? NOTHING_REHEARSED) };
  if (!last) {
    await moveImport(store.db, record.id, 'was rehearsed', now(), { done: 0, lastRow: 0 });
    return;
  }
  const read = rows.map((row) => readRow(document, payloadOf(row, record.written)));
  const valid = read.flatMap((one) => ('values' in one ? [one.values] : []));
  counts.rows += all.length;
  if (all.length > rows.length) counts.unchanged = (counts.unchanged ?? 0) + all.length - rows.length;
  counts.refused += rows.length - valid.length;
  const said = valid.map((values) => identityClaims(document.fields, values, source.id));
  const people = await readKnownPeople(store.db, said, { lock: false, answersSince: null });
  const planningContext = await planningContexts.of(source.id);
  for (const [at, values] of valid.entries()) {
    const { keys } = said[at] ?? { keys: [] };
    const plan = planSubmission({
      fields: document.fields,
      statement: document.statement,
      trust: document.trust,
      imported: record.evidence,
      tells: saidPartsOf(document),
      values,
      keys,
      visit: {},
      ...planningContext,
      known: people[at] ?? NOBODY,
      now: now(),
    });
    const marks = keys.map(keyText);
    const isHere = marks.some((mark) => seen.has(mark));
    for (const mark of marks) seen.add(mark);
    const codes = new Set(plan.notes.map(({ code }) => code));
    if (!plan.contact) counts.nobody += 1;
    else if (plan.contact.match === 'new' && !isHere) counts.fresh += 1;
    else if (plan.contact.changes.some(({ from }) => from !== null)) counts.changed += 1;
    else counts.known += 1;
    if (codes.has('possibly the same')) counts.possible += 1;
    if (codes.has('no consent') || codes.has('not confirmed') || codes.has('left before')) counts.noConsent += 1;
  }
  await advanceImport(store.db, record, {
    rehearsed: counts,
    lastRow: last.number,
    done: record.done + all.length,
    leaseUntil: 0,
  });
}

/** Takes the next rows: each once, by its number, though a worker ends in the middle of them. */
async function takePart(context: Context, files: OpenFiles, record: ImportRecord): Promise<void> {
  const { store, now } = context;
  const source = await sourceOf(context, record);
  if (source.state !== 'live' || source.live === null) {
    await moveImport(store.db, record.id, 'paused', now());
    return;
  }
  const most = Math.max(1, Math.min(TAKEN_TOGETHER, Math.round((record.perMinute * BEAT_MS) / MINUTE_MS)));
  const { rows: all, before } = await files.next(context, record, most);
  const rows = before.size === 0 ? all : all.filter((row) => !before.has(markOf(row)));
  const last = all.at(-1);
  if (!last) {
    await moveImport(store.db, record.id, 'came to its end', now());
    return;
  }
  const counts = { ...record.counts };
  if (all.length > rows.length) counts.unchanged = (counts.unchanged ?? 0) + all.length - rows.length;
  const rejects: Parameters<typeof addRejects>[1] = [];
  const document = source.live;
  // All at once, so that they are stored together; in the order of the rows.
  const each = await Promise.all(
    rows.map((row) =>
      takeSubmission(context, {
        sourceId: source.id,
        sourceVersion: source.liveVersion ?? 0,
        document,
        contentType: '',
        payload: payloadOf(row, record.written),
        headers: { import: record.id, row: String(row.number) },
        idempotencyKey: null,
        name: nameOfRow(record, row.number),
        known: {},
        shownAt: null,
      }),
    ),
  );
  for (const [at, taken] of each.entries()) {
    const row = rows[at] as Row;
    if (taken.ok) {
      // One that came before did so by this very import, whose worker ended before it could say so.
      counts.taken += 1;
      continue;
    }
    counts.refused += 1;
    rejects.push({ importId: record.id, row: row.number, why: whyNot(taken).slice(0, 500), cells: row.cells });
  }
  await addRejects(store.db, rejects);
  await advanceImport(store.db, record, {
    counts,
    lastRow: last.number,
    done: record.done + all.length,
    // From when it was due: what a beat comes late is made up for, up to a few beats.
    dueAt: Math.max(record.dueAt, now() - MOST_LATE_MS) + Math.round((rows.length * MINUTE_MS) / record.perMinute),
    leaseUntil: 0,
  });
}

/** By which a row is known, so that it is taken once. */
const nameOfRow = ({ id }: ImportRecord, row: number): string => `import ${id} ${row}`;

const UNDONE = 'The import was undone.';
/** After how long it is looked again whether what was taken is planned: before that nothing says what there is to take back. */
const PLANNED_YET_MS = 1_000;

/** Takes back the next rows: what is not sent yet is not sent, and nobody here is known by them any more. Each once, though a worker ends in the middle. */
async function undoPart(context: Context, record: ImportRecord): Promise<void> {
  const { store, now } = context;
  // The last ones first: a row counts down to nothing, whatever lines of the file were empty.
  const numbers = Array.from({ length: TAKEN_TOGETHER }, (_, at) => record.lastRow - at);
  const taken = await namedSubmissions(
    store.db,
    record.sourceId,
    numbers.map((row) => hashOfName(nameOfRow(record, row))),
  );
  if (taken.some(({ state }) => state === 'received')) {
    await advanceImport(store.db, record, { dueAt: now() + PLANNED_YET_MS, leaseUntil: 0 });
    return;
  }
  let counts = record.counts;
  for (const one of taken) {
    if (one.undoneAt !== null) continue;
    const before = counts;
    counts = await inTransaction(store, async (db) => {
      const stay = await dropOfSubmission(db, one.id, UNDONE, now());
      const gone = await undoSubmission(db, one, now());
      const { undone: rows = 0, gone: people = 0, stay: sent = 0 } = before;
      const after = { ...before, undone: rows + 1, gone: people + (gone ? 1 : 0), stay: sent + stay };
      await advanceImport(db, record, { counts: after });
      return after;
    });
  }
  const lastRow = Math.max(0, record.lastRow - numbers.length);
  if (lastRow === 0) await moveImport(store.db, record.id, 'was taken back', now(), { lastRow });
  else await advanceImport(store.db, record, { lastRow, leaseUntil: 0 });
}
