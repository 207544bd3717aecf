import type { Context as HonoContext } from 'hono';
import {
  asUsable,
  challengeIn,
  eventKindsIn,
  inOneText,
  jsonOf,
  type FieldIssue,
  type PostedDocument,
  type Proof,
} from '../../../core/intake/index.ts';
import type { ArrivalOutcome } from '../../../contract/webhook.ts';
import type { Context } from '../../context.ts';
import { isGenuine, secretHeaders } from '../../intake/genuine.ts';
import { readProgramBody, type Body } from '../../intake/programBody.ts';
import { takeSubmission } from '../../intake/take.ts';
import { retryWhileUnavailable } from '../../store/database.ts';
import type { SourceRecord } from '../../store/sources.ts';
import { noteArrival, readSourceSecret } from '../../store/webhooks.ts';
import { Problem, problemResponse } from '../problems.ts';
import { visitorAddress } from '../visitor.ts';
import { KEY_USED, notValid } from './answers.ts';
import { decode, mediaTypeOf, readBody } from './body.ts';
import { Pace, tooOften } from './pace.ts';

/** So many times as often as a visitor a program may send, and one that shows who it is. */
const TIMES = { program: 10, genuine: 100 };

/** Of what was not taken so much is kept; what holds files may be longer. */
const MOST_NOTED = 256 * 1024;

const NOT_GENUINE =
  'It does not show that it comes from whom this address is for: the secret or the signature is not right, or it is too old.';

/** What came, as far as it is needed to say what became of it. */
interface Came {
  source: SourceRecord;
  contentType: string;
  headers: Record<string, string>;
  body: string;
}

/** Takes what programs send to their addresses. */
export function createPosted(context: Context, submissionsPerMinute: number) {
  const { store, now, secrets, config, log, newId } = context;
  const paces = {
    program: new Pace(TIMES.program * submissionsPerMinute),
    genuine: new Pace(TIMES.genuine * submissionsPerMinute),
    refused: new Pace(submissionsPerMinute),
  };
  const known = new Map<string, { own: string[]; until: number }>();

  /** The secrets by which a source lets in: one, and that of before while it is exchanged. Read at most once a second. */
  async function secretsOf(sourceId: string): Promise<string[]> {
    const before = known.get(sourceId);
    if (before && before.until > performance.now()) return before.own;
    const found = await retryWhileUnavailable(() => readSourceSecret(store.db, sourceId));
    const former = found?.former && found.formerUntil > now() ? [found.former] : [];
    const own = found ? [found.secret, ...former].map((sealed) => secrets.open(sealed)) : [];
    known.set(sourceId, { own, until: performance.now() + 1_000 });
    return own;
  }

  /** Notes what became no submission; whoever sent it is not kept waiting, or refused, where that fails. */
  async function note({ source, ...came }: Came, outcome: ArrivalOutcome, why: string, submissions: string[] = []) {
    const arrival = { ...came, id: newId(), sourceId: source.id, receivedAt: now(), outcome, why: why.slice(0, 300) };
    const body = came.body.length > MOST_NOTED ? '' : came.body;
    await noteArrival(store.db, { ...arrival, body, submissions }).catch((error: unknown) => {
      log.warn({ err: error }, 'an arrival could not be noted');
    });
  }

  async function readText(source: SourceRecord, contentType: string, text: string): Promise<Body | Problem> {
    const read = await readProgramBody(context, source, contentType, text);
    return read.ok ? read.value : new Problem(read.issue.status, read.issue.slug, read.issue.text);
  }

  return async function take(c: HonoContext, source: SourceRecord, inPath: string): Promise<Response> {
    const document = source.live === null ? asUsable(source.draft as PostedDocument) : (source.live as PostedDocument);
    const { proof } = document;
    const address = visitorAddress(c, config.trustedProxies);
    const isOpen = proof.by === 'nothing';
    if (isOpen) {
      const wait = await paces.program.wait(address);
      if (wait !== null) return problemResponse(tooOften(wait));
    }
    const isParts = mediaTypeOf(c) === 'multipart/form-data';
    // What is signed is signed as a whole, parts with files as well; else parts are read as they stream in.
    const streams = isParts && !isOfWhole(proof);
    const bytes = streams ? NO_BYTES : new Uint8Array(await c.req.arrayBuffer());
    const body = isParts ? '' : decode(bytes, c.req.header('content-type') ?? '');
    const came: Came = {
      source,
      contentType: (c.req.header('content-type') ?? '').slice(0, 120),
      headers: headersOf(c, document, address),
      body: body ?? '',
    };
    if (body === null) {
      const why = 'The body is not in the encoding that it says, or in UTF-8.';
      await note(came, 'not readable', why);
      return problemResponse(new Problem(400, 'not-text', why));
    }
    const header = (name: string) => c.req.header(name) ?? '';
    const own = isOpen ? [null] : await secretsOf(source.id);
    if (!own.some((secret) => isGenuine(proof, { header, inPath, body: bytes }, secret, now()))) {
      if (isOpen) return problemResponse(new Problem(404, 'not-found', 'There is nothing at this address.'));
      // Whoever tries secrets is let try few.
      const wait = await paces.refused.wait(address);
      if (wait !== null) return problemResponse(tooOften(wait));
      const why = own.length === 0 ? 'No secret is set here yet.' : NOT_GENUINE;
      await note({ ...came, body: '' }, 'not genuine', why);
      return problemResponse(notGenuine(document));
    }
    if (!isOpen) {
      const wait = await paces.genuine.wait(address);
      if (wait !== null) return problemResponse(tooOften(wait));
    }
    const read = isParts
      ? await readBody(context, streams ? c.req.raw : withBody(c.req.raw, bytes), source)
      : await readText(source, came.contentType, body);
    if (read instanceof Problem) {
      await note(came, 'not readable', read.message);
      return problemResponse(read);
    }
    const { payload } = read;
    const json = jsonOf(payload);
    const asked = challengeIn(document, json);
    if (asked !== null) return c.text(asked, 200, { 'x-content-type-options': 'nosniff' });
    if (source.live === null) {
      await note(came, 'sample', '');
      return c.json({ accepted: false, kept: 'as an example, until the source is published' }, 202);
    }
    if (source.state !== 'live') {
      await note(came, 'closed', 'The source is paused. Send it again from here once it goes on.');
      return problemResponse(new Problem(404, 'not-found', 'This address does not take anything at the moment.'));
    }
    const notTaken = async (issues: FieldIssue[]) => {
      await note(came, 'not valid', inOneText(issues));
      return problemResponse(notValid(issues));
    };
    if (read.issues.length > 0) return notTaken(read.issues);
    const taken = await takeSubmission(context, {
      sourceId: source.id,
      sourceVersion: source.liveVersion ?? 0,
      document,
      contentType: came.contentType,
      payload,
      headers: came.headers,
      idempotencyKey: c.req.header('idempotency-key')?.slice(0, 200) ?? null,
      known: {},
      shownAt: null,
    });
    if (!taken.ok) {
      if (taken.why === 'invalid') return notTaken(taken.issues);
      const problem = taken.why === 'unreadable' ? new Problem(400, 'not-readable', taken.problem) : KEY_USED();
      await note(came, 'not readable', problem.message);
      return problemResponse(problem);
    }
    if (taken.ids.length === 0)
      await note(
        came,
        'ignored',
        `Events of this kind are ignored: ${[...new Set(eventKindsIn(document, json))].join(', ')}.`,
      );
    const different = taken.repeated.find(({ differs }) => differs);
    if (taken.repeated.length > 0)
      await note(
        came,
        'repeated',
        different
          ? 'Another one came before under the same id, with other values. If this was to be taken, the id is not that of the message.'
          : 'It came before.',
        taken.ids,
      );
    return answer(document, taken.ids);
  };
}

