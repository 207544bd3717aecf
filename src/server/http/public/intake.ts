import { Hono, type Context as HonoContext, type MiddlewareHandler } from 'hono';
import { html } from 'hono/html';
import { bodyLimit } from 'hono/body-limit';
import { secureHeaders } from 'hono/secure-headers';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import {
  forVisitor,
  insteadFor,
  KEPT_FIELD,
  KEY_FIELD,
  LATER_FIELD,
  pickVariant,
  languageFor,
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  STAMP_FIELD,
  VARIANT_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
  withVariant,
  type FormLanguage,
  type KeptFile,
} from '../../../core/forms/index.ts';
import {
  isOpenAt,
  type Entries,
  type FieldIssue,
  type FormDocument,
  type Payload,
} from '../../../core/intake/index.ts';
import { isTick } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { endKept, keepEntries, readKept } from '../../intake/keeping.ts';
import { knownBySign } from '../../intake/visitors.ts';
import { elapsedSeconds, senderOf, takeSubmission } from '../../intake/take.ts';
import { isDone, newTask, WORK_BITS } from '../../security/work.ts';
import { readSignedTime, signTime } from '../../security/stamps.ts';
import type { SentPart, WorkWanted } from '../../../contract/placing.ts';
import type { LiveSource, LiveSources } from './liveSources.ts';
import { corsHeaders, isAllowedOrigin, originOf } from './origins.ts';
import { Problem, problemResponse, tooLarge } from '../problems.ts';
import { bodyLimitOf, keptToken, mediaTypeOf, readBody } from './body.ts';
import { SAFE_HEADERS } from '../safeHeaders.ts';
import { visitorAddress } from '../visitor.ts';
import { languageOf, wordsIn } from '../../../forms/index.ts';
import { readOrganisationNames } from '../../store/organisation.ts';
import { afterSending, type Outcome } from './afterSending.ts';
import {
  printKept,
  printShown,
  showClosed,
  showEnding,
  showForm,
  showGone,
  showInstead,
  showKept,
  type FormState,
} from './formPage.ts';
import { issuesIn } from './issueWords.ts';
import { showPage } from './layout.ts';
import { mustWait, tooOften } from './pace.ts';

/** Why a submission was not taken, for the page or the problem document that says so. */
type Refusal =
  | KeptOutcome
  | { task: string }
  | { problem: Problem }
  | { source: LiveSource; document: FormDocument; again: ShownAgain }
  | { issues: FieldIssue[] };

/** A form shown, or shown again with what was typed and what is wrong with it. */
interface ShownAgain {
  typed: Entries | null;
  issues: FieldIssue[];
  kept: Record<string, KeptFile>;
  msSinceShown: number;
  /** The page of it that they were on. */
  at?: string | undefined;
  /** What the form brings along about how the visitor came. */
  came: [name: string, value: string][];
}

/** A form that was left half filled in, and the token of the link by which it is gone on with. */
interface KeptOutcome {
  source: LiveSource;
  document: FormDocument;
  laterToken: string;
}

interface Intake {
  Variables: { answered: Refusal | Outcome };
}

