import { NO_EVIDENCE } from '../../../contract/imports.ts';
import type { Result } from '../../../core/result.ts';
import { inBytes } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { FileTooLarge, keepContent, plainName } from '../../intake/uploads.ts';
import { addImport as store } from '../../store/imports.ts';
import { findSource } from '../../store/sources.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

export const USUAL_PACE = 1_000;

/** Keeps a file whose rows are to become submissions, and has it looked through. @returns its id */
export async function addImport(
  actor: Actor,
  context: Context,
  { sourceId, name, content }: { sourceId: string; name: string; content: AsyncIterable<Uint8Array> },
): Promise<Result<string, Refusal>> {
  const { store: there, config, newId, now } = context;
  const source = await findSource(there.db, sourceId);
  if (source?.draft.kind !== 'file') return unknown('source of files');
  let kept: Awaited<ReturnType<typeof keepContent>>;
  try {
    kept = await keepContent(context, content, config.importBytes);
  } catch (error) {
    if (!(error instanceof FileTooLarge)) throw error;
    return refused(
      'invalid',
      'too-large',
      `The file is larger than ${inBytes(config.importBytes)}, which is the most that is taken.`,
    );
  }
  return inCommand(context, actor, async (db) => {
    const id = newId();
    await store(db, {
      id,
      sourceId,
      fileId: kept.id,
      name: plainName(name),
      size: kept.size,
      state: 'judging',
      written: {},
      columns: [],
      evidence: NO_EVIDENCE,
      perMinute: USUAL_PACE,
      counts: { taken: 0, refused: 0 },
      byName: nameOf(actor),
      createdAt: now(),
      dueAt: now(),
    });
    const subject = { kind: 'source' as const, id: sourceId, name: source.name };
    return done(id, { act: 'brought a file', subject, detail: plainName(name) });
  });
}
