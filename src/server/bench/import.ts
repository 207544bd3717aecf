import { appendFile, mkdir, writeFile } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { NO_EVIDENCE } from '../../contract/imports.ts';
import { SOURCE_FORMAT, type FileDocument } from '../../core/intake/index.ts';
import type { ImportEvent, ImportState } from '../../core/states/index.ts';
import { plainField } from '../../core/values/index.ts';
import type { Context } from '../context.ts';
import { uploadPath } from '../intake/uploads.ts';
import { PlanningContexts } from '../planning/planningContexts.ts';
import { addImport, findImport, moveImport } from '../store/imports.ts';
import { addSource, findSource, publishSource } from '../store/sources.ts';
import { runImports } from '../work/importing.ts';
import { compare, type Comparison } from './compare.ts';
import { benchSetting } from './setting.ts';

const ROWS = 60_000;
const TAKEN_ROWS = 10_000;
const ROUNDS = 3;
const LOOK_MS = 10;

/** Rows of a file read and planned, none of which needs a delivery, against LOAD DATA of the same file into a bare table. */
export const benchImport = (): Promise<Comparison> => benchRows(ROWS, 'rehearsed', 'ready');

/** Rows of a file taken, each stored as a submission of its own, against the same. */
export const benchTake = (): Promise<Comparison> => benchRows(TAKEN_ROWS, 'begun', 'done');

async function benchRows(count: number, event: ImportEvent, until: ImportState): Promise<Comparison> {
  const { context } = await benchSetting();
  const { store, now, newId } = context;
  const [sourceId, id, fileId] = [newId(), newId(), newId()];
  await addSource(store.db, { id: sourceId, publicId: `bench-${event}`, name: event, draft: PEOPLE, now: now() });
  const unpublished = await findSource(store.db, sourceId);
  if (unpublished) await publishSource(store.db, unpublished, now());
  const place = uploadPath(context, fileId);
  await writeRows(place, count);
  const fresh = { state: 'judging' as const, written: {}, columns: [], counts: { taken: 0, refused: 0 } };
  const by = { byName: 'bench', createdAt: now(), dueAt: now() };
  const about = { id, sourceId, fileId, name: 'people.csv', size: 0, evidence: NO_EVIDENCE, perMinute: 60_000_000 };
  await addImport(store.db, { ...fresh, ...by, ...about });
  const imports = runImports(context, 'bench', new PlanningContexts(store));
  const comes = async (state: ImportState): Promise<void> => {
    while ((await findImport(store.db, id))?.state !== state) await sleep(LOOK_MS);
  };
  await comes('ready');
  const comparison = await compare('rows a second', ROUNDS, {
    reference: () => loadData(context, place, count),
    iwashi: async () => {
      await clean(context, sourceId);
      await store.pool.query("UPDATE imports SET state = 'ready' WHERE id = ?", [id]);
      const started = performance.now();
      await moveImport(store.db, id, event, now(), { done: 0, lastRow: 0, rehearsed: null });
      await sleep(LOOK_MS);
      await comes(until);
      return (count * 1000) / (performance.now() - started);
    },
  });
  await imports.stop();
  await clean(context, sourceId);
  return comparison;
}

const clean = ({ store }: Context, sourceId: string) =>
  store.pool.query('DELETE FROM submissions WHERE source_id = ?', [sourceId]);

const at = (key: string, type: Parameters<typeof plainField>[1]) => ({ ...plainField(key, type), path: `$.${key}` });

const PEOPLE: FileDocument = {
  format: SOURCE_FORMAT,
  kind: 'file',
  fields: [
    { ...at('email', 'email'), required: true, keepAs: 'email' },
    { ...at('name', 'text'), keepAs: 'name' },
    at('joined', 'date'),
    at('paid', 'number'),
  ],
  statement: '',
  trust: 'usual',
};

async function writeRows(place: string, count: number): Promise<void> {
  await mkdir(path.dirname(place), { recursive: true });
  await writeFile(place, 'email,name,joined,paid\n');
  const days = (row: number) => String((row % 28) + 1).padStart(2, '0');
  for (let from = 0; from < count; from += 10_000) {
    const rows = Array.from({ length: Math.min(10_000, count - from) }, (_, index) => from + index);
    const lines = rows.map((row) => `p${row}@rows.example,Guest ${row},2024-02-${days(row)},${row % 90}.50\n`);
    await appendFile(place, lines.join(''));
  }
}

/** As quickly as the database takes a file. */
async function loadData({ store }: Context, place: string, count: number): Promise<number> {
  await store.pool.query('DROP TABLE IF EXISTS bench_bare');
  await store.pool.query(
    'CREATE TABLE bench_bare (email VARCHAR(254), name VARCHAR(120), joined DATE, paid DECIMAL(12, 2)) ENGINE = InnoDB',
  );
  const started = performance.now();
  await store.pool.query({
    sql: "LOAD DATA LOCAL INFILE 'rows' INTO TABLE bench_bare FIELDS TERMINATED BY ',' IGNORE 1 LINES",
    infileStreamFactory: () => createReadStream(place),
  });
  const speed = (count * 1000) / (performance.now() - started);
  await store.pool.query('DROP TABLE bench_bare');
  return speed;
}