/** The public address of each source: takes form posts and JSON, and shows the form by itself. */
export function intakeRoutes(context: Context, live: LiveSources, submissionsPerMinute: number): Hono<Intake> {
  const app = new Hono<Intake>();
  const limiter = new RateLimiterMemory({ points: submissionsPerMinute, duration: 60 });
  const findLive = live.find;
  const dressed = secureHeaders(SAFE_HEADERS);

  const organisation = async () => (await readOrganisationNames(context.store.db))[0] ?? '';
  const languageIn = (c: HonoContext, document: FormDocument): FormLanguage => languageOf(document, asked(c));

  app.get('*', dressed);
  const isOpen = ({ live: document }: LiveSource): boolean =>
    document.kind !== 'form' || isOpenAt(document.open, context.now());
  app.get('/:publicId', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    const of = await organisation();
    if (!source) return showClosed(c, of, languageFor(asked(c)), null);
    if (source.live.kind === 'form' && !isOpen(source))
      return showClosed(c, of, languageIn(c, source.live), source.live);
    if (source.live.kind !== 'form')
      return showPage(c, { title: 'For programs', language: 'en', of, body: onlyPosts }, 404);
    const first = {
      typed: filledIn(source.live, c.req.queries()),
      issues: [],
      kept: {},
      msSinceShown: 0,
      came: cameBy(context, source, c.req.queries()),
    };
    const language = languageIn(c, source.live);
    const sign = c.req.query(SIGN_PARAMETER) ?? '';
    const known = await knownBySign(context, sign);
    const instead = insteadFor(source.live, known);
    if (instead) return showInstead(c, of, { publicId: source.publicId, document: source.live, language }, instead);
    const variant = pickVariant(source.live.variants, Math.random());
    const document = forVisitor(withVariant(source.live, variant), known);
    if (variant !== '') first.came.push([VARIANT_FIELD, variant]);
    if (Object.keys(known).length > 0) first.came.push([VISITOR_FIELD, sign]);
    const token = c.req.query('later') ?? '';
    if (token === '') return showForm(c, of, stateOf(context, source, document, language, first));
    const kept = await readKept(context, source.id, token);
    if (!kept) return showGone(c, of, source.publicId, source.live, language);
    const going = { ...first, ...kept, came: [...first.came, [KEPT_FIELD, token] satisfies [string, string]] };
    return showForm(c, of, stateOf(context, source, document, language, going));
  });

  app.get('/:publicId/thanks', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    const of = await organisation();
    if (source?.live.kind !== 'form') return showClosed(c, of, languageFor(asked(c)), null);
    const { live: document, publicId } = source;
    const ending = document.endings.find(({ id }) => id === c.req.query('ending')) ?? document.ending;
    return showEnding(c, of, { publicId, document, language: languageIn(c, document) }, ending, () => '');
  });

  app.options('/:publicId', async (c) => {
    const source = await findLive(c.req.param('publicId'));
    const origin = c.req.header('origin') ?? '';
    if (!source || !isAllowedOrigin(source.live, origin, context.config.publicUrl)) return c.body(null, 403);
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
    const wait = await mustWait(limiter, address);
    if (wait !== null) return { problem: tooOften(wait) };
    const body = await readBody(context, c, source);
    if (body instanceof Problem) return { problem: body };
    const { payload } = body;
    const sent = senderOf(payload);
    const { live: document } = source;
    if (document.kind === 'form' && document.goOnLater && payload.kind === 'entries' && sent(LATER_FIELD))
      return { source, document, laterToken: await keepEntries(context, source.id, payload.entries) };
    const variant = sent(VARIANT_FIELD) ?? '';
    const work = sent(WORK_FIELD) ?? '';
    const known = await knownBySign(context, sent(VISITOR_FIELD) ?? '');
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
        came: cameFrom(payload.entries, c.req.header('referer') ?? ''),
      };
      return { source, document: forVisitor(withVariant(source.live, variant), known), again: shown };
    };
    if (body.issues.length > 0) return again(body.issues);
    const taken = await takeSubmission(context, {
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
    });
    if (taken.ok) {
      const kept = sent(KEPT_FIELD);
      if (kept) await endKept(context, kept);
      return {
        ids: taken.ids,
        source: { ...source, live: asVariant(source.live, variant) },
        answers: taken.answers,
        known,
      };
    }
    if (taken.why === 'key used before') return { problem: KEY_USED() };
    if (taken.why === 'work wanted') return { task: newTask(context.config.secretKey, source.publicId, context.now()) };
    if (taken.why === 'unreadable') return { problem: new Problem(400, 'not-readable', taken.problem) };
    return again(taken.issues);
  }

  app.post(
    '/:publicId',
    limitBody(context, findLive),
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
      if (!prefersJson(c, source)) {
        if (after?.isOwnPage) {
          c.set('answered', outcome);
          return next();
        }
        const location = after?.location ?? `/in/${source.publicId}/thanks`;
        return new Response(null, { status: 303, headers: { ...headers, location } });
      }
      const [submission] = ids;
      const part = asPart(c) && after ? after.part(languageIn(c, source.live as FormDocument)) : {};
      const body = JSON.stringify({ accepted: true, submission, submissions: ids, ...part });
      return new Response(body, { status: 202, headers: { ...headers, 'content-type': 'application/json' } });
    },
    dressed,
    async (c) => {
      const asJson = prefersJson(c, await findLive(c.req.param('publicId')));
      for (const [name, value] of Object.entries(corsHeaders(c.req.header('origin') ?? ''))) c.header(name, value);
      const answered = c.get('answered');
      if ('task' in answered) return c.json({ task: answered.task, bits: WORK_BITS } satisfies WorkWanted, 428);
      if ('laterToken' in answered) return keptAnswer(c, answered);
      if ('ids' in answered) return endingAnswer(c, answered);
      if (asPart(c) && 'again' in answered) return c.json(againPart(c, answered), 422);
      return asJson ? problemAnswer(c, answered) : pageAnswer(c, answered);
    },
  );

  /** Says by which link a form is gone on with that was left half filled in. */
  async function keptAnswer(c: HonoContext, { source, document, laterToken }: KeptOutcome): Promise<Response> {
    const language = languageIn(c, document);
    const url = `${context.config.publicUrl}/in/${source.publicId}?later=${laterToken}`;
    if (!asPart(c)) return showKept(c, await organisation(), { publicId: source.publicId, document, language }, url);
    const { html } = printKept(source.publicId, document, language, url);
    return c.json({ html, taken: false, next: null, seconds: 0 } satisfies SentPart);
  }

  /** What stands on our own page where the ending holds answers, which no address of ours may. */
  async function endingAnswer(c: HonoContext, outcome: Outcome): Promise<Response> {
    const document = outcome.source.live as FormDocument;
    const { ending, answerOf } = afterSending(context, outcome);
    const page = { publicId: outcome.source.publicId, document, language: languageIn(c, document) };
    return showEnding(c, await organisation(), page, ending, answerOf);
  }

  /** What a script puts in the place of a form that has to be mended. */
  function againPart(c: HonoContext, { source, document, again }: Extract<Refusal, { again: ShownAgain }>): SentPart {
    const language = languageIn(c, document);
    const issues = issuesIn(language, document, again.typed ?? [], again.issues);
    const action = `${context.config.publicUrl}/in/${source.publicId}`;
    const { html } = printShown({ ...again, issues, action, document, language, carries: 'script' });
    return { html, taken: false, next: null, seconds: 0 };
  }

  /** Says on a page why nothing was taken. */
  async function pageAnswer(
    c: HonoContext,
    refusal: Exclude<Refusal, KeptOutcome | { task: string }>,
  ): Promise<Response> {
    if ('issues' in refusal) return problemAnswer(c, refusal);
    const of = await organisation();
    if ('again' in refusal) {
      const { source, document, again } = refusal;
      const language = languageIn(c, document);
      const issues = issuesIn(language, document, again.typed ?? [], again.issues);
      return showForm(c, of, stateOf(context, source, document, language, { ...again, issues }), 422);
    }
    const language = languageFor(asked(c));
    const { status, slug, message, headers } = refusal.problem;
    if (status === 404) return showClosed(c, of, language, null);
    for (const [name, value] of Object.entries(headers)) c.header(name, value);
    const say = wordsIn(language);
    const text =
      slug === 'too-many'
        ? say('tooOften', { seconds: headers['retry-after'] ?? '' })
        : slug === WRONG_SITE().slug
          ? say('wrongSite')
          : message;
    const body = html`<h1>${say('notSent')}</h1>
      <p>${text}</p>`;
    return showPage(c, { title: say('notSent'), language, of, body, personal: true }, status);
  }

  return app;
}

