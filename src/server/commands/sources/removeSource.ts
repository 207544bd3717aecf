import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findSource, removeSource as store } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { stopsOfSource } from '../entries/stops.ts';

/** Deletes a source by which nothing came. */
export async function removeSource(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    const { kept } = await stopsOfSource(db, source);
    if (kept !== null) return refused('conflict', 'in-use', kept);
    await store(db, id);
    return done(undefined, { act: 'removed', subject: { kind: 'source', id, name: source.name } });
  });
}
