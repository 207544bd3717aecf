import { Agent, type Dispatcher } from 'undici';
import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { FORBIDDEN_ADDRESS, guardedLookup, namesForbiddenAddress } from '../security/addresses.ts';
import { exchange, parseJson } from './exchange.ts';

/** A request to another system. Redirects are never followed: a key must not travel to another host. */
export interface OutgoingRequest {
  method: Dispatcher.HttpMethod;
  url: string;
  headers: Record<string, string>;
  /** The body as it goes over the wire. */
  body?: { text: string; type: string };
  /** Whether the answer is a page for people, to be read as text. */
  isPage?: boolean;
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
const CONNECT_MS = 4_000;
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
    const url = new URL(outgoing.url);
    const { answer, text } =
      !allowPrivate && namesForbiddenAddress(url)
        ? {
            answer: { kind: 'unanswered' as const, fault: 'forbidden address' as const, code: FORBIDDEN_ADDRESS },
            text: '',
          }
        : await exchange(poolFor(outgoing), { ...outgoing, url }, totalMs);
    return { answer, exchange: describe(outgoing, answer, text, { at: started, milliseconds: now() - started }) };
  };
  const close = async () => {
    await Promise.all([...pools.values()].map((agent) => agent.close()));
  };
  return Object.assign(send, { close });
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
  const known = secretsIn({ url, headers, secret });
  const bodies = secret.bodies ? 'not kept: it holds secrets' : null;
  return {
    at: new Date(at).toISOString(),
    method,
    url: redactUrl(url, secret),
    requestHeaders: Object.fromEntries(shown) as Record<string, string>,
    requestBody: body ? (bodies ?? shownBody(body)) : null,
    status: answer.kind === 'answered' ? answer.status : null,
    responseHeaders:
      answer.kind === 'answered' ? (withoutSecrets(keptHeaders(answer.headers), known) as Record<string, string>) : {},
    responseBody:
      answer.kind === 'answered'
        ? (bodies ?? withoutSecrets(cut(text) ?? answer.body, known))
        : `no answer: ${answer.fault}${answer.code ? ` (${answer.code})` : ''}`,
    milliseconds,
  };
}

/** What is shorter is no secret by itself, or would be found in anything. */
const LEAST_SECRET = 6;

/** What a request holds that must never be shown, also where a service says it back. */
function secretsIn({ url, headers, secret }: Pick<OutgoingRequest, 'url' | 'headers' | 'secret'>): string[] {
  const hidden = new Set(secret.headers.map((name) => name.toLowerCase()));
  const said = Object.entries(headers).flatMap(([name, value]) =>
    hidden.has(name.toLowerCase()) ? [value, ...value.split(/\s+/), ...basicParts(value)] : [],
  );
  const { pathname, searchParams } = new URL(url);
  const asked = secret.query.flatMap((name) => searchParams.getAll(name));
  const path = secret.path ? [pathname.slice(1), ...pathname.split('/')] : [];
  return [...new Set([...said, ...asked, ...path])]
    .filter((text) => text.length >= LEAST_SECRET && !/^(basic|bearer|token)$/i.test(text))
    .sort((a, b) => b.length - a.length);
}

/** The password in a Basic credential (RFC 7617, 2). */
function basicParts(value: string): string[] {
  const encoded = /^basic\s+(\S+)$/i.exec(value)?.[1];
  if (encoded === undefined) return [];
  const text = Buffer.from(encoded, 'base64').toString('utf8');
  return [text, text.slice(text.indexOf(':') + 1)];
}

/** The same without secrets, in whatever text or part they stand. */
function withoutSecrets(value: unknown, known: string[]): unknown {
  if (known.length === 0) return value;
  if (typeof value === 'string') return known.reduce((text, one) => text.replaceAll(one, mask(one)), value);
  if (Array.isArray(value)) return value.map((one) => withoutSecrets(one, known));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, part]) => [withoutSecrets(name, known), withoutSecrets(part, known)]),
  );
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
  if (!path && query.length === 0) return text;
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
