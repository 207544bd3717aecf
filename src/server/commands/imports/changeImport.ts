import { rm } from 'node:fs/promises';
import { TAKEN_TOGETHER, type ImportEvidence, type ReadingInput } from '../../../contract/imports.ts';
import { WRITTEN, type Written } from '../../../core/tables/index.ts';
import type { ImportEvent } from '../../../core/states/index.ts';
import { good, type Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { uploadPath } from '../../intake/uploads.ts';
import {
  findImport,
  forgetRejects,
  importBefore,
  moveImport,
  removeImport,
  type ImportRecord,
} from '../../store/imports.ts';
import { findSource } from '../../store/sources.ts';
import type { Db } from '../../store/database.ts';
import { done, inCommand, refused, unknown, type Act, type Actor, type Done, type Refusal } from '../command.ts';

/** What is done to an import, and what it is called in the list of changes. */
interface Change {
  event: ImportEvent;
  act: Act['act'];
}

type About = { sourceId: string; id: string };

const wrongTime = (): Result<never, Refusal> =>
  refused('conflict', 'not-now', 'It has gone on meanwhile: look at it once more.');

async function moving(
  actor: Actor,
  context: Context,
  { sourceId, id }: About,
  { event, act }: Change,
  part: (db: Db, record: ImportRecord) => Promise<Result<Parameters<typeof moveImport>[4], Refusal>> = () =>
    Promise.resolve(good({})),
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db): Promise<Done<void>> => {
    const [source, record] = [await findSource(db, sourceId), await findImport(db, id)];
    if (!source || record?.sourceId !== sourceId) return unknown('import');
    const changes = await part(db, record);
    if (!changes.ok) return changes;
    if (!(await moveImport(db, id, event, context.now(), changes.value))) return wrongTime();
    const subject = { kind: 'source' as const, id: sourceId, name: source.name };
    return done(undefined, { act, subject, detail: record.name });
  });
}

/** Has a file read in another way than it was judged. */
export function readAnew(
  actor: Actor,
  context: Context,
  {
    encoding,
    delimiter,
    header,
    sheet,
    written,
    ...about
  }: About & Pick<ReadingInput, 'encoding' | 'delimiter' | 'header' | 'sheet' | 'written'>,
): Promise<Result<void, Refusal>> {
  return moving(actor, context, about, { event: 'read in another way', act: 'had read anew' }, (_, record) => {
    const at = (pointer: string, detail: string) =>
      Promise.resolve(refused('invalid', 'invalid', detail, [{ pointer, detail }]));
    if (!isEncoding(encoding)) return at('/encoding', `"${encoding}" is no encoding, such as utf-8 or windows-1250.`);
    if (sheet !== undefined && !record.reading?.sheets?.includes(sheet))
      return at('/sheet', `It has no sheet of the name “${sheet}”.`);
    const known = Object.entries(written).filter((one): one is [string, Written] => WRITTEN.includes(one[1]));
    const said = { encoding, delimiter, header, ...(sheet !== undefined && { sheet }), because: 'As somebody said.' };
    const reading = record.reading && { ...record.reading, ...said };
    const part = { reading, written: Object.fromEntries(known), rehearsed: null, problem: '', done: 0, lastRow: 0 };
    return Promise.resolve(good(part));
  });
}

/** Whether a text is a label of an encoding (WHATWG Encoding, 4.2). */
function isEncoding(label: string): boolean {
  try {
    return new TextDecoder(label).encoding !== '';
  } catch {
    return false;
  }
}

/** Finds out what would become of every row, with what is said of the people in it. */
export const rehearseImport = (actor: Actor, context: Context, about: About & { evidence: ImportEvidence }) =>
  moving(actor, context, about, { event: 'rehearsed', act: 'rehearsed the file of' }, async (db, record) => {
    const beforeId = await importBefore(db, record);
    return good({ evidence: about.evidence, beforeId, rehearsed: null, done: 0, lastRow: 0, problem: '' });
  });

/** Begins to take the rows of a file, at a pace, with what is said of the people in it. */
export const beginImport = (
  actor: Actor,
  context: Context,
  { evidence, perMinute, ...about }: About & { evidence: ImportEvidence; perMinute: number },
) =>
  moving(actor, context, about, { event: 'begun', act: 'began to import into' }, async (db, record) => {
    const source = await findSource(db, about.sourceId);
    if (source?.state !== 'live' || source.live === null)
      return refused(
        'conflict',
        'not-live',
        'Publish the source first: its rows are read by its fields as they are live.',
      );
    await forgetRejects(db, about.id);
    const counts = { taken: 0, refused: 0 };
    const beforeId = await importBefore(db, record);
    return good({ evidence, perMinute, counts, beforeId, done: 0, lastRow: 0, problem: '' });
  });

const FATES = {
  pause: { event: 'paused', act: 'paused the import into' },
  resume: { event: 'resumed', act: 'resumed the import into' },
  cancel: { event: 'cancelled', act: 'cancelled the import into' },
  'end-rehearsal': { event: 'rehearsal ended', act: 'cancelled the rehearsal for' },
} as const satisfies Record<string, Change>;
export type ImportFate = keyof typeof FATES;
export const IMPORT_FATES = Object.keys(FATES) as ImportFate[];

export const moveOn = (actor: Actor, context: Context, { fate, ...about }: About & { fate: ImportFate }) =>
  moving(actor, context, about, FATES[fate]);

/** Takes back what the rows of an import did here, and what of it is not sent yet. What has gone to other systems stays there. */
export const undoImport = (actor: Actor, context: Context, about: About) =>
  moving(actor, context, about, { event: 'taken back', act: 'undid the import into' }, (_, record) =>
    // Of the part that was under way when it was cancelled, nothing says how far it came.
    Promise.resolve(good({ lastRow: record.lastRow + TAKEN_TOGETHER })),
  );

/** Deletes a file and what is known of it, at any time: whoever works on it stops at the next part. What its rows became stays. */
export async function deleteImport(actor: Actor, context: Context, about: About): Promise<Result<void, Refusal>> {
  const record = await findImport(context.store.db, about.id);
  const outcome = await inCommand(context, actor, async (db): Promise<Done<void>> => {
    const source = await findSource(db, about.sourceId);
    if (!source || record?.sourceId !== about.sourceId) return unknown('import');
    await removeImport(db, about.id);
    const subject = { kind: 'source' as const, id: source.id, name: source.name };
    return done(undefined, { act: 'deleted a file of', subject, detail: record.name });
  });
  if (outcome.ok && record) await rm(uploadPath(context, record.fileId), { force: true });
  return outcome;
}
