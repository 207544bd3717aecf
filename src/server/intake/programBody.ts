import { Readable } from 'node:stream';
import {
  embeddedFiles,
  jsonOf,
  readWritten,
  withValueAt,
  writingOf,
  type FieldIssue,
  type Payload,
  type SentFile,
  type Writing,
} from '../../core/intake/index.ts';
import { bad, good, type Result } from '../../core/result.ts';
import { inBytes } from '../../core/values/index.ts';
import type { Context } from '../context.ts';
import type { SourceRecord } from '../store/sources.ts';
import { FileTooLarge, storeUpload } from './uploads.ts';

/** What a request holds, and what of it could not be kept. */
export interface Body {
  payload: Payload;
  issues: FieldIssue[];
  /** Why files in it could not be kept, for reasons of ours. */
  failures?: unknown[];
}

/** Why a body could not be read. */
export interface Unread {
  status: 400 | 415;
  slug: string;
  text: string;
}

export const mediaTypeIn = (contentType: string): string => contentType.split(';')[0]?.trim().toLowerCase() ?? '';

/** Reads what a program sent, in whichever way it is written. Files in it are stored. */
export async function readProgramBody(
  context: Context,
  source: SourceRecord,
  contentType: string,
  text: string,
): Promise<Result<Body, Unread>> {
  const writing = writingOf(mediaTypeIn(contentType), text);
  if (writing === null)
    return bad({
      status: 415,
      slug: 'unknown-type',
      text: 'Send JSON, lines of JSON, XML, application/x-www-form-urlencoded or multipart/form-data.',
    });
  const read = await readAs(context, writing, text);
  if (!read.ok) return bad({ status: 400, slug: writing === 'json' ? 'not-json' : 'not-readable', text: read.issue });
  const payload = read.value;
  return good(
    payload.kind === 'json' ? await withFilesOut(context, source, payload.json, []) : { payload, issues: [] },
  );
}

/** XML is read away from the thread that answers: what is short may take long. */
async function readAs({ reading }: Pick<Context, 'reading'>, writing: Writing, text: string): Promise<Result<Payload>> {
  if (writing !== 'xml') return readWritten(writing, text);
  const read = await reading.read('xml', { text });
  return read.ok ? read.value : read;
}

/** Stores the files that stand in JSON; what is kept of the payload says which they are. */
export async function withFilesOut(
  context: Context,
  source: SourceRecord,
  json: unknown,
  beside: SentFile[],
): Promise<Body> {
  const files = [...beside];
  const issues: FieldIssue[] = [];
  let kept = json;
  for (const { location, name, base64 } of embeddedFiles(source.live ?? source.draft, json)) {
    try {
      const value = await storeUpload(context, source.id, name, Readable.from([Buffer.from(base64, 'base64')]));
      files.push({ name: '', value });
      kept = withValueAt(kept, location, { file: value.file, name: value.name });
    } catch (error) {
      if (!(error instanceof FileTooLarge)) throw error;
      issues.push(tooLargeIssue(context, name, name));
    }
  }
  return { payload: { kind: 'json', json: kept, files }, issues };
}

export const tooLargeIssue = ({ config }: Context, field: string, name: string): FieldIssue => ({
  field,
  message: `"${name.slice(0, 60)}" is larger than ${inBytes(config.uploadBytes)}, which is the most that is taken.`,
});

/** What a body that was noted holds; undefined where it is nothing that can be read. */
export async function jsonIn(context: Pick<Context, 'reading'>, contentType: string, body: string): Promise<unknown> {
  const writing = writingOf(mediaTypeIn(contentType), body);
  const read = writing && (await readAs(context, writing, body));
  return read?.ok ? jsonOf(read.value) : undefined;
}
