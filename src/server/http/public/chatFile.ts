import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { Busboy, type BusboyFileStream } from '@fastify/busboy';
import type { Context as HonoContext } from 'hono';
import type { FileValue } from '../../../core/values/index.ts';
import { sourceOfTalk } from '../../chatting/conversations.ts';
import type { Context } from '../../context.ts';
import { FileTooLarge, storeUpload } from '../../intake/uploads.ts';

/** Of a file that is too large, so many times the limit is read to its end, so that its sender is told in words. */
export const TOLD_TIMES = 5;
const MOST_PARTS = 8;
const FIELD_BYTES = 200;

/** What a visitor's page sends where a file is asked for. */
interface ChatFile {
  token: string;
  /** What the page calls it, so that it counts once however often it is sent. */
  id: string;
  after: number;
  /** As the visitor's machine calls it. */
  name: string;
  /** null for going on without one. */
  file: FileValue | 'too large' | null;
}

/**
 * Reads form data with a file for a conversation. Nothing is stored of whoever has no conversation in which one is awaited.
 * @returns null where there is no such conversation, or it is no form data
 */
export async function readChatFile(context: Context, c: HonoContext): Promise<ChatFile | null> {
  const told = new Map<string, string>();
  let storing: Promise<ChatFile['file'] | 'gone'> = Promise.resolve(null);
  let named = '';
  const keep = async (name: string, stream: BusboyFileStream): Promise<ChatFile['file'] | 'gone'> => {
    const of = await sourceOfTalk(context, told.get('token') ?? '');
    // One that is sent again, since its answer was lost, is there already.
    if (!of?.awaitsFile) {
      stream.resume();
      return of ? null : 'gone';
    }
    named = name;
    try {
      return await storeUpload(context, of.sourceId, name, stream);
    } catch (error) {
      if (error instanceof FileTooLarge) return 'too large';
      throw error;
    }
  };
  try {
    await new Promise<void>((resolve, reject) => {
      const reader = Busboy({
        headers: { ...Object.fromEntries(c.req.raw.headers), 'content-type': c.req.header('content-type') ?? '' },
        limits: { fieldSize: FIELD_BYTES, parts: MOST_PARTS, files: 1 },
      });
      reader.on('field', (name, value) => void told.set(name, value));
      reader.on('file', (_, stream, name) => {
        storing = keep(name, stream);
        // It is waited for below; until then nobody else hears of what goes wrong.
        storing.catch(() => {});
      });
      reader.on('finish', resolve);
      reader.on('error', reject);
      if (!c.req.raw.body) return reject(new Error('there is no body'));
      Readable.fromWeb(c.req.raw.body as ReadableStream)
        .on('error', reject)
        .pipe(reader);
    });
    const file = await storing;
    const id = told.get('id') ?? '';
    if (file === 'gone' || id.length < 8 || id.length > 40) return null;
    const after = Number(told.get('after'));
    return {
      token: told.get('token') ?? '',
      id,
      after: Number.isInteger(after) ? Math.max(0, after) : 0,
      name: named,
      file,
    };
  } catch {
    // It broke off, or is no form data.
    return null;
  }
}
