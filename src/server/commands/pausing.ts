import type { Result } from '../../core/result.ts';
import type { Context } from '../context.ts';
import type { Db } from '../store/database.ts';
import { findRoute, moveRoute } from '../store/routes.ts';
import { findSource, moveSource } from '../store/sources.ts';
import { done, inCommand, archived, refused, unknown, type Actor, type Refusal } from './command.ts';

type Event = 'paused' | 'resumed';

const KINDS = {
  source: { find: findSource, move: moveSource },
  route: { find: findRoute, move: moveRoute },
} satisfies Record<
  string,
  {
    find: (db: Db, id: string) => Promise<{ name: string; archivedAt: number | null } | null>;
    move: (db: Db, id: string, event: Event) => Promise<boolean>;
  }
>;

const NOT_NOW: Record<Event, [slug: string, text: string]> = {
  paused: ['not-live', 'It is not live, so there is nothing to pause.'],
  resumed: ['not-paused', 'It is not paused.'],
};

/** Pauses what is live, or lets what is paused go on. */
export async function pauseOrResume(
  actor: Actor,
  context: Context,
  { kind, id, event }: { kind: keyof typeof KINDS; id: string; event: Event },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const found = await KINDS[kind].find(db, id);
    if (!found) return unknown(kind);
    if (event === 'resumed' && found.archivedAt !== null) return archived();
    if (!(await KINDS[kind].move(db, id, event))) return refused('conflict', ...NOT_NOW[event]);
    return done(undefined, { act: event, subject: { kind, id, name: found.name } });
  });
}
