import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, open, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Context } from '../context.ts';
import { addUpload, dropUploads, endUpload, type UploadRecord } from '../store/uploads.ts';
import { FOLDER_OURS_ALONE, HEAD_BYTES, mediaTypeOf, OURS_ALONE, plainName, uploadPath } from './uploads.ts';

/** A file that comes in pieces has no hash before it is whole. */
export const isWhole = ({ sha256 }: Pick<UploadRecord, 'sha256'>): boolean => sha256 !== '';

/** Begins a file that comes in pieces. @param size bytes @returns its id */
export async function beginPieces(
  context: Context,
  { sourceId, name, size }: { sourceId: string; name: string; size: number },
): Promise<string> {
  const { store, newId, now } = context;
  const id = newId();
  const place = uploadPath(context, id);
  await mkdir(path.dirname(place), { recursive: true, mode: FOLDER_OURS_ALONE });
  await (await open(place, 'wx', OURS_ALONE)).close();
  await addUpload(store.db, { id, sourceId, name: plainName(name), mediaType: '', size, sha256: '', createdAt: now() });
  return id;
}

/** How much of a file is there. Bytes; null where it is gone. */
export async function piecesThere(context: Context, id: string): Promise<number | null> {
  const found = await stat(uploadPath(context, id)).catch(() => null);
  return found?.size ?? null;
}

/**
 * Writes a piece at its place. The same piece twice, also at once, is the same file.
 * @returns how much is there now, in bytes; null where it would be more than the file has, and the file was taken away
 */
export async function addPiece(
  context: Context,
  { id, size }: Pick<UploadRecord, 'id' | 'size'>,
  offset: number,
  content: AsyncIterable<Uint8Array>,
): Promise<number | null> {
  const place = uploadPath(context, id);
  const file = await open(place, 'r+');
  let at = offset;
  try {
    for await (const chunk of content) {
      if (at + chunk.byteLength > size) {
        await dropUploads(context.store.db, [id]);
        await rm(place, { force: true });
        return null;
      }
      await file.write(chunk, 0, chunk.byteLength, at);
      at += chunk.byteLength;
    }
    await file.sync();
  } finally {
    await file.close();
  }
  return at;
}

/**
 * Finds out what a whole file is. From here on nobody writes into it: it is another file on the disk, which a piece that is still
 * coming to the one of before does not reach.
 */
export async function endPieces(context: Context, { id }: Pick<UploadRecord, 'id'>): Promise<void> {
  const place = uploadPath(context, id);
  const settled = `${place}.settled-${context.newId()}`;
  try {
    await copyFile(place, settled);
    await rename(settled, place);
  } finally {
    await rm(settled, { force: true });
  }
  const hash = createHash('sha256');
  let head = Buffer.alloc(0);
  for await (const chunk of createReadStream(uploadPath(context, id)) as AsyncIterable<Buffer>) {
    if (head.length < HEAD_BYTES) head = Buffer.concat([head, chunk]).subarray(0, HEAD_BYTES);
    hash.update(chunk);
  }
  await endUpload(context.store.db, id, { mediaType: await mediaTypeOf(head), sha256: hash.digest('hex') });
}
