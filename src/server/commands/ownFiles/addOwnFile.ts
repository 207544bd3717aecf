import { readFile, rm } from 'node:fs/promises';
import { imageSize } from 'image-size';
import { PICTURE_BYTES } from '../../../contract/ownFiles.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { FileTooLarge, keepContent, mediaTypeOf, plainName, uploadPath } from '../../intake/uploads.ts';
import { addOwnFile as store } from '../../store/ownFiles.ts';
import { done, inCommand, refused, type Actor, type Refusal } from '../command.ts';

/** Pictures that browsers show and that run nothing. */
const SHOWN = new Set(['image/png', 'image/jpeg', 'image/webp', 'image/gif', 'image/avif']);

/** Adds a picture or another file, for forms to show or hand out. @returns its id */
export async function addOwnFile(
  actor: Actor,
  context: Context,
  { name: given, content }: { name: string; content: AsyncIterable<Uint8Array> },
): Promise<Result<string, Refusal>> {
  const { config, now } = context;
  const kept = await keepContent(context, content, config.uploadBytes).catch((error: unknown) => {
    if (error instanceof FileTooLarge) return null;
    throw error;
  });
  const most = Math.floor(config.uploadBytes / 1024 / 1024);
  if (!kept) return refused('invalid', 'too-large', `This file has more than the ${most} MB that are taken here.`);
  const { head, ...file } = kept;
  const mediaType = await mediaTypeOf(head);
  const drop = () => rm(uploadPath(context, file.id), { force: true });
  let size = { width: 0, height: 0 };
  if (SHOWN.has(mediaType)) {
    if (file.size > PICTURE_BYTES) {
      await drop();
      const [has, may] = [Math.ceil(file.size / 1000), PICTURE_BYTES / 1000];
      return refused(
        'invalid',
        'too-large',
        `This picture has ${has} kB; at most ${may} are taken, so that phones show it.`,
      );
    }
    try {
      size = imageSize(await readFile(uploadPath(context, file.id)));
    } catch {
      await drop();
      return refused('invalid', 'not-readable', 'This picture cannot be read: it seems to be cut off.');
    }
  }
  const { width, height } = size;
  const name = plainName(given);
  return inCommand(context, actor, async (db) => {
    await store(db, { ...file, name, mediaType, width, height, addedAt: now() });
    return done(file.id, { act: 'made', subject: { kind: 'file', id: file.id, name } });
  });
}
