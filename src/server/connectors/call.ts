import { parseTemplate } from 'url-template';
import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Profile, RequestTemplate } from '../../contract/profile/index.ts';
import { classifyAnswer, type Answer, type Cause, type ErrorReading } from '../../core/delivery/index.ts';
import { atOnce, type Access } from './access.ts';
import { authenticate } from './authenticate.ts';
import type { Reply } from './connector.ts';
import type { Send } from './http.ts';
import { memoize, one, textAt } from '../../core/json/index.ts';
import { encodeBody, fillBody, gapsIn, leadsUp } from './template.ts';

/** From this difference on, a refused signature is taken for a clock that is wrong. */
const SKEW_MS = 30_000;

/** The means by which requests of one access are sent, and where what was said is kept. */
export interface Line {
  send: Send;
  access: Access;
  now: () => number;
  record: ExchangeView[];
}

/** Sends one request of a profile. A signature that the service refuses for its clock is made once more, for its time. */
export async function sendTemplate(
  line: Line,
  template: RequestTemplate,
  values: Record<string, unknown>,
  idempotencyKey?: string,
): Promise<Answer> {
  const first = await sendOnce(line, template, values, idempotencyKey, line.now());
  if (line.access.profile.authentication.kind !== 'signature') return first;
  const theirs = clockOf(first);
  if (first.kind !== 'answered' || first.status !== 401 || theirs === null) return first;
  return Math.abs(theirs - line.now()) < SKEW_MS ? first : sendOnce(line, template, values, idempotencyKey, theirs);
}

/** The service's clock by its Date header (RFC 9110, 6.6.1), in milliseconds since 1970; null when it does not say. */
export function clockOf(answer: Answer): number | null {
  const at = answer.kind === 'answered' ? Date.parse(answer.headers.date ?? '') : Number.NaN;
  return Number.isNaN(at) ? null : at;
}

const pathTemplates = memoize(parseTemplate);

async function sendOnce(
  { send, access, record }: Line,
  template: RequestTemplate,
  values: Record<string, unknown>,
  idempotencyKey: string | undefined,
  signedAt: number,
): Promise<Answer> {
  const { profile, baseUrl, pool } = access;
  const gaps = gapsIn(template.path, values);
  if (gaps.length > 0) return incomplete(gaps.join(', '));
  const path = pathTemplates(template.path).expand(values as Record<string, string>);
  if (leadsUp(path)) return incomplete('a name that is only dots');
  const body = template.body === undefined ? undefined : encodeBody(template.encoding, fillBody(template.body, values));
  const { url, headers, secret } = authenticate(
    access,
    { method: template.method, url: addressOf(baseUrl, path), bodyText: body?.text ?? '' },
    signedAt,
  );
  const { answer, exchange } = await send({
    method: template.method,
    url: url.href,
    headers: {
      ...template.headers,
      ...(template.idempotencyHeader && idempotencyKey ? { [template.idempotencyHeader]: idempotencyKey } : {}),
      ...headers,
    },
    // What stands behind an address that somebody typed is often what lets us in.
    secret: { ...secret, query: [...secret.query, ...new URL(baseUrl).searchParams.keys()] },
    pool,
    atOnce: atOnce(profile),
    ...(body ? { body } : {}),
  });
  record.push(exchange);
  return answer;
}

/** A request that is not sent. @param code what it lacks */
const incomplete = (code: string): Answer => ({ kind: 'unanswered', fault: 'incomplete request', code });

/** Where a request goes. An address that is the secret as a whole may have a query of its own, which stays. */
function addressOf(baseUrl: string, path: string): URL {
  if (path === '') return new URL(baseUrl);
  const url = new URL(baseUrl.replace(/\/*(\?.*)?$/, '') + path);
  if (baseUrl.includes('?'))
    for (const [name, value] of new URL(baseUrl).searchParams) url.searchParams.append(name, value);
  return url;
}

/** Sends one request of a profile and reads what came of it. */
export async function call(
  line: Line,
  template: RequestTemplate,
  values: Record<string, unknown>,
  idempotencyKey?: string,
): Promise<Reply<unknown> & { answer: Answer }> {
  const answer = await sendTemplate(line, template, values, idempotencyKey);
  const fault = classifyAnswer(answer, errorReading(line.access.profile), line.now());
  return fault
    ? { ok: false, fault, answer }
    : { ok: true, value: answer.kind === 'answered' ? answer.body : null, answer };
}

/** How errors of a service read, as its profile says. */
export function errorReading({ errors, said, success }: Profile): ErrorReading {
  const byCode = errors.filter((rule) => rule.code !== undefined);
  return {
    rules: errors.filter((rule) => rule.code === undefined),
    causeByCode: (status, body): Cause | null =>
      byCode.find((rule) => rule.status === status && rule.code && textAt(body, rule.code.path) === rule.code.is)
        ?.cause ?? null,
    accepts: (body) => (success === undefined ? null : success.is.includes(textAt(body, success.path))),
    wordsIn: (body) =>
      (said ?? [])
        .map((path) => one(body, path))
        .filter((words): words is string => typeof words === 'string' && words !== '')
        .join(' · ')
        .slice(0, 500),
  };
}
