import type { MadeDocument } from '../../../core/intake/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findSource, saveSourceDraft as store } from '../../store/sources.ts';
import { done, inCommand, stale, unknown, type Actor, type Refusal } from '../command.ts';

/** @param input.revision when what it replaces was saved; null for whenever */
export async function saveSourceDraft(
  actor: Actor,
  context: Context,
  { id, draft, revision }: { id: string; draft: MadeDocument; revision: number | null },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    if (!(await store(db, id, draft, revision, context.now()))) return stale();
    return done(undefined, { act: 'edited', subject: { kind: 'source', id, name: source.name } });
  });
}
