import { rm } from 'node:fs/promises';
import type { DeletionImpactView } from '../../../contract/entries.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import type { Db } from '../../store/database.ts';
import { archiveRoute, findRoute, removeRoute } from '../../store/routes.ts';
import { uploadPath } from '../../intake/uploads.ts';
import { listImports } from '../../store/imports.ts';
import { archiveSource, findSource, removeSource } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { deletionImpactOfRoute, deletionImpactOfSource } from './deletionImpact.ts';

/** What is put aside and deleted in the same way. */
export type ArchivableKind = 'source' | 'route';

interface Store {
  find: (db: Db, id: string) => Promise<{ name: string } | null>;
  /** @param at null to take it out of the archive @returns false where it is so already */
  archive: (db: Db, id: string, at: number | null) => Promise<boolean>;
  /** What stops when it is deleted; null where there is no such one. */
  stops: (db: Db, id: string) => Promise<DeletionImpactView | null>;
  remove: (db: Db, id: string) => Promise<void>;
}

const STORES: Record<ArchivableKind, Store> = {
  source: { find: findSource, archive: archiveSource, stops: deletionImpactOfSource, remove: removeSource },
  route: { find: findRoute, archive: archiveRoute, stops: deletionImpactOfRoute, remove: removeRoute },
};

export const deletionImpactOf = (
  { store }: Context,
  kind: ArchivableKind,
  id: string,
): Promise<DeletionImpactView | null> => STORES[kind].stops(store.db, id);

/** Puts something aside: it takes or sends nothing any more, and what came of it stays. Or takes it out again. */
export async function archiveEntry(
  actor: Actor,
  context: Context,
  { kind, id, away }: { kind: ArchivableKind; id: string; away: boolean },
): Promise<Result<void, Refusal>> {
  const { find, archive } = STORES[kind];
  return inCommand(context, actor, async (db) => {
    const entry = await find(db, id);
    if (!entry) return unknown(kind);
    if (!(await archive(db, id, away ? context.now() : null)))
      return refused('conflict', 'as-it-was', away ? 'It is archived already.' : 'It is not archived.');
    return done(undefined, { act: away ? 'archived' : 'restored', subject: { kind, id, name: entry.name } });
  });
}

/** Deletes something that nothing came of. */
export async function removeEntry(
  actor: Actor,
  context: Context,
  { kind, id }: { kind: ArchivableKind; id: string },
): Promise<Result<void, Refusal>> {
  const { find, stops, remove } = STORES[kind];
  const files = kind === 'source' ? await listImports(context.store.db, id) : [];
  const outcome = await inCommand(context, actor, async (db) => {
    const entry = await find(db, id);
    if (!entry) return unknown(kind);
    const kept = (await stops(db, id))?.kept ?? null;
    if (kept !== null) return refused('conflict', 'in-use', kept);
    await remove(db, id);
    return done(undefined, { act: 'removed', subject: { kind, id, name: entry.name } });
  });
  if (outcome.ok) for (const { fileId } of files) await rm(uploadPath(context, fileId), { force: true });
  return outcome;
}