const asVariant = (live: LiveSource['live'], id: string): LiveSource['live'] =>
  live.kind === 'form' ? withVariant(live, id) : live;

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

function problemAnswer(c: HonoContext, refusal: Exclude<Refusal, KeptOutcome | { task: string }>): Response {
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

const TOO_LARGE = () => tooLarge('This is more than this source can hold.');

/** A length that is told is checked without touching the body; one that is not is counted as it streams in. */
const limitBody =
  (context: Context, find: (publicId: string) => Promise<LiveSource | null>): MiddlewareHandler =>
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

/** A form as it is shown to a visitor now. */
function stateOf(
  { config, now }: Context,
  source: LiveSource,
  document: FormDocument,
  language: FormLanguage,
  { msSinceShown, came, ...again }: ShownAgain,
): FormState {
  const stamp = signTime(config.secretKey, now() - msSinceShown);
  const carries: [string, string][] = [[STAMP_FIELD, stamp], ...came];
  return { ...again, action: `/in/${source.publicId}`, document, language, carries };
}

/** Whether a script on a page of others asks, which puts what it is answered in the place of the form. */
const asPart = (c: HonoContext): boolean => c.req.query('as') === 'part';

/** What the browser asks for. */
const asked = (c: HonoContext): string => c.req.header('accept-language') ?? '';

/** In which a personal link says who opens it. */
const SIGN_PARAMETER = 'visitor';
/** Parameters of an address that say how the visitor came. */
const CAME = /^utm_|^form_|^visitor$|^later$/;
const CARRIED = [PAGE_FIELD, REFERRER_FIELD, PLACEMENT_FIELD, VARIANT_FIELD];
/** What a form carries on beside that when it is shown again. */
const CARRIED_ON = [...CARRIED, KEPT_FIELD, VISITOR_FIELD];

/** How a visitor came to our own page, for the form on it to bring along: its address with the campaign's parameters. */
function cameBy({ config }: Context, { publicId }: LiveSource, queries: Record<string, string[]>): Entries {
  const page = new URL(`${config.publicUrl}/in/${publicId}`);
  const given = Object.entries(queries).map(([name, [value = '']]): [string, string] => [name, value]);
  for (const [name, value] of given) if (name.startsWith('utm_')) page.searchParams.set(name, value);
  const said = given.filter(([name]) => CARRIED.includes(name) && name !== PAGE_FIELD);
  return [[PAGE_FIELD, page.href], ...said];
}

/** The same of a form that is shown again by us: it says so itself, or the request says which page it is from. */
function cameFrom(entries: Entries, referer: string): Entries {
  const carried = entries.filter(([name, value]) => CARRIED_ON.includes(name) && value !== '');
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

/** JSON is answered when JSON came, when it is asked for before HTML, and to programs. */
function prefersJson(c: HonoContext, source: LiveSource | null): boolean {
  const accept = c.req.header('accept') ?? '';
  if (source?.live.kind === 'posts' || mediaTypeOf(c) === 'application/json') return true;
  return accept.includes('application/json') && !accept.includes('text/html');
}

/** What is kept of a request as evidence; cookies and credentials never are. */
function evidenceOf(c: HonoContext, address: string): Record<string, string> {
  const kept = ['origin', 'referer', 'user-agent', 'accept-language'].flatMap((name) => {
    const value = c.req.header(name);
    return value ? [[name, value.slice(0, 500)]] : [];
  });
  return { ...(Object.fromEntries(kept) as Record<string, string>), address };
}
