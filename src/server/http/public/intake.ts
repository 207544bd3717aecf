import { Hono, type Context as HonoContext, type MiddlewareHandler } from 'hono';
import { html } from 'hono/html';
import { bodyLimit } from 'hono/body-limit';
import { secureHeaders } from 'hono/secure-headers';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { STAMP_FIELD, type KeptFile } from '../../../core/formats/index.ts';
import {
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  VARIANT_FIELD,
  type Entries,
  type FieldIssue,
  type FormDocument,
  type Payload,
} from '../../../core/intake/index.ts';
import { isTick } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { elapsedSeconds, senderOf, takeSubmission } from '../../intake/take.ts';
import { readSignedTime, signTime } from '../../security/stamps.ts';
import { findSourceByPublicId, type SourceRecord } from '../../store/sources.ts';
import { Problem, problemResponse, tooLarge } from '../problems.ts';
import { bodyLimitOf, keptToken, mediaTypeOf, readBody } from './body.ts';
import { SAFE_HEADERS } from '../safeHeaders.ts';
import { visitorAddress } from '../visitor.ts';
import { formPage } from './formPage.ts';
import { page } from './layout.ts';
import { mustWait, tooOften } from './pace.ts';

/** A published change reaches visitors within this time. */
const SOURCE_CACHE_MS = 1_000;

/** Why a submission was not taken, for the page or the problem document that says so. */
type Refusal =
  { problem: Problem } | { source: SourceRecord; document: FormDocument; again: ShownAgain } | { issues: FieldIssue[] };

