import { createHash } from 'node:crypto';
import { mkdir, open, rm } from 'node:fs/promises';
import path from 'node:path';
import { fileTypeFromBuffer } from 'file-type';
import type { FileValue } from '../../core/values/index.ts';
import type { Context } from '../context.ts';
import { addUpload, dropUploads, looseUploads, type UploadRecord } from '../store/uploads.ts';

/** Enough of a file to know its kind by. */
export const HEAD_BYTES = 4_100;

/** For so long a file waits for the form that it was sent with to be mended. */
const LOOSE_MS = 60 * 60_000;

/** Rights of what visitors hand over: other users of the machine have none. */
export const OURS_ALONE = 0o600;
export const FOLDER_OURS_ALONE = 0o700;

export class FileTooLarge extends Error {}

/**
 * Stores a file as it streams in, outside of everything that is served, under a name of our own. It is on the disk when this
 * resolves.
 * @param name as the visitor's machine calls it; its folders are left out
 * @throws FileTooLarge when it is larger than the installation takes; nothing of it is kept
 */
export async function storeUpload(
  context: Context,
  sourceId: string,
  name: string,
  content: AsyncIterable<Buffer | Uint8Array>,
): Promise<FileValue> {
  const { store, config, now } = context;
  const { head, ...kept } = await keepContent(context, content, config.uploadBytes);
  try {
    const upload = { ...kept, sourceId, name: plainName(name), mediaType: await mediaTypeOf(head), createdAt: now() };
    await addUpload(store.db, upload);
    return fileValueOf(context, upload);
  } catch (error) {
    // Nothing knows of it: nobody would ever clear it away.
    await rm(uploadPath(context, kept.id), { force: true });
    throw error;
  }
}

/** What is known of content that was kept. */
interface Kept {
  id: string;
  size: number;
  sha256: string;
  /** Its beginning. */
  head: Buffer;
}

/**
 * Writes content to the disk as it streams in, under a name of our own.
 * @param most bytes
 * @throws FileTooLarge when it is larger; nothing of it is kept
 */
export async function keepContent(
  context: Context,
  content: AsyncIterable<Buffer | Uint8Array>,
  most: number,
): Promise<Kept> {
  const id = context.newId();
  const place = uploadPath(context, id);
  await mkdir(path.dirname(place), { recursive: true, mode: FOLDER_OURS_ALONE });
  const hash = createHash('sha256');
  const head: Uint8Array[] = [];
  let size = 0;
  const file = await open(place, 'wx', OURS_ALONE);
  let failure: unknown = null;
  try {
    for await (const chunk of content) {
      if (size < HEAD_BYTES) head.push(chunk);
      size += chunk.byteLength;
      // It is read to its end all the same: what comes after it in the same request has to be reached.
      if (size > most || failure !== null) continue;
      hash.update(chunk);
      await file.write(chunk).catch((error: unknown) => (failure = error));
    }
    if (size > most) throw new FileTooLarge();
    if (failure !== null) throw failure as Error;
    await file.sync();
  } catch (error) {
    await file.close();
    await rm(place, { force: true });
    throw error;
  }
  await file.close();
  return { id, size, sha256: hash.digest('hex'), head: Buffer.concat(head).subarray(0, HEAD_BYTES) };
}

/** A stored file as a value of a submission. */
export const fileValueOf = (
  { config }: Context,
  { id, name, mediaType, size, sha256 }: Pick<UploadRecord, 'id' | 'name' | 'mediaType' | 'size' | 'sha256'>,
): FileValue => ({ file: id, name, mediaType, size, sha256, link: `${config.publicUrl}/files/${id}` });

/** Where a stored file is. The end of an id is random, so that folders fill evenly. */
export const uploadPath = ({ config }: Context, id: string): string => path.join(config.uploadFolder, id.slice(-2), id);

/** Clears away files that belong to no submission, a share at a time. */
export async function clearLooseUploads(context: Context, most: number): Promise<void> {
  const { store, now } = context;
  const ids = await looseUploads(store.db, now() - LOOSE_MS, most);
  for (const id of ids) await rm(uploadPath(context, id), { force: true });
  await dropUploads(store.db, ids);
}

/** The kind of a file by what is in it. What has no signature and reads as text is text. */
export async function mediaTypeOf(head: Buffer): Promise<string> {
  const found = await fileTypeFromBuffer(head);
  if (found) return found.mime;
  const text = head.toString('utf8');
  // The last character may have been cut in two.
  return head.includes(0) || text.slice(0, -1).includes('\uFFFD') ? 'application/octet-stream' : 'text/plain';
}

/** A name without folders, control characters or more length than a list shows. */
export const plainName = (name: string): string =>
  (name.split(/[\\/]/).at(-1) ?? '').replace(/\p{C}/gu, '').trim().slice(0, 120) || 'file';
