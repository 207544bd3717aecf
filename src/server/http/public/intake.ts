import { Hono, type Context as HonoContext, type MiddlewareHandler } from 'hono';
import { html } from 'hono/html';
import { bodyLimit } from 'hono/body-limit';
import {
  forVisitor,
  insteadFor,
  KEPT_FIELD,
  KEY_FIELD,
  LATER_FIELD,
  pickVariant,
  languageFor,
  STAMP_FIELD,
  VARIANT_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
  withVariant,
  type KeptFile,
} from '../../../core/forms/index.ts';
import { asVariant, isOpenAt, type FieldIssue, type FormDocument, type Payload } from '../../../core/intake/index.ts';
import type { Context } from '../../context.ts';
import { removePartialForm, storePartialForm, readPartialForm } from '../../intake/partialForms.ts';
import { knownBySign } from '../../intake/visitors.ts';
import { retryWhileUnavailable } from '../../store/database.ts';
import { elapsedSeconds, senderOf, takeSubmission, type Arrival } from '../../intake/take.ts';
import type { SourceRecord } from '../../store/sources.ts';
import { isDone, newTask } from '../../security/work.ts';
import { readSignedTime } from '../../security/stamps.ts';
import type { LiveSource, LiveSources } from './liveSources.ts';
import { corsHeaders, isAllowedOrigin, originOf } from './origins.ts';
import { Problem, problemOf, tooLarge } from '../problems.ts';
import { bodyLimitOf, keptToken, mediaTypeOf, readBody } from './body.ts';
import { dressing } from '../safeHeaders.ts';
import { visitorAddress } from '../visitor.ts';
import { afterSending, type Outcome } from './afterSending.ts';
import { answerTo, asPart, KEY_USED, languageIn, stateOf, type Refusal, type ShownAgain } from './answers.ts';
import { afterBreak, answerTrouble, asked, isLookedAt, organisationName, WRONG_SITE } from './troubles.ts';
import { attributionOf, withPageOf, evidenceOf, filledIn, SIGN_PARAMETER } from './attribution.ts';
import { showClosed, showEnding, showForm, showGone, showInstead } from './formPage.ts';
import { showPage } from './layout.ts';
import { Pace, tooOften } from './pace.ts';
import { createPosted, greetingOf } from './posted.ts';

interface Intake {
  Variables: { answered: Refusal | Outcome };
}

/** Whether what comes after it is said in our own words, which say whether a mail follows. */
const hasOwnWords = (document: LiveSource['live']): boolean =>
  document.kind === 'form' && [document.ending, ...document.endings].some(({ message }) => message === '');

