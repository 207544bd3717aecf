import { Hono, type Context as HonoContext, type MiddlewareHandler } from 'hono';
import { html } from 'hono/html';
import { bodyLimit } from 'hono/body-limit';
import { secureHeaders } from 'hono/secure-headers';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { readJson, readUrlencoded, type Entries, type FieldIssue } from '../../../core/intake/index.ts';
import type { Context } from '../../context.ts';
import { elapsedSeconds, takeSubmission } from '../../intake.ts';
import { readSignedTime, signTime } from '../../security/stamps.ts';
import { findSourceByPublicId, type SourceRecord } from '../../store/sources.ts';
import { Problem, problemResponse, tooLarge } from '../problems.ts';
import { SAFE_HEADERS } from '../safeHeaders.ts';
import { visitorAddress } from '../visitor.ts';
import { formPage, PAGE_FIELD, STAMP_FIELD } from './formPage.ts';
import { page } from './layout.ts';
import { mustWait, tooOften } from './pace.ts';

const BODY_LIMIT_BYTES = 256 * 1024;
/** A published change reaches visitors within this time. */
const SOURCE_CACHE_MS = 1_000;

/** Why a submission was not taken, for the page or the problem document that says so. */
type Refusal = { problem: Problem } | { source: SourceRecord; again: ShownAgain };

/** A form shown again, with what was typed and what is wrong with it. */
interface ShownAgain {
  typed: Entries;
  issues: FieldIssue[];
  msSinceShown: number;
  firstPage: string;
}

interface Intake {
  Variables: { refusal: Refusal };
}

/** The public address of each source: takes form posts and JSON, and shows the form by itself. */
export function intakeRoutes(context: Context, submissionsPerMinute: number): Hono<Intake> {
  const app = new Hono<Intake>();
  const limiter = new RateLimiterMemory({ points: submissionsPerMinute, duration: 60 });
  const findLive = cachedSources(context);
  const dressed = secureHeaders(SAFE_HEADERS);

  app.get('*', dressed);
  app.get('/:publicId', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    return source
      ? c.html(
          showForm(context, source, {
            typed: filledIn(source, c.req.queries()),
            issues: [],
            msSinceShown: 0,
            firstPage: '',
          }),
        )
      : closedPage(c);
  });

  app.get('/:publicId/thanks', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    if (!source) return closedPage(c);
    const body = html`<h1>Thank you</h1>
      <p>${source.live?.thankYouMessage ?? ''}</p>`;
    return c.html(page('Thank you', body));
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

  /** Takes a submission, or says why not. Everything here stands between the visitor and the answer. */
  async function take(c: HonoContext): Promise<{ id: string; thankYouUrl: string } | Refusal> {
    const source = await findLive(c.req.param('publicId') ?? '');
    if (!source?.live)
      return {
        problem: new Problem(404, 'not-found', 'This form is closed. It does not take anything at the moment.'),
      };
    if (!isAllowedOrigin(source, originOf(c), context.config.publicUrl)) return { problem: WRONG_SITE() };
    const address = visitorAddress(c, context.config.trustedProxies);
    const wait = await mustWait(limiter, address);
    if (wait !== null) return { problem: tooOften(wait) };
    const entries = await readEntries(c);
    if (entries instanceof Problem) return { problem: entries };

    const stamp = entries.find(([name]) => name === STAMP_FIELD)?.[1];
    const shownAt = stamp ? readSignedTime(context.config.secretKey, stamp) : null;
    const evidence = { ...evidenceOf(c, address), ...firstPageIn(entries) };
    const taken = await takeSubmission(context, {
      sourceId: source.id,
      sourceVersion: source.liveVersion ?? 0,
      document: source.live,
      contentType: c.req.header('content-type') ?? '',
      entries,
      headers: evidence,
      idempotencyKey: c.req.header('idempotency-key')?.slice(0, 200) ?? null,
      shownAt,
    });
    if (taken.ok) return { id: taken.id, thankYouUrl: source.live.thankYouUrl || `/in/${source.publicId}/thanks` };
    if (taken.why === 'key used before') return { problem: KEY_USED() };
    const again = {
      typed: entries,
      issues: taken.issues,
      msSinceShown: msSinceShown(context, source, entries, shownAt),
      firstPage: evidence.referer ?? '',
    };
    return { source, again };
  }

  app.post(
    '/:publicId',
    limitBody,
    async (c, next) => {
      const outcome = await take(c);
      if (!('id' in outcome)) {
        c.set('refusal', outcome);
        return next();
      }
      const headers = { ...corsHeaders(c.req.header('origin') ?? ''), 'x-content-type-options': 'nosniff' };
      if (!prefersJson(c))
        return new Response(null, { status: 303, headers: { ...headers, location: outcome.thankYouUrl } });
      const body = JSON.stringify({ accepted: true, submission: outcome.id });
      return new Response(body, { status: 202, headers: { ...headers, 'content-type': 'application/json' } });
    },
    dressed,
    (c) => {
      for (const [name, value] of Object.entries(corsHeaders(c.req.header('origin') ?? ''))) c.header(name, value);
      return prefersJson(c) ? problemAnswer(c, c.get('refusal')) : pageAnswer(c, c.get('refusal'), context);
    },
  );

  return app;
}

