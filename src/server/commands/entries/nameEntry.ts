import type { EntryKind } from '../../../contract/entries.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findEntry, nameEntry as store, type Entry } from '../../store/entries.ts';
import { done, inCommand, unknown, type Actor, type Refusal } from '../command.ts';

/** Names a source, a route or a connection, and puts it into a folder of its list. */
export async function nameEntry(
  actor: Actor,
  context: Context,
  { kind, id, name, folder }: { kind: EntryKind; id: string } & Entry,
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const entry = await findEntry(db, kind, id);
    if (!entry) return unknown(kind);
    const next = { name: name.trim(), folder: folder.trim() };
    await store(db, kind, id, next);
    const subject = { kind, id, name: next.name };
    if (next.name !== entry.name)
      return done(undefined, { act: 'renamed', subject, detail: `It was ${entry.name}.` } as const);
    const moved = next.folder === '' ? 'Out of its folder.' : `Into the folder ${next.folder}.`;
    return done(undefined, next.folder === entry.folder ? null : ({ act: 'moved', subject, detail: moved } as const));
  });
}
