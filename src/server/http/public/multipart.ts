import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { Busboy, type BusboyFileStream } from '@fastify/busboy';

/** How much form data may hold. */
export interface PartLimits {
  /** Bytes of one field that is no file. */
  fieldSize: number;
  parts: number;
  files?: number;
}

/** What is done with each part. A file's stream has to be read to its end, or be left alone. */
export interface PartHandlers {
  field: (name: string, value: string, mediaType: string) => void;
  file: (field: string, stream: BusboyFileStream, name: string, mediaType: string) => Promise<void>;
}

/** The body is no form data, ends before its closing boundary, or broke off. */
export class UnreadableParts extends Error {}

/**
 * Reads form data (RFC 7578) part by part. It ends when everything that was begun with its files has ended, too, however the
 * request ends: nothing goes on behind it, and no error is left without somebody who hears of it.
 * @returns what handlers of files failed with; the other parts were read all the same
 * @throws UnreadableParts
 */
export async function readParts(request: Request, limits: PartLimits, handlers: PartHandlers): Promise<unknown[]> {
  const failures: unknown[] = [];
  const handled: Promise<void>[] = [];
  const open = new Set<BusboyFileStream>();
  try {
    if (!request.body) throw new Error('there is no body');
    const reader = new Busboy({
      headers: { ...Object.fromEntries(request.headers), 'content-type': request.headers.get('content-type') ?? '' },
      limits,
    });
    reader.on('field', (name, value, _nameCut, _valueCut, _encoding, mediaType) =>
      handlers.field(name, value, mediaType),
    );
    reader.on('file', (field, stream, name, _encoding, mediaType) => {
      open.add(stream);
      // A part that breaks off says so here even where nobody reads it; without a listener that would end the process.
      stream.on('error', () => {});
      stream.once('close', () => open.delete(stream));
      handled.push(
        handlers.file(field, stream, name, mediaType).catch((error: unknown) => {
          failures.push(error);
          // What comes after it in the same request has to be reached.
          stream.resume();
        }),
      );
    });
    await pipeline(Readable.fromWeb(request.body as ReadableStream), reader);
  } catch (error) {
    for (const stream of open) stream.destroy(new UnreadableParts('the form data broke off'));
    await Promise.all(handled);
    throw new UnreadableParts('The form data cannot be read.', { cause: error });
  }
  await Promise.all(handled);
  return failures;
}
