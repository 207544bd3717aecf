import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import type { Context as HonoContext } from 'hono';
import { FILE_NAME_HEADER } from '../../contract/ownFiles.ts';

/** What a file is called that a request brings; '' where it does not say. What cannot be decoded is its name as it is. */
export function fileNameIn(c: HonoContext): string {
  const encoded = c.req.header(FILE_NAME_HEADER) ?? '';
  try {
    return decodeURIComponent(encoded);
  } catch {
    return encoded;
  }
}

/** A file that is kept on the disk, as it is sent to a browser. */
interface KeptFile {
  name: string;
  mediaType: string;
  size: number;
}

/**
 * Sends a file. Nothing in it runs, wherever it is opened.
 * @param at where it is on the disk
 * @param how attachment: to be saved. inline: shown where a page has it
 */
export function sendFile(
  c: HonoContext,
  at: string,
  { name, mediaType, size }: KeptFile,
  how: 'attachment' | 'inline',
): Response {
  // RFC 6266 and RFC 8187: the name in any script.
  const encoded = encodeURIComponent(name).replace(
    /['()*]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return c.body(Readable.toWeb(createReadStream(at)) as ReadableStream, 200, {
    'content-type': mediaType,
    'content-length': String(size),
    'content-disposition': `${how}; filename="file"; filename*=UTF-8''${encoded}`,
    'x-content-type-options': 'nosniff',
    'content-security-policy': "default-src 'none'; sandbox",
  });
}
