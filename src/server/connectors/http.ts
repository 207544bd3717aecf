import { Agent, request, type Dispatcher } from 'undici';
import type { ExchangeView } from '../../contract/activity.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { FORBIDDEN_ADDRESS, guardedLookup, namesForbiddenAddress } from '../security/addresses.ts';

/** A request to another system. Redirects are never followed: a key must not travel to another host. */
export interface OutgoingRequest {
  method: Dispatcher.HttpMethod;
  url: string;
  headers: Record<string, string>;
  /** The body as it goes over the wire. */
  body?: { text: string; type: string };
  /** What must never be shown: names of headers and query parameters, and whether the path itself is a secret. */
  secret: Secrecy;
  /** Whose connections are used: each connection has a pool of its own, so that a slow service holds up only its own. */
  pool: string;
  /** How many requests may be under way in that pool. */
  atOnce: number;
}

export interface Secrecy {
  headers: string[];
  query: string[];
  path: boolean;
  /** Whether bodies hold secrets, as those of token requests do. */
  bodies?: boolean;
}

/** Sends a request; never throws for what happens on the way. */
export interface Send {
  (outgoing: OutgoingRequest): Promise<{ answer: Answer; exchange: ExchangeView }>;
  close(): Promise<void>;
}

const TOTAL_MS = 10_000;
const TOO_LONG = new Error('it took too long');
const CONNECT_MS = 4_000;
const ANSWER_LIMIT_BYTES = 2 * 1024 * 1024;
/** A connection that nothing used for this long is closed. */
const IDLE_MS = 15_000;

/**
 * @param allowPrivate whether private and loopback addresses may be called; only an installation for trying out allows it
 * @param totalMs how long a request may take, from its first byte to the last of its answer
 */
export function createSend(allowPrivate: boolean, now: () => number, totalMs = TOTAL_MS): Send {
  const pools = new Map<string, Agent>();
  const poolFor = ({ pool, atOnce }: OutgoingRequest): Agent => {
    const known = pools.get(pool);
    if (known) return known;
    const agent = new Agent({
      connect: { timeout: CONNECT_MS, ...(allowPrivate ? {} : { lookup: guardedLookup }) },
      headersTimeout: totalMs,
      bodyTimeout: totalMs,
      keepAliveTimeout: IDLE_MS,
      connections: atOnce,
    });
    pools.set(pool, agent);
    return agent;
  };
  const send = async (outgoing: OutgoingRequest) => {
    const started = now();
    const { answer, text } =
      !allowPrivate && namesForbiddenAddress(new URL(outgoing.url))
        ? {
            answer: { kind: 'unanswered' as const, fault: 'forbidden address' as const, code: FORBIDDEN_ADDRESS },
            text: '',
          }
        : await exchange(poolFor(outgoing), outgoing, totalMs);
    return { answer, exchange: describe(outgoing, answer, text, { at: started, milliseconds: now() - started }) };
  };
  const close = async () => {
    await Promise.all([...pools.values()].map((agent) => agent.close()));
  };
  return Object.assign(send, { close });
}

async function exchange(
  dispatcher: Dispatcher,
  { method, url, headers, body }: OutgoingRequest,
  totalMs: number,
): Promise<{ answer: Answer; text: string }> {
  // A timer of our own is taken back when it is over; a signal that ends by itself would go off later all the same.
  const tooLong = new AbortController();
  const timer = setTimeout(() => tooLong.abort(TOO_LONG), totalMs);
  try {
    const response = await request(url, {
      dispatcher,
      method,
      headers: { accept: 'application/json', ...(body ? { 'content-type': body.type } : {}), ...headers },
      ...(body ? { body: body.text } : {}),
      signal: tooLong.signal,
    });
    const answered = flatHeaders(response.headers);
    // An answer that says how long it is ends there: it need not be counted.
    const isShort = Number(answered['content-length']) <= ANSWER_LIMIT_BYTES;
    const text = isShort ? await response.body.text() : await readLimited(response.body);
    if (text === null) return { answer: { kind: 'unanswered', fault: 'too large', code: 'too large' }, text: '' };
    const isText = /^(text\/(plain|yaml)|application\/(x-)?yaml)/.test(answered['content-type'] ?? '');
    const parsed = isText ? { ok: true as const, value: text } : parseJson(text);
    return {
      answer: {
        kind: 'answered',
        status: response.statusCode,
        headers: answered,
        body: parsed.ok ? parsed.value : text.slice(0, 2000),
        readable: parsed.ok || text === '',
      },
      text,
    };
  } catch (error) {
    const code = codeOf(error);
    return { answer: { kind: 'unanswered', fault: faultOf(code), code }, text: '' };
  } finally {
    clearTimeout(timer);
  }
}