const NO_BYTES = new Uint8Array();

/** Whether the proof is made of all that is sent. */
const isOfWhole = ({ by }: Proof): boolean => by === 'signature' || by === 'standard webhooks';

/** A request whose body was read already, once more. */
const withBody = ({ url, method, headers }: Request, bytes: Uint8Array<ArrayBuffer>): Request =>
  new Request(url, { method, headers, body: bytes });

/** What an address says back to whoever asks whether it is meant; null where nobody asks. */
export function greetingOf({ live, draft }: SourceRecord, query: (name: string) => string | undefined): string | null {
  const { challenge } = (live ?? draft) as PostedDocument;
  return challenge.by === 'query' ? (query(challenge.name)?.slice(0, 500) ?? null) : null;
}

function notGenuine({ proof }: PostedDocument): Problem {
  const challenge = { bearer: 'Bearer', basic: 'Basic realm="Iwashi", charset="UTF-8"' }[proof.by as string];
  return challenge
    ? new Problem(401, 'not-genuine', NOT_GENUINE, [], { 'www-authenticate': challenge })
    : new Problem(403, 'not-genuine', NOT_GENUINE);
}

/** Of the connection, not of what is sent. */
const CONNECTION = new Set([
  'host',
  'connection',
  'content-length',
  'accept-encoding',
  'transfer-encoding',
  'content-type',
]);
const MOST_HEADERS = 40;
/** What some send to show who they are, whether it is asked for or not. */
const SECRET_HEADER = /token|secret|password|api-?key|^x-.*-key$/;

/** The headers of a request without secrets, and where it came from. */
function headersOf(c: HonoContext, { proof }: PostedDocument, address: string): Record<string, string> {
  const left = new Set([...CONNECTION, ...secretHeaders(proof)]);
  const kept = Object.entries(c.req.header()).filter(([name]) => !left.has(name) && !SECRET_HEADER.test(name));
  return {
    ...Object.fromEntries(kept.slice(0, MOST_HEADERS).map(([name, value]) => [name, value.slice(0, 500)])),
    address,
  };
}

/** What whoever sent it is told: as the document says, or which submissions it became. */
function answer({ answer: { status, body, mediaType } }: PostedDocument, ids: string[]): Response {
  const headers = { 'x-content-type-options': 'nosniff' };
  if (status === 204) return new Response(null, { status, headers });
  if (body !== '')
    return new Response(body, { status, headers: { ...headers, 'content-type': `${mediaType}; charset=utf-8` } });
  const [submission = null] = ids;
  return new Response(JSON.stringify({ accepted: true, submission, submissions: ids }), {
    status,
    headers: { ...headers, 'content-type': 'application/json' },
  });
}
