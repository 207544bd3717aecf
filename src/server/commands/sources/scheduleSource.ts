import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findSource, scheduleSource as store } from '../../store/sources.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { keptFromLive } from './keptFromLive.ts';
import { keptByWords } from './wordsOf.ts';

/** Says when the draft goes live by itself, as it is then. @param at milliseconds since 1970; null for never */
export async function scheduleSource(
  actor: Actor,
  context: Context,
  { id, at }: { id: string; at: number | null },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    if (at !== null && at <= context.now())
      return refused('invalid', 'in-the-past', 'This time is over. Choose one to come, or publish it now.');
    const kept = at === null ? null : (keptFromLive(source) ?? (await keptByWords(db, source)));
    if (kept) return kept;
    await store(db, id, at, at === null ? null : nameOf(actor));
    const detail = at === null ? 'It does not go live by itself.' : `It goes live at ${new Date(at).toISOString()}.`;
    return done(undefined, { act: 'edited', subject: { kind: 'source', id, name: source.name }, detail });
  });
}