/** A form shown, or shown again with what was typed and what is wrong with it. */
interface ShownAgain {
  typed: Entries | null;
  issues: FieldIssue[];
  kept: Record<string, KeptFile>;
  msSinceShown: number;
  /** What the form brings along about how the visitor came. */
  came: [name: string, value: string][];
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
    if (!source?.live) return closedPage(c);
    if (source.live.kind !== 'form') return c.html(page('For programs', onlyPosts), 404);
    const first = {
      typed: filledIn(source.live, c.req.queries()),
      issues: [],
      kept: {},
      msSinceShown: 0,
      came: cameBy(context, source, c.req.queries()),
    };
    return c.html(showForm(context, source, source.live, first));
  });

  app.get('/:publicId/thanks', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    if (source?.live?.kind !== 'form') return closedPage(c);
    const body = html`<h1>Thank you</h1>
      <p>${source.live.thankYouMessage}</p>`;
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
  async function take(c: HonoContext): Promise<{ ids: string[]; thankYouUrl: string } | Refusal> {
    const source = await findLive(c.req.param('publicId') ?? '');
    if (!source?.live)
      return {
        problem: new Problem(404, 'not-found', 'This form is closed. It does not take anything at the moment.'),
      };
    if (!isAllowedOrigin(source, originOf(c), context.config.publicUrl)) return { problem: WRONG_SITE() };
    const address = visitorAddress(c, context.config.trustedProxies);
    const wait = await mustWait(limiter, address);
    if (wait !== null) return { problem: tooOften(wait) };
    const body = await readBody(context, c, source);
    if (body instanceof Problem) return { problem: body };
    const { payload } = body;
    const sent = senderOf(payload);
    const stamp = sent(STAMP_FIELD);
    const shownAt = stamp ? readSignedTime(context.config.secretKey, stamp) : null;
    const again = (issues: FieldIssue[]): Refusal => {
      if (source.live?.kind !== 'form' || payload.kind !== 'entries') return { issues };
      const elapsed = elapsedSeconds(sent, shownAt, context.now()) ?? source.live.minimumSeconds;
      const shown = {
        typed: payload.entries,
        issues,
        kept: keptIn(context, payload),
        // Correcting one word quickly is no sign of a robot.
        msSinceShown: 1000 * elapsed,
        came: cameFrom(payload.entries, c.req.header('referer') ?? ''),
      };
      return { source, document: source.live, again: shown };
    };
    if (body.issues.length > 0) return again(body.issues);
    const taken = await takeSubmission(context, {
      sourceId: source.id,
      sourceVersion: source.liveVersion ?? 0,
      document: source.live,
      contentType: c.req.header('content-type') ?? '',
      payload,
      headers: evidenceOf(c, address),
      idempotencyKey: c.req.header('idempotency-key')?.slice(0, 200) ?? null,
      shownAt,
    });
    if (taken.ok) {
      const thankYouUrl = source.live.kind === 'form' ? source.live.thankYouUrl : '';
      return { ids: taken.ids, thankYouUrl: thankYouUrl || `/in/${source.publicId}/thanks` };
    }
    if (taken.why === 'key used before') return { problem: KEY_USED() };
    if (taken.why === 'unreadable') return { problem: new Problem(400, 'not-readable', taken.problem) };
    return again(taken.issues);
  }

  app.post(
    '/:publicId',
    limitBody(context, findLive),
    async (c, next) => {
      const outcome = await take(c);
      if (!('ids' in outcome)) {
        c.set('refusal', outcome);
        return next();
      }
      const headers = { ...corsHeaders(c.req.header('origin') ?? ''), 'x-content-type-options': 'nosniff' };
      if (!prefersJson(c, await findLive(c.req.param('publicId'))))
        return new Response(null, { status: 303, headers: { ...headers, location: outcome.thankYouUrl } });
      const [submission] = outcome.ids;
      const body = JSON.stringify({ accepted: true, submission, submissions: outcome.ids });
      return new Response(body, { status: 202, headers: { ...headers, 'content-type': 'application/json' } });
    },
    dressed,
    async (c) => {
      const asJson = prefersJson(c, await findLive(c.req.param('publicId')));
      for (const [name, value] of Object.entries(corsHeaders(c.req.header('origin') ?? ''))) c.header(name, value);
      return asJson ? problemAnswer(c, c.get('refusal')) : pageAnswer(c, c.get('refusal'), context);
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
          ('issues' in refusal ? refusal.issues : refusal.again.issues).map(({ field, message, part }) => ({
            pointer: part === undefined ? `/${field}` : `/${part}/${field}`,
            detail: message,
          })),
        );
  const response = problemResponse(problem);
  return c.newResponse(response.body, problem.status, Object.fromEntries(response.headers));
}

function pageAnswer(c: HonoContext, refusal: Refusal, context: Context): Response | Promise<Response> {
  if ('again' in refusal) return c.html(showForm(context, refusal.source, refusal.document, refusal.again), 422);
  if ('issues' in refusal) return problemAnswer(c, refusal);
  const { status, message, headers } = refusal.problem;
  if (status === 404) return closedPage(c);
  const body = html`<h1>Not sent</h1>
    <p>${message}</p>`;
  return c.html(page('Not sent', body), status, headers);
}

const TOO_LARGE = () => tooLarge('This is more than this source can hold.');

/** A length that is told is checked without touching the body; one that is not is counted as it streams in. */
const limitBody =
  (context: Context, find: (publicId: string) => Promise<SourceRecord | null>): MiddlewareHandler =>
  async (c, next) => {
    const maxSize = bodyLimitOf(context, await find(c.req.param('publicId') ?? ''));
    const length = c.req.header('content-length');
    if (length === undefined || c.req.header('transfer-encoding') !== undefined)
      return bodyLimit({ maxSize, onError: () => problemResponse(TOO_LARGE()) })(c, next);
    return Number(length) > maxSize ? problemResponse(TOO_LARGE()) : next();
  };

/** What an address fills in beforehand; null for nothing. Never a box: whether it is ticked is for the visitor to say. */
function filledIn({ fields }: FormDocument, queries: Record<string, string[]>): Entries | null {
  const boxes = new Set(fields.filter(isTick).map(({ key }) => key));
  const entries = Object.entries(queries).flatMap(([name, values]) =>
    boxes.has(name) || CAME.test(name) ? [] : values.map((value): [string, string] => [name, value]),
  );
  return entries.length === 0 ? null : entries;
}

function showForm({ config, now }: Context, source: SourceRecord, document: FormDocument, shown: ShownAgain) {
  const { msSinceShown, came, ...again } = shown;
  const stamp = signTime(config.secretKey, now() - msSinceShown);
  const carries: [string, string][] = [[STAMP_FIELD, stamp], ...came];
  return formPage({ ...again, title: source.name, action: `/in/${source.publicId}`, document, carries });
}

/** Parameters of an address that say how the visitor came. */
const CAME = /^utm_|^form_/;
const CARRIED = [PAGE_FIELD, REFERRER_FIELD, PLACEMENT_FIELD, VARIANT_FIELD];

/** How a visitor came to our own page, for the form on it to bring along: its address with the campaign's parameters. */
function cameBy({ config }: Context, { publicId }: SourceRecord, queries: Record<string, string[]>): Entries {
  const page = new URL(`${config.publicUrl}/in/${publicId}`);
  const given = Object.entries(queries).map(([name, [value = '']]): [string, string] => [name, value]);
  for (const [name, value] of given) if (name.startsWith('utm_')) page.searchParams.set(name, value);
  const said = given.filter(([name]) => CARRIED.includes(name) && name !== PAGE_FIELD);
  return [[PAGE_FIELD, page.href], ...said];
}

/** The same of a form that is shown again by us: it says so itself, or the request says which page it is from. */
function cameFrom(entries: Entries, referer: string): Entries {
  const carried = entries.filter(([name, value]) => CARRIED.includes(name) && value !== '');
  return carried.some(([name]) => name === PAGE_FIELD) || referer === ''
    ? carried
    : [[PAGE_FIELD, referer], ...carried];
}

/** The files that came with a form that has to be mended: they need not be chosen again. */
const keptIn = (context: Context, { files }: Payload): Record<string, KeptFile> =>
  Object.fromEntries(
    files.map(({ name, value }) => [
      name,
      { name: value.name, size: value.size, token: keptToken(context, value.file) },
    ]),
  );

const onlyPosts = html`<h1>Nothing to see here</h1>
  <p>This address takes what other programs post to it. There is no form.</p>`;

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

/** JSON is answered when JSON came, when it is asked for before HTML, and to programs. */
function prefersJson(c: HonoContext, source: SourceRecord | null): boolean {
  const accept = c.req.header('accept') ?? '';
  if (source?.live?.kind === 'posts' || mediaTypeOf(c) === 'application/json') return true;
  return accept.includes('application/json') && !accept.includes('text/html');
}

/** With no origins named, any site may send. Our own page always may. */
function isAllowedOrigin({ live }: SourceRecord, origin: string, ownUrl: string): boolean {
  const origins = live?.kind === 'form' ? live.origins : [];
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
