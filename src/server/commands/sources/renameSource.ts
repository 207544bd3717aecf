import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findSource, renameSource as store } from '../../store/sources.ts';
import { done, inCommand, unknown, type Actor, type Refusal } from '../command.ts';

export async function renameSource(
  actor: Actor,
  context: Context,
  { id, name }: { id: string; name: string },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    await store(db, id, name);
    const isNew = name !== source.name;
    const did = { act: 'renamed', subject: { kind: 'source', id, name }, detail: `It was ${source.name}.` } as const;
    return done(undefined, isNew ? did : null);
  });
}