async function readLimited(body: AsyncIterable<Buffer>): Promise<string | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of body) {
    size += part.length;
    if (size > ANSWER_LIMIT_BYTES) return null;
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

function parseJson(text: string): { ok: true; value: unknown } | { ok: false } {
  try {
    return { ok: true, value: JSON.parse(text) };
  } catch {
    return { ok: false };
  }
}

function flatHeaders(headers: Record<string, string | string[] | undefined>): Record<string, string> {
  const flat: Record<string, string> = {};
  for (const name in headers) {
    const value = headers[name];
    if (value !== undefined) flat[name] = String(value);
  }
  return flat;
}

function codeOf(error: unknown): string {
  if (typeof error !== 'object' || error === null) return '';
  if (error === TOO_LONG) return 'UND_ERR_HEADERS_TIMEOUT';
  if ('code' in error && typeof error.code === 'string') return error.code;
  return 'cause' in error ? codeOf(error.cause) : '';
}

const UNREACHABLE = new Set([
  'ECONNREFUSED',
  'ENOTFOUND',
  'EAI_AGAIN',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'UND_ERR_CONNECT_TIMEOUT',
]);
const TIMED_OUT = new Set(['UND_ERR_HEADERS_TIMEOUT', 'UND_ERR_BODY_TIMEOUT', 'ETIMEDOUT']);

function faultOf(code: string): (Answer & { kind: 'unanswered' })['fault'] {
  if (code === FORBIDDEN_ADDRESS) return 'forbidden address';
  if (UNREACHABLE.has(code)) return 'unreachable';
  if (TIMED_OUT.has(code)) return 'time-out';
  if (/CERT|SELF_SIGNED|ALTNAME|SSL|EPROTO/.test(code)) return 'certificate';
  return 'dropped';
}

function describe(
  { method, url, headers, body, secret }: OutgoingRequest,
  answer: Answer,
  text: string,
  { at, milliseconds }: { at: number; milliseconds: number },
): ExchangeView {
  const hidden = new Set(secret.headers.map((name) => name.toLowerCase()));
  const shown = Object.entries(headers).map(([name, value]) => [
    name,
    hidden.has(name.toLowerCase()) ? mask(value) : value,
  ]);
  const bodies = secret.bodies ? 'not kept: it holds secrets' : null;
  return {
    at: new Date(at).toISOString(),
    method,
    url: redactUrl(url, secret),
    requestHeaders: Object.fromEntries(shown) as Record<string, string>,
    requestBody: body ? (bodies ?? shownBody(body)) : null,
    status: answer.kind === 'answered' ? answer.status : null,
    responseHeaders: answer.kind === 'answered' ? keptHeaders(answer.headers) : {},
    responseBody:
      answer.kind === 'answered'
        ? (bodies ?? cut(text) ?? answer.body)
        : `no answer: ${answer.fault}${answer.code ? ` (${answer.code})` : ''}`,
    milliseconds,
  };
}

/** Of a body that is longer, only so much is kept. */
const KEPT_CHARACTERS = 64 * 1024;

/** The beginning of a long body, with a word that it goes on; null when it is not long. */
const cut = (text: string): string | null =>
  text.length > KEPT_CHARACTERS
    ? `${text.slice(0, KEPT_CHARACTERS)} … and ${text.length - KEPT_CHARACTERS} more`
    : null;

const shownBody = ({ text, type }: { text: string; type: string }): unknown => {
  const beginning = cut(text);
  if (beginning !== null) return beginning;
  const parsed = type.includes('json') ? parseJson(text) : { ok: false as const };
  return parsed.ok ? parsed.value : text;
};

/** An address as it may be shown: without what is secret in it. */
export function redactUrl(text: string, { query, path }: Pick<Secrecy, 'query' | 'path'>): string {
  if (!URL.canParse(text)) return '••••••';
  const url = new URL(text);
  if (path) return `${url.origin}/${mask(url.pathname.slice(1))}`;
  for (const name of query) if (url.searchParams.has(name)) url.searchParams.set(name, 'hidden');
  return url.href;
}

/** The end of a secret, enough to tell two keys apart. */
export const mask = (secret: string): string => (secret.length < 12 ? '••••••' : `••••••${secret.slice(-4)}`);

const KEPT = /^(content-type|retry-after|location|www-authenticate|idempotent-replayed|(x-)?rate-?limit.*)$/;
const keptHeaders = (headers: Record<string, string>) =>
  Object.fromEntries(Object.entries(headers).filter(([name]) => KEPT.test(name)));
