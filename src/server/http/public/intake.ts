import { Hono, type Context as HonoContext } from 'hono';
import { html } from 'hono/html';
import { bodyLimit } from 'hono/body-limit';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { readJson, readUrlencoded, type Entries, type FieldIssue } from '../../../core/intake/index.ts';
import type { Context } from '../../context.ts';
import { elapsedSeconds, takeSubmission } from '../../intake.ts';
import { readSignedTime, signTime } from '../../security/stamps.ts';
import { findSourceByPublicId, type SourceRecord } from '../../store/sources.ts';
import { Problem, problemResponse, tooLarge } from '../problems.ts';
import { visitorAddress } from '../visitor.ts';
import { formPage, STAMP_FIELD } from './formPage.ts';
import { page } from './layout.ts';

const BODY_LIMIT_BYTES = 256 * 1024;
/** A published change reaches visitors within this time. */
const SOURCE_CACHE_MS = 1_000;

/** The public address of each source: takes form posts and JSON, and shows the form by itself. */
export function intakeRoutes(context: Context, submissionsPerMinute: number): Hono {
  const app = new Hono();
  const limiter = new RateLimiterMemory({ points: submissionsPerMinute, duration: 60 });
  const findLive = cachedSources(context);

  app.use(
    '/:publicId',
    bodyLimit({
      maxSize: BODY_LIMIT_BYTES,
      onError: () => problemResponse(tooLarge('This is more than a form can hold.')),
    }),
  );

  app.get('/:publicId', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    if (!source) return closedPage(c);
    const preset = Object.entries(c.req.query());
    return c.html(showForm(context, source, preset, []));
  });

  app.get('/:publicId/thanks', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    if (!source) return closedPage(c);
    return c.html(
      page(
        'Thank you',
        html`<h1>Thank you</h1>
          <p>${source.live?.thankYouMessage ?? ''}</p>`,
      ),
    );
  });

  app.options('/:publicId', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    const origin = c.req.header('origin') ?? '';
    if (!source || !isAllowedOrigin(source, origin, context.config.publicUrl)) return c.body(null, 403);
    return c.body(null, 204, {
      ...corsHeaders(origin),
      'access-control-allow-headers': 'content-type, idempotency-key',
      'access-control-allow-methods': 'POST',
      'access-control-max-age': '600',
    });
  });

  app.post('/:publicId', async (c) => {
    const wantsJson = prefersJson(c);
    const refuse = (problem: Problem) =>
      wantsJson
        ? problemResponse(problem)
        : c.html(
            page(
              'Not sent',
              html`<h1>Not sent</h1>
                <p>${problem.message}</p>`,
            ),
            problem.status,
            problem.headers,
          );
    const source = await findLive(c.req.param('publicId'));
    if (!source?.live)
      return wantsJson
        ? problemResponse(new Problem(404, 'not-found', 'There is no open form at this address.'))
        : closedPage(c);
    const origin = c.req.header('origin') ?? originOf(c.req.header('referer'));
    if (!isAllowedOrigin(source, origin, context.config.publicUrl)) {
      return refuse(
        new Problem(
          403,
          'origin-not-allowed',
          'This form does not take anything from the site that you came from. Please tell its owner.',
        ),
      );
    }
    const address = visitorAddress(c, context.config.trustedProxies);
    const wait = await mustWait(limiter, address);
    if (wait !== null)
      return refuse(
        new Problem(429, 'too-many', `That was a little too often. Please try again in ${wait} seconds.`, [], {
          'retry-after': String(wait),
        }),
      );
    const entries = await readEntries(c);
    if (entries instanceof Problem) return refuse(entries);

    const stamp = entries.find(([name]) => name === STAMP_FIELD)?.[1];
    const shownAt = stamp ? readSignedTime(context.config.secretKey, stamp) : null;
    const taken = await takeSubmission(context, {
      sourceId: source.id,
      sourceVersion: source.liveVersion ?? 0,
      document: source.live,
      contentType: c.req.header('content-type') ?? '',
      entries,
      headers: evidenceOf(c, address),
      idempotencyKey: c.req.header('idempotency-key')?.slice(0, 200) ?? null,
      shownAt,
    });
    Object.entries(corsHeaders(origin)).forEach(([name, value]) => c.header(name, value));
    if (!taken.ok) {
      if (!wantsJson)
        return c.html(
          showForm(context, source, entries, taken.issues, msSinceShown(context, source, entries, shownAt)),
          422,
        );
      const issues = taken.issues.map(({ field, message }) => ({ pointer: `/${field}`, detail: message }));
      return c.newResponse(
        problemResponse(new Problem(422, 'invalid', 'Something in it is not right.', issues)).body,
        422,
        { 'content-type': 'application/problem+json' },
      );
    }
    if (wantsJson) return c.json({ accepted: true, submission: taken.id }, 202);
    return c.redirect(source.live.thankYouUrl || `/in/${source.publicId}/thanks`, 303);
  });

  return app;
}