const WRONG_SITE = () =>
  new Problem(
    403,
    'origin-not-allowed',
    'This form does not take anything from the site that you came from. Please tell its owner.',
  );

/** As the IETF draft of the Idempotency-Key header field has it (draft-ietf-httpapi-idempotency-key-header, 2.7). */
const KEY_USED = () =>
  new Problem(
    422,
    'idempotency-key-used',
    'This Idempotency-Key was used for another request before. Nothing was taken; send it with a key of its own.',
  );

function problemAnswer(c: HonoContext, refusal: Refusal): Response {
  const problem =
    'problem' in refusal
      ? refusal.problem
      : new Problem(
          422,
          'invalid',
          'Something in it is not right.',
          refusal.again.issues.map(({ field, message }) => ({ pointer: `/${field}`, detail: message })),
        );
  const response = problemResponse(problem);
  return c.newResponse(response.body, problem.status, Object.fromEntries(response.headers));
}

function pageAnswer(c: HonoContext, refusal: Refusal, context: Context): Response | Promise<Response> {
  if (!('problem' in refusal)) {
    return c.html(showForm(context, refusal.source, refusal.again), 422);
  }
  const { status, message, headers } = refusal.problem;
  if (status === 404) return closedPage(c);
  const body = html`<h1>Not sent</h1>
    <p>${message}</p>`;
  return c.html(page('Not sent', body), status, headers);
}

const streamLimit = bodyLimit({ maxSize: BODY_LIMIT_BYTES, onError: () => problemResponse(TOO_LARGE()) });
const TOO_LARGE = () => tooLarge('This is more than a form can hold.');

/** A length that is told is checked without touching the body; one that is not is counted as it streams in. */
const limitBody: MiddlewareHandler = async (c, next) => {
  const length = c.req.header('content-length');
  if (length === undefined || c.req.header('transfer-encoding') !== undefined) return streamLimit(c, next);
  return Number(length) > BODY_LIMIT_BYTES ? problemResponse(TOO_LARGE()) : next();
};

/** What an address fills in beforehand. Never a box: whether it is ticked is for the visitor to say. */
function filledIn({ live }: SourceRecord, queries: Record<string, string[]>): Entries {
  const boxes = new Set(live?.fields.filter(({ type }) => type === 'tick').map(({ key }) => key));
  return Object.entries(queries).flatMap(([name, values]) =>
    boxes.has(name) ? [] : values.map((value): [string, string] => [name, value]),
  );
}

function showForm({ config, now }: Context, source: SourceRecord, { msSinceShown: ms, ...again }: ShownAgain) {
  const document = source.live ?? source.draft;
  const stamp = signTime(config.secretKey, now() - ms);
  return formPage({ ...again, title: source.name, action: `/in/${source.publicId}`, document, stamp });
}

/** The page that a form was first sent from, when it comes from our own page after a mistake: as good as a Referer. */
function firstPageIn(entries: Entries): { referer?: string } {
  const page = entries.find(([name]) => name === PAGE_FIELD)?.[1] ?? '';
  return URL.canParse(page) ? { referer: page.slice(0, 500) } : {};
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

/** The site that a visitor comes from: browsers say so in Origin, old ones only in Referer. */
function originOf(c: HonoContext): string {
  const origin = c.req.header('origin');
  if (origin !== undefined) return origin;
  const referer = c.req.header('referer');
  return referer && URL.canParse(referer) ? new URL(referer).origin : '';
}

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
