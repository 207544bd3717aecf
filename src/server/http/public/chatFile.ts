import type { BusboyFileStream } from '@fastify/busboy';
import type { Context as HonoContext } from 'hono';
import type { FileValue } from '../../../core/values/index.ts';
import { sourceOfTalk } from '../../chatting/conversations.ts';
import type { Context } from '../../context.ts';
import { FileTooLarge, storeUpload } from '../../intake/uploads.ts';
import { readParts, UnreadableParts } from './multipart.ts';

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
  const fields = new Map<string, string>();
  let file = null as ChatFile['file'] | 'gone';
  let named = '';
  const keep = async (name: string, stream: BusboyFileStream): Promise<ChatFile['file'] | 'gone'> => {
    const of = await sourceOfTalk(context, fields.get('token') ?? '');
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
    const failures = await readParts(
      c.req.raw,
      { fieldSize: FIELD_BYTES, parts: MOST_PARTS, files: 1 },
      {
        field: (name, value) => void fields.set(name, value),
        file: async (_, stream, name) => {
          file = await keep(name, stream);
        },
      },
    );
    if (failures.length > 0) throw failures[0];
  } catch (error) {
    if (error instanceof UnreadableParts) return null;
    throw error;
  }
  const id = fields.get('id') ?? '';
  if (file === 'gone' || id.length < 8 || id.length > 40) return null;
  const after = Number(fields.get('after'));
  return {
    token: fields.get('token') ?? '',
    id,
    after: Number.isInteger(after) ? Math.max(0, after) : 0,
    name: named,
    file,
  };
}
