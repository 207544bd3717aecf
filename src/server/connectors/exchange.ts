import type { Dispatcher } from 'undici';
import { parseJson as parseText } from '../../core/json/index.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { FORBIDDEN_ADDRESS } from '../security/addresses.ts';

const ANSWER_LIMIT_BYTES = 2 * 1024 * 1024;
const TOO_LONG = new Error('it took too long');
const TOO_LARGE = new Error('too large');

/** One request as it goes over the wire. */
export interface WireRequest {
  method: Dispatcher.HttpMethod;
  url: URL;
  headers: Record<string, string>;
  body?: { text: string; type: string };
  /** Whether the answer is a page for people, to be read as text. */
  isPage?: boolean;
}

export interface Exchanged {
  answer: Answer;
  /** The answer's body as it came; '' where there was none, or too much of it. */
  text: string;
}

/** Names of headers in small letters (RFC 9110, 5.1): what a profile says stands instead of what is said by itself. */
const inSmall = (headers: Record<string, string>): Record<string, string> =>
  Object.fromEntries(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));

/**
 * Sends one request and reads its answer; never throws for what happens on the way. It uses undici's handler directly: a
 * stream for each answer, which is read whole at once, costs as much as the request itself.
 * @param totalMs how long it may take, from its first byte to the last of its answer
 */
export function exchange(dispatcher: Dispatcher, request: WireRequest, totalMs: number): Promise<Exchanged> {
  return new Promise((resolve) => {
    let controller: Dispatcher.DispatchController | null = null;
    let isOver = false;
    const timer = setTimeout(() => {
      isOver = true;
      if (controller) controller.abort(TOO_LONG);
      else fail(TOO_LONG);
    }, totalMs);
    const end = (exchanged: Exchanged) => {
      clearTimeout(timer);
      resolve(exchanged);
    };
    const fail = (error: unknown) => {
      const code = codeOf(error);
      end({ answer: { kind: 'unanswered', fault: faultOf(code), code }, text: '' });
    };
    const { method, url, headers, body } = request;
    let status = 0;
    let answered: Record<string, string> = {};
    const parts: Buffer[] = [];
    let size = 0;
    try {
      dispatcher.dispatch(
        {
          origin: url.origin,
          path: `${url.pathname}${url.search}`,
          method,
          headers: { accept: 'application/json', ...(body ? { 'content-type': body.type } : {}), ...inSmall(headers) },
          body: body?.text ?? null,
        },
        {
          onRequestStart(started) {
            controller = started;
            if (isOver) started.abort(TOO_LONG);
          },
          onResponseStart(_, statusCode, responseHeaders) {
            // Those of 1xx announce the answer; they are not it.
            if (statusCode < 200) return;
            status = statusCode;
            answered = flatHeaders(responseHeaders);
          },
          onResponseData(reading, part) {
            size += part.length;
            if (size > ANSWER_LIMIT_BYTES) reading.abort(TOO_LARGE);
            else parts.push(part);
          },
          onResponseEnd: () => end(answerOf(status, answered, parts, request.isPage === true)),
          onResponseError: (_, error) => fail(error),
        },
      );
    } catch (error) {
      fail(error);
    }
  });
}

const utf8 = new TextDecoder();

function answerOf(status: number, headers: Record<string, string>, parts: Buffer[], isPage: boolean): Exchanged {
  const text = utf8.decode(parts.length === 1 ? parts[0] : Buffer.concat(parts));
  const isText = isPage || /^(text\/(plain|yaml)|application\/(x-)?yaml)/.test(headers['content-type'] ?? '');
  const parsed = isText ? { ok: true as const, value: text } : parseJson(text);
  return {
    answer: {
      kind: 'answered',
      status,
      headers,
      body: parsed.ok ? parsed.value : text.slice(0, 2000),
      readable: parsed.ok || text === '',
    },
    text,
  };
}

/** What answers nest deeper than this is nothing that anybody answers who means it. */
const DEEPEST_ANSWER = 100;

export function parseJson(text: string): { ok: true; value: unknown } | { ok: false } {
  const value = parseText(text, DEEPEST_ANSWER);
  return value === undefined ? { ok: false } : { ok: true, value };
}

function flatHeaders(headers: Record<string, string | string[] | undefined>): Record<string, string> {
  const flat: Record<string, string> = {};
  for (const name in headers) {
    const value = headers[name];
    if (value !== undefined) flat[name] = String(value);
  }
  return flat;
}

/** What names a fault of a connection, such as ECONNREFUSED; '' where nothing does. */
export function codeOf(error: unknown): string {
  if (typeof error !== 'object' || error === null) return '';
  if (error === TOO_LONG) return 'UND_ERR_HEADERS_TIMEOUT';
  if (error === TOO_LARGE) return TOO_LARGE.message;
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
  if (code === TOO_LARGE.message) return 'too large';
  if (code === FORBIDDEN_ADDRESS) return 'forbidden address';
  if (UNREACHABLE.has(code)) return 'unreachable';
  if (TIMED_OUT.has(code)) return 'time-out';
  if (/CERT|SELF_SIGNED|ALTNAME|SSL|EPROTO/.test(code)) return 'certificate';
  return 'dropped';
}
