import { Hono, type Context as HonoContext } from 'hono';
import { FILE_NAME_HEADER } from '../../../contract/ownFiles.ts';
import type { Context } from '../../context.ts';
import { addPiece, beginPieces, endPieces, isWhole, piecesThere } from '../../intake/pieces.ts';
import { readSignedText, signText } from '../../security/stamps.ts';
import { findUpload, type UploadRecord } from '../../store/uploads.ts';
import { problemResponse, Problem, tooLarge } from '../problems.ts';
import { fileNameIn } from '../sentFile.ts';
import { visitorAddress } from '../visitor.ts';
import { keptToken } from './body.ts';
import type { LiveSource, LiveSources } from './liveSources.ts';
import { allowOrigin, isAllowedOrigin, originOf } from './origins.ts';
import { Pace, tooOften } from './pace.ts';

const WHAT = 'pieces';
/** So many of the largest files that are taken may come from one address in a minute. */
const FILES_A_MINUTE = 10;
const NO_FILE = () => new Problem(404, 'not-found', 'There is no such file, or it waited for too long.');

/**
 * Large files come in pieces before the form that they belong to, and go on after a broken connection where they were: as the
 * IETF's resumable uploads have it (draft-ietf-httpbis-resumable-upload, from memory: Upload-Offset, Upload-Complete,
 * Upload-Length), without its interim responses, which scripts cannot see.
 */
export function pieceRoutes(context: Context, live: LiveSources, perMinute: number): Hono {
  const app = new Hono();
  const { config, store } = context;
  const pace = new Pace(perMinute);
  const bytes = new Pace(FILES_A_MINUTE * config.uploadBytes);

  const dress = (c: HonoContext) => {
    allowOrigin(c);
    c.header('access-control-expose-headers', 'location, upload-offset, upload-complete');
    c.header('cache-control', 'no-store');
  };
  /** The source that a file is for; null where it takes none, or none from there. */
  const sourceOf = async (c: HonoContext): Promise<LiveSource | null> => {
    const source = await live.find(c.req.param('publicId') ?? '');
    const takes = source?.live.fields.some(({ type }) => type === 'file') ?? false;
    return source && takes && isAllowedOrigin(source.live, originOf(c), config.publicUrl) ? source : null;
  };
  /** The file that an address stands for, while it waits for its form. */
  const fileOf = async (c: HonoContext): Promise<UploadRecord | null> => {
    const id = readSignedText(config.secretKey, WHAT, c.req.param('token') ?? '');
    const file = id === null ? null : await findUpload(store.db, id);
    return file?.submissionId === null ? file : null;
  };
  const standing = (c: HonoContext, file: UploadRecord, there: number, status: 200 | 201 | 409) => {
    const whole = there >= file.size;
    c.header('upload-offset', String(there));
    c.header('upload-complete', whole ? '?1' : '?0');
    return c.json(whole && status !== 409 ? { kept: keptToken(context, file.id) } : {}, status);
  };

  for (const path of ['/:publicId/files', '/:publicId/files/:token'])
    app.options(path, async (c) => {
      dress(c);
      if (!(await sourceOf(c))) return c.body(null, 403);
      c.header('access-control-allow-methods', 'POST, PATCH, HEAD');
      c.header(
        'access-control-allow-headers',
        `content-type, upload-offset, upload-complete, upload-length, ${FILE_NAME_HEADER}`,
      );
      c.header('access-control-max-age', '600');
      return c.body(null, 204);
    });

  app.post('/:publicId/files', async (c) => {
    dress(c);
    const wait = await pace.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const source = await sourceOf(c);
    if (!source) return problemResponse(NO_FILE());
    const size = Number(c.req.header('upload-length'));
    if (!Number.isSafeInteger(size) || size < 1)
      return problemResponse(new Problem(400, 'invalid', 'Upload-Length says how many bytes the file has.'));
    if (size > config.uploadBytes) return problemResponse(tooLarge('This file is larger than what is taken.'));
    const full = await bytes.wait(visitorAddress(c, config.trustedProxies), size);
    if (full !== null) return problemResponse(tooOften(full));
    const name = fileNameIn(c);
    const id = await beginPieces(context, { sourceId: source.id, name, size });
    c.header('location', `${config.publicUrl}/in/${source.publicId}/files/${signText(config.secretKey, WHAT, id)}`);
    c.header('upload-offset', '0');
    c.header('upload-complete', '?0');
    return c.body(null, 201);
  });

  // Hono answers HEAD by what answers GET.
  app.get('/:publicId/files/:token', async (c) => {
    dress(c);
    const file = await fileOf(c);
    const there = file ? await piecesThere(context, file.id) : null;
    return file && there !== null ? standing(c, file, there, 200) : problemResponse(NO_FILE());
  });

  app.patch('/:publicId/files/:token', async (c) => {
    dress(c);
    const file = await fileOf(c);
    const there = file ? await piecesThere(context, file.id) : null;
    if (!file || there === null || !(await sourceOf(c))) return problemResponse(NO_FILE());
    // It was judged: nothing in it changes any more, whoever sends a piece of it once more.
    if (isWhole(file)) return standing(c, file, file.size, 200);
    // What was written already may be written again: nothing may be left out.
    const offset = Number(c.req.header('upload-offset'));
    if (!Number.isSafeInteger(offset) || offset < 0 || offset > there) return standing(c, file, there, 409);
    const now = await addPiece(context, file, offset, c.req.raw.body ?? nothing());
    if (now === null) return problemResponse(tooLarge('There is more of it than it was to have. It was taken away.'));
    if (now >= file.size && !isWhole(file)) await endPieces(context, file);
    return standing(c, file, Math.max(now, there), 200);
  });

  return app;
}

async function* nothing(): AsyncGenerator<Uint8Array> {
  // A piece of no bytes asks how far it is.
}
