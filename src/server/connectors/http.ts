import { Agent, request, type Dispatcher } from 'undici';
import type { ExchangeView } from '../../contract/activity.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { FORBIDDEN_ADDRESS, guardedLookup, namesForbiddenAddress } from '../security/addresses.ts';

/** A request to another system. Redirects are never followed: a key must not travel to another host. */
export interface OutgoingRequest {
  method: Dispatcher.HttpMethod;
  url: string;
  headers: Record<string, string>;
  body?: unknown;
  /** Names of headers whose values are secrets. */
  secretHeaders: string[];
}

/** Sends a request; never throws for what happens on the way. */
export interface Send {
  (outgoing: OutgoingRequest): Promise<{ answer: Answer; exchange: ExchangeView }>;
  close(): Promise<void>;
}

const TOTAL_MS = 10_000;
const CONNECT_MS = 4_000;
const ANSWER_LIMIT_BYTES = 2 * 1024 * 1024;

/** @param allowPrivate whether private and loopback addresses may be called; only an installation for trying out allows it */
export function createSend(allowPrivate: boolean, now: () => number): Send {
  const agent = new Agent({
    connect: { timeout: CONNECT_MS, ...(allowPrivate ? {} : { lookup: guardedLookup }) },
    headersTimeout: TOTAL_MS,
    bodyTimeout: TOTAL_MS,
    connections: 32,
  });
  const send = async (outgoing: OutgoingRequest) => {
    const started = now();
    const answer =
      !allowPrivate && namesForbiddenAddress(new URL(outgoing.url))
        ? ({ kind: 'unanswered', fault: 'forbidden address', code: FORBIDDEN_ADDRESS } as const)
        : await exchange(agent, outgoing);
    return { answer, exchange: describe(outgoing, answer, started, now() - started) };
  };
  return Object.assign(send, { close: () => agent.close() });
}

async function exchange(dispatcher: Dispatcher, { method, url, headers, body }: OutgoingRequest): Promise<Answer> {
  try {
    const response = await request(url, {
      dispatcher,
      method,
      headers: {
        accept: 'application/json',
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(TOTAL_MS),
    });
    const text = await readLimited(response.body);
    if (text === null) return { kind: 'unanswered', fault: 'too large', code: 'too large' };
    const parsed = parseJson(text);
    return {
      kind: 'answered',
      status: response.statusCode,
      headers: flatHeaders(response.headers),
      body: parsed.ok ? parsed.value : text.slice(0, 2000),
      readable: parsed.ok || text === '',
    };
  } catch (error) {
    const code = codeOf(error);
    return { kind: 'unanswered', fault: faultOf(code), code };
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

const flatHeaders = (headers: Record<string, string | string[] | undefined>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(headers).flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]])),
  );

function codeOf(error: unknown): string {
  if (typeof error !== 'object' || error === null) return '';
  if ('name' in error && error.name === 'TimeoutError') return 'UND_ERR_HEADERS_TIMEOUT';
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
  { method, url, headers, body, secretHeaders }: OutgoingRequest,
  answer: Answer,
  at: number,
  milliseconds: number,
): ExchangeView {
  const secret = new Set(secretHeaders.map((name) => name.toLowerCase()));
  const shown = Object.entries(headers).map(([name, value]) => [
    name,
    secret.has(name.toLowerCase()) ? mask(value) : value,
  ]);
  return {
    at: new Date(at).toISOString(),
    method,
    url,
    requestHeaders: Object.fromEntries(shown) as Record<string, string>,
    requestBody: body ?? null,
    status: answer.kind === 'answered' ? answer.status : null,
    responseHeaders: answer.kind === 'answered' ? keptHeaders(answer.headers) : {},
    responseBody:
      answer.kind === 'answered' ? answer.body : `no answer: ${answer.fault}${answer.code ? ` (${answer.code})` : ''}`,
    milliseconds,
  };
}

/** The end of a secret, enough to tell two keys apart. */
export const mask = (secret: string): string => (secret.length < 12 ? '••••••' : `••••••${secret.slice(-4)}`);

const KEPT = ['content-type', 'retry-after', 'location', 'ratelimit', 'ratelimit-policy', 'idempotent-replayed'];
const keptHeaders = (headers: Record<string, string>) =>
  Object.fromEntries(KEPT.flatMap((name) => (headers[name] ? [[name, headers[name]]] : [])));
