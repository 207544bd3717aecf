import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { archiveSource as store, findSource } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Puts a source aside: it takes nothing any more, and what came of it stays. Or takes it out again, as it was. */
export async function archiveSource(
  actor: Actor,
  context: Context,
  { id, away }: { id: string; away: boolean },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    if (!(await store(db, id, away ? context.now() : null)))
      return refused('conflict', 'as-it-was', away ? 'It is archived already.' : 'It is not archived.');
    return done(undefined, { act: away ? 'archived' : 'restored', subject: { kind: 'source', id, name: source.name } });
  });
}