/** The public address of each source: takes form posts and JSON, and shows the form by itself. */
export function intakeRoutes(context: Context, live: LiveSources, submissionsPerMinute: number): Hono<Intake> {
  const app = new Hono<Intake>();
  const pace = new Pace(submissionsPerMinute);
  const findLive = live.find;
  const dressed = dressing(context.config.publicUrl);
  app.onError(afterBreak(context));

  app.get('*', dressed);
  const isOpen = ({ live: document }: LiveSource): boolean =>
    document.kind !== 'form' || isOpenAt(document.open, context.now());
  app.get('/:publicId', async (c) => {
    const programs = await live.posts(c.req.param('publicId'));
    const greeting = programs && greetingOf(programs, (name) => c.req.query(name));
    if (greeting) return c.text(greeting, 200);
    const source = await findLive(c.req.param('publicId'));
    const of = await organisationName(context);
    if (programs) return showPage(c, { title: 'For programs', language: 'en', of, body: onlyPosts }, 404);
    if (source?.live.kind !== 'form') return showClosed(c, of, languageFor(asked(c)), null);
    if (!isOpen(source)) return showClosed(c, of, languageIn(c, source.live), source.live);
    const first = {
      typed: filledIn(source.live, c.req.queries()),
      issues: [],
      kept: {},
      msSinceShown: 0,
      came: attributionOf(context, source, c.req.queries()),
    };
    const language = languageIn(c, source.live);
    const sign = c.req.query(SIGN_PARAMETER) ?? '';
    const known = await knownBySign(context, sign);
    const instead = insteadFor(source.live, known);
    const form = { publicId: source.publicId, document: source.live, language };
    if (instead) return showInstead(c, of, form, instead);
    // Whoever came here came to the form: where some are shown nothing, this would compare apples with pears.
    const compared = source.live.variants.some(({ nothing }) => nothing) ? [] : source.live.variants;
    const variant = pickVariant(compared, Math.random());
    const document = forVisitor(withVariant(source.live, variant), known);
    if (variant !== '') first.came.push([VARIANT_FIELD, variant]);
    if (Object.keys(known).length > 0) first.came.push([VISITOR_FIELD, sign]);
    const token = c.req.query('later') ?? '';
    if (token === '') return showForm(c, of, stateOf(context, source, document, language, first));
    const kept = await readPartialForm(context, source.id, token);
    if (!kept) return showGone(c, of, form);
    const going = { ...first, ...kept, came: [...first.came, [KEPT_FIELD, token] satisfies [string, string]] };
    return showForm(c, of, stateOf(context, source, document, language, going));
  });

  app.get('/:publicId/thanks', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    const of = await organisationName(context);
    if (source?.live.kind !== 'form') return showClosed(c, of, languageFor(asked(c)), null);
    const { live: document, publicId } = source;
    const ending = document.endings.find(({ id }) => id === c.req.query('ending')) ?? document.ending;
    return showEnding(c, of, { publicId, document, language: languageIn(c, document) }, ending, () => '', {
      downloadAt: '',
      isAsked: c.req.query('asked') === 'yes',
    });
  });

  app.options('/:publicId', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    const origin = c.req.header('origin') ?? '';
    // An address for programs takes its first example before it is published.
    const isForPrograms = source === null && (await live.posts(c.req.param('publicId'))) !== null;
    if (!isForPrograms && (!source || !isAllowedOrigin(source.live, origin, context.config.publicUrl)))
      return c.body(null, 403);
    return c.body(null, 204, {
      ...corsHeaders(origin),
      'access-control-allow-headers': 'content-type, idempotency-key',
      'access-control-allow-methods': 'POST',
      'access-control-max-age': '600',
    });
  });

  /** Takes a submission, or says why not. Everything here stands between the visitor and the answer. */
  async function take(c: HonoContext): Promise<Outcome | Refusal> {
    const source = await findLive(c.req.param('publicId') ?? '');
    if (!source || !isOpen(source))
      return {
        problem: new Problem(404, 'not-found', 'This form is closed. It does not take anything at the moment.'),
      };
    if (!isAllowedOrigin(source.live, originOf(c), context.config.publicUrl)) return { problem: WRONG_SITE() };
    const address = visitorAddress(c, context.config.trustedProxies);
    const wait = await pace.wait(address);
    if (wait !== null) return { problem: tooOften(wait) };
    const body = await readBody(context, c.req.raw, source);
    if (body instanceof Problem) return { problem: body };
    const { payload } = body;
    const sent = senderOf(payload);
    const { live: document } = source;
    if (document.kind === 'form' && document.goOnLater && payload.kind === 'entries' && sent(LATER_FIELD))
      return { source, document, laterToken: await storePartialForm(context, source.id, payload.entries) };
    const variant = sent(VARIANT_FIELD) ?? '';
    const work = sent(WORK_FIELD) ?? '';
    const sign = sent(VISITOR_FIELD) ?? '';
    const known = await retryWhileUnavailable(() => knownBySign(context, sign));
    const stamp = sent(STAMP_FIELD);
    const shownAt = stamp ? readSignedTime(context.config.secretKey, stamp) : null;
    const again = (issues: FieldIssue[]): Refusal => {
      if (source.live.kind !== 'form' || payload.kind !== 'entries') return { issues };
      const elapsed = elapsedSeconds(sent, shownAt, context.now()) ?? source.live.minimumSeconds;
      const shown = {
        typed: payload.entries,
        issues,
        kept: keptIn(context, payload),
        // Correcting one word quickly is no sign of a robot.
        msSinceShown: 1000 * elapsed,
        came: withPageOf(payload.entries, c.req.header('referer') ?? ''),
      };
      return { source, document: forVisitor(withVariant(source.live, variant), known), again: shown };
    };
    const failed = (error: unknown): Extract<Refusal, { again: ShownAgain }> => {
      // A page shows once more what was typed; a script and a program still have it.
      const refusal = isLookedAt(c) ? again([]) : null;
      if (!refusal || !('again' in refusal)) throw error;
      problemOf(error, context.log);
      return { ...refusal, again: { ...refusal.again, failed: true } };
    };
    if (body.failures && body.failures.length > 0) return failed(body.failures[0]);
    if (body.issues.length > 0) return again(body.issues);
    const arrival: Arrival = {
      sourceId: source.id,
      sourceVersion: source.liveVersion ?? 0,
      document: asVariant(source.live, variant),
      contentType: c.req.header('content-type') ?? '',
      payload,
      headers: evidenceOf(c, address),
      idempotencyKey: (c.req.header('idempotency-key') ?? sent(KEY_FIELD))?.slice(0, 200) ?? null,
      known,
      canWork: asPart(c) && work === 'can',
      hasWorked: isDone(context.config.secretKey, source.publicId, work, context.now()),
      shownAt,
    };
    const taken = await takeSubmission(context, arrival).catch(failed);
    if ('again' in taken) return taken;
    if (taken.ok) {
      const kept = sent(KEPT_FIELD);
      if (kept) await retryWhileUnavailable(() => removePartialForm(context, kept));
      return {
        ids: taken.ids,
        cameBefore: taken.cameBefore,
        source: { ...source, live: asVariant(source.live, variant) },
        answers: taken.answers,
        known,
        sign,
        isAsked: hasOwnWords(source.live) && (await live.isAsked(source.id, taken.answers)),
      };
    }
    if (taken.why === 'key used before') return { problem: KEY_USED() };
    if (taken.why === 'work wanted') return { task: newTask(context.config.secretKey, source.publicId, context.now()) };
    if (taken.why === 'unreadable') return { problem: new Problem(400, 'not-readable', taken.problem) };
    return again(taken.issues);
  }

  const posted = createPosted(context, submissionsPerMinute);
  const takePosted: MiddlewareHandler = async (c, next) => {
    const source = await live.posts(c.req.param('publicId') ?? '');
    if (!source) return next();
    const answer = await posted(c, source, c.req.param('secret') ?? '');
    for (const [name, value] of Object.entries(corsHeaders(c.req.header('origin') ?? '')))
      answer.headers.set(name, value);
    return answer;
  };
  // Its secret may stand in its address.
  app.post('/:publicId/:secret', limitBody(context, live.posts), takePosted);

  app.post(
    '/:publicId',
    limitBody(context, async (id) => (await findLive(id)) ?? live.posts(id)),
    takePosted,
    async (c, next) => {
      const outcome = await take(c);
      if (!('ids' in outcome)) {
        c.set('answered', outcome);
        return next();
      }
      const { source, ids } = outcome;
      const headers = { ...corsHeaders(c.req.header('origin') ?? ''), 'x-content-type-options': 'nosniff' };
      const isForm = source.live.kind === 'form';
      const after = isForm ? afterSending(context, outcome) : null;
      if (!prefersJson(c)) {
        if (after?.isOwnPage) {
          c.set('answered', outcome);
          return next();
        }
        const location = after?.location ?? `/in/${source.publicId}/thanks`;
        return new Response(null, { status: 303, headers: { ...headers, location } });
      }
      const [submission] = ids;
      const part = asPart(c) && after ? after.part(languageIn(c, source.live as FormDocument)) : {};
      // An id tells when something came: of what somebody else may have sent, visitors are not told it.
      const named = isForm && outcome.cameBefore ? {} : { submission, submissions: ids };
      const body = JSON.stringify({ accepted: true, ...named, ...part });
      return new Response(body, { status: 202, headers: { ...headers, 'content-type': 'application/json' } });
    },
    dressed,
    async (c) => {
      const asJson = prefersJson(c);
      for (const [name, value] of Object.entries(corsHeaders(c.req.header('origin') ?? ''))) c.header(name, value);
      return answerTo(context, c, c.get('answered'), asJson);
    },
  );

  return app;
}

