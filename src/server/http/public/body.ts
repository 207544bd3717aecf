import type { BusboyFileStream } from '@fastify/busboy';
import type { Context as HonoContext } from 'hono';
import {
  jsonOf,
  MOST_ENTRIES,
  readFormBody,
  readJson,
  TOO_MANY_ENTRIES,
  type Entries,
  type FieldIssue,
  type SentFile,
} from '../../../core/intake/index.ts';
import { keptName } from '../../../core/forms/index.ts';
import { type SourceField } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { mediaTypeIn, tooLargeIssue, withFilesOut, type Body } from '../../intake/programBody.ts';
import { isWhole } from '../../intake/pieces.ts';
import { FileTooLarge, fileValueOf, storeUpload } from '../../intake/uploads.ts';
import { readSignedText, signText } from '../../security/stamps.ts';
import type { SourceRecord } from '../../store/sources.ts';
import { findUpload } from '../../store/uploads.ts';
import { Problem } from '../problems.ts';
import { readParts, UnreadableParts } from './multipart.ts';

/** What a request may hold beside files. */
export const BODY_LIMIT_BYTES = 256 * 1024;
const MOST_PARTS = 500;
/** Multipart headers and boundaries around each file. */
const AROUND_FILE_BYTES = 4 * 1024;
/** Of a file that is too large, so many times the limit is read to its end, so that its sender is told in words. */
const TOLD_TIMES = 5;

export const mediaTypeOf = (c: HonoContext): string => mediaTypeIn(c.req.header('content-type') ?? '');

const fileFields = (source: SourceRecord | null): SourceField[] =>
  (source?.live?.fields ?? []).filter(({ type }) => type === 'file');

/** How much a source takes by one request. */
export const bodyLimitOf = (context: Context, source: SourceRecord | null): number =>
  BODY_LIMIT_BYTES + fileFields(source).length * (TOLD_TIMES * context.config.uploadBytes + AROUND_FILE_BYTES);

/** Reads the body of a request to a source. Files are stored as they stream in, for the fields that take them. */
export async function readBody(context: Context, request: Request, source: SourceRecord): Promise<Body | Problem> {
  const contentType = request.headers.get('content-type') ?? '';
  switch (mediaTypeIn(contentType)) {
    case 'application/json': {
      const text = decode(new Uint8Array(await request.arrayBuffer()), contentType);
      if (text === null)
        return new Problem(400, 'not-text', 'The body is not in the encoding that it says, or in UTF-8.');
      const read = readJson(text);
      if (!read.ok) return new Problem(400, 'not-json', read.issue);
      return withFilesOut(context, source, jsonOf(read.value), []);
    }
    case 'application/x-www-form-urlencoded':
      return readEntries(context, source, readFormBody(await request.text()));
    case 'multipart/form-data':
      try {
        return await readMultipart(context, request, source);
      } catch (error) {
        if (!(error instanceof UnreadableParts)) throw error;
        return new Problem(400, 'not-multipart', error.message);
      }
    default:
      return new Problem(
        415,
        'unknown-type',
        'Send application/x-www-form-urlencoded, multipart/form-data or application/json.',
      );
  }
}

/** The body in the encoding that its media type says, else in UTF-8 (RFC 8259, 8.1); null when it is not in it. */
export function decode(bytes: Uint8Array, contentType: string): string | null {
  const charset = /;\s*charset="?([\w.:-]+)/i.exec(contentType)?.[1] ?? 'utf-8';
  try {
    return new TextDecoder(charset, { fatal: true }).decode(bytes);
  } catch {
    // An encoding that nobody knows, or bytes that are none of it.
    return null;
  }
}

/** What a form sent that has no files with it, but may have some that came before it. */
async function readEntries(context: Context, source: SourceRecord, entries: Entries): Promise<Body | Problem> {
  if (entries.length > MOST_ENTRIES) return new Problem(413, 'too-large', TOO_MANY_ENTRIES);
  const files = fileFields(source).length === 0 ? [] : await keptFiles(context, source, entries, []);
  return { payload: { kind: 'entries', entries, files }, issues: [] };
}

async function readMultipart(context: Context, request: Request, source: SourceRecord): Promise<Body> {
  const entries: Entries = [];
  const files: SentFile[] = [];
  const issues: FieldIssue[] = [];
  const taken = new Set(fileFields(source).map(({ key }) => key));
  let json: unknown;
  const store = async (key: string, given: string, stream: BusboyFileStream) => {
    // As browsers write these signs in names (WHATWG HTML, 4.10.22.8, from memory).
    const name = given.replace(/%22/g, '"').replace(/%0D|%0A/g, ' ');
    try {
      const value = await storeUpload(context, source.id, name, stream);
      // An input for a file that was left empty sends a nameless file of no bytes.
      if (name !== '' || value.size > 0) files.push({ name: key, value });
    } catch (error) {
      if (!(error instanceof FileTooLarge)) throw error;
      issues.push(tooLargeIssue(context, key, name));
    }
  };
  const storedKeys = new Set<string>();
  const failures = await readParts(
    request,
    { fieldSize: BODY_LIMIT_BYTES, parts: MOST_PARTS },
    {
      field: (name, value, mediaType) => {
        if (mediaType === 'application/json') json = partIn(value);
        else entries.push([name, value]);
      },
      file: async (key, stream, name, mediaType) => {
        if (taken.has(key) && !storedKeys.has(key)) {
          storedKeys.add(key);
          await store(key, name, stream);
        } else if (mediaType === 'application/json') json = partIn(await textIn(stream));
        else {
          stream.resume();
          if (name) entries.push([key, `(file ${name} was not kept)`]);
        }
      },
    },
  );
  files.push(...(await keptFiles(context, source, entries, files)));
  if (json !== undefined) {
    const body = await withFilesOut(context, source, json, files);
    return { ...body, issues: [...issues, ...body.issues], failures };
  }
  return { payload: { kind: 'entries', entries, files }, issues, failures };
}

/** What stands in a part that is JSON; undefined where it is none, or more than a payload may be. */
function partIn(text: string): unknown {
  const read = readJson(text);
  return read.ok ? jsonOf(read.value) : undefined;
}

async function textIn(stream: BusboyFileStream): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    size += chunk.byteLength;
    if (size <= BODY_LIMIT_BYTES) chunks.push(chunk);
  }
  return size > BODY_LIMIT_BYTES ? '' : Buffer.concat(chunks).toString('utf8');
}

/** Stands for a stored file in a form that is shown again; nobody can make one up. */
export const keptToken = ({ config }: Context, file: string): string => signText(config.secretKey, 'upload', file);

/** Files that came with an earlier try of the same form, whose fields are empty now. */
async function keptFiles(
  context: Context,
  source: SourceRecord,
  entries: Entries,
  sent: SentFile[],
): Promise<SentFile[]> {
  const kept: SentFile[] = [];
  for (const { key } of fileFields(source)) {
    const token = entries.find(([name]) => name === keptName(key))?.[1];
    const id = token && readSignedText(context.config.secretKey, 'upload', token);
    if (!id || sent.some(({ name }) => name === key)) continue;
    const upload = await findUpload(context.store.db, id);
    if (upload?.submissionId === null && upload.sourceId === source.id && isWhole(upload))
      kept.push({ name: key, value: fileValueOf(context, upload) });
  }
  return kept;
}