function showForm({ config, now }: Context, source: SourceRecord, typed: Entries, issues: FieldIssue[], msAgo = 0) {
  const document = source.live ?? source.draft;
  const stamp = signTime(config.secretKey, now() - msAgo);
  return formPage({ title: source.name, action: `/in/${source.publicId}`, document, typed, issues, stamp });
}

/** For how long a visitor who made a mistake has had the form: correcting one word quickly is no sign of a robot. */
function msSinceShown({ now }: Context, { live }: SourceRecord, entries: Entries, shownAt: number | null): number {
  return 1000 * (elapsedSeconds(entries, shownAt, now()) ?? live?.minimumSeconds ?? 0);
}

const closedPage = (c: HonoContext) =>
  c.html(
    page(
      'Closed',
      html`<h1>This form is closed</h1>
        <p>It does not take anything at the moment. Please go back to the page that you came from.</p>`,
    ),
    404,
  );

function cachedSources({ store, now }: Context): (publicId: string) => Promise<SourceRecord | null> {
  const cache = new Map<string, { source: SourceRecord | null; until: number }>();
  return async (publicId) => {
    const cached = cache.get(publicId);
    if (cached && cached.until > now()) return cached.source;
    const found = await findSourceByPublicId(store.db, publicId);
    const source = found?.state === 'live' ? found : null;
    if (cache.size > 1000) cache.clear();
    cache.set(publicId, { source, until: now() + SOURCE_CACHE_MS });
    return source;
  };
}

async function mustWait(limiter: RateLimiterMemory, address: string): Promise<number | null> {
  try {
    await limiter.consume(address);
    return null;
  } catch (refused) {
    if (refused instanceof RateLimiterRes) return Math.ceil(refused.msBeforeNext / 1000);
    throw refused;
  }
}

/** JSON is answered when JSON came, or when it is asked for before HTML. */
function prefersJson(c: HonoContext): boolean {
  const accept = c.req.header('accept') ?? '';
  return isJson(c) || (accept.includes('application/json') && !accept.includes('text/html'));
}

const mediaType = (c: HonoContext) => (c.req.header('content-type') ?? '').split(';')[0]?.trim().toLowerCase() ?? '';
const isJson = (c: HonoContext) => mediaType(c) === 'application/json';

async function readEntries(c: HonoContext): Promise<Entries | Problem> {
  switch (mediaType(c)) {
    case 'application/json':
      return (
        readJson(await c.req.text()) ??
        new Problem(400, 'not-json', 'The body is not a flat JSON object of texts, numbers and truth values.')
      );
    case 'application/x-www-form-urlencoded':
      return readUrlencoded(await c.req.text());
    case 'multipart/form-data':
      try {
        const form = await c.req.formData();
        return [...form].map(([name, value]) => [
          name,
          typeof value === 'string' ? value : `(file ${value.name} was not kept)`,
        ]);
      } catch {
        return new Problem(400, 'not-multipart', 'The form data cannot be read.');
      }
    default:
      return new Problem(
        415,
        'unknown-type',
        'Send application/x-www-form-urlencoded, multipart/form-data or application/json.',
      );
  }
}

/** With no origins named, any site may send. Our own page always may. */
function isAllowedOrigin({ live }: SourceRecord, origin: string, ownUrl: string): boolean {
  const origins = live?.origins ?? [];
  return origins.length === 0 || origins.includes(origin) || origin === new URL(ownUrl).origin;
}

const originOf = (url: string | undefined): string => (url && URL.canParse(url) ? new URL(url).origin : '');
const corsHeaders = (origin: string): Record<string, string> =>
  origin === '' || origin === 'null' ? {} : { 'access-control-allow-origin': origin, vary: 'origin' };

/** What is kept of a request as evidence; cookies and credentials never are. */
function evidenceOf(c: HonoContext, address: string): Record<string, string> {
  const kept = ['origin', 'referer', 'user-agent', 'accept-language'].flatMap((name) => {
    const value = c.req.header(name);
    return value ? [[name, value.slice(0, 500)]] : [];
  });
  return { ...(Object.fromEntries(kept) as Record<string, string>), address };
}