/** A length that is told is checked without touching the body; one that is not is counted as it streams in. */
const limitBody =
  (context: Context, find: (publicId: string) => Promise<SourceRecord | null>): MiddlewareHandler =>
  async (c, next) => {
    const maxSize = bodyLimitOf(context, await find(c.req.param('publicId') ?? ''));
    const length = c.req.header('content-length');
    if (length === undefined || c.req.header('transfer-encoding') !== undefined)
      return bodyLimit({ maxSize, onError: () => tooMuch(context, c) })(c, next);
    return Number(length) > maxSize ? tooMuch(context, c) : next();
  };

/** So much of what is too large is read on, so that whoever sends it hears of it rather than of a broken connection. */
const HEARD_OUT_BYTES = 4 * 1024 * 1024;

async function tooMuch(context: Context, c: HonoContext): Promise<Response> {
  const problem = tooLarge('This is more than this source can hold.');
  if (isLookedAt(c)) {
    let read = 0;
    for await (const piece of c.req.raw.body ?? []) {
      read += piece.length;
      if (read > HEARD_OUT_BYTES) break;
    }
  }
  return answerTrouble(context, c, problem);
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

/** JSON is answered when JSON came, when it is asked for before HTML, and to programs. */
function prefersJson(c: HonoContext): boolean {
  const accept = c.req.header('accept') ?? '';
  if (mediaTypeOf(c) === 'application/json') return true;
  return accept.includes('application/json') && !accept.includes('text/html');
}
