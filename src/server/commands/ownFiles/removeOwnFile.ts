import { rm } from 'node:fs/promises';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { uploadPath } from '../../intake/uploads.ts';
import { dropOwnFile, findOwnFile } from '../../store/ownFiles.ts';
import { listSources } from '../../store/sources.ts';
import { formsWith } from '../../intake/ownFiles.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Removes a file that no form shows or hands out. Links to it that were handed out before lead nowhere then. */
export async function removeOwnFile(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const removed = await inCommand(context, actor, async (db) => {
    const file = await findOwnFile(db, id);
    if (!file) return unknown('file');
    const [form] = formsWith(await listSources(db), id);
    if (form) return refused('conflict', 'in-use', `${form.name} shows it or hands it out. Take it away there first.`);
    await dropOwnFile(db, id);
    return done(undefined, { act: 'removed', subject: { kind: 'file', id, name: file.name } });
  });
  if (removed.ok) await rm(uploadPath(context, id), { force: true });
  return removed;
}
