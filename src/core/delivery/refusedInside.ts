import { isObject, type Loose } from '../documents/index.ts';
import type { Cause } from './causes.ts';
import { causeOfStatus, sayingOf, textIn } from './answered.ts';

/**
 * Why a body speaks of a refusal though its status is one of success; null where nothing in it does. For services whose profile does
 * not say what success is. Only the outermost member counts: what is said of one of many is for the profile to say.
 * Sources: `error` of JSON-RPC 2.0 (5.1), `errors` of GraphQL (October 2021, 7.1.2), `status` of a problem document (RFC 9457, 3.1.2);
 * `success`, `ok` and a `status` in words are common practice with no source.
 */
export const refusalIn = (body: unknown): Cause | null =>
  isObject(body) && speaksOfRefusal(body) ? causeIn(body) : null;

const speaksOfRefusal = (body: Loose): boolean =>
  isNo(body.success) ||
  isNo(body.ok) ||
  isSomething(body.error) ||
  isSomething(body.errors) ||
  statusIn(body) !== null ||
  // A person may stand in a state of that name: only with words beside it does it speak of the request.
  (/^(error|fail(ed|ure)?)$/i.test(String(body.status)) && (isSomething(body.message) || 'data' in body));

const isNo = (value: unknown): boolean => value === false || value === 'false';

/** `errors: []`, `error: null` and `error: ""` speak of none. */
function isSomething(value: unknown): boolean {
  if (Array.isArray(value)) return value.length > 0;
  if (isObject(value)) return Object.keys(value).length > 0;
  return (
    value === true ||
    (typeof value === 'string' && value !== '' && value !== 'false') ||
    (typeof value === 'number' && value !== 0)
  );
}

/** The status that a body names (RFC 9457, 3.1.2), where it is one of an error. */
function statusIn(body: Loose): number | null {
  const [first] = [body.status, body.statusCode, body.status_code]
    .map(Number)
    .filter((status) => Number.isInteger(status) && status >= 400 && status <= 599);
  return first ?? null;
}

function causeIn(body: Loose): Cause {
  const own = isObject(body.error) ? body.error : {};
  const code = statusIn(body) ?? statusIn(own) ?? statusIn({ status: own.code ?? body.code });
  if (code !== null) return causeOfStatus(code);
  const words = [sayingOf(body), textIn(own, 'code'), textIn(body, 'code')].join(' ');
  if (/api[-_ ]?key|token|unauthori[sz]ed|unauthenticated|credential|log(ged)? ?in|password/i.test(words))
    return 'credentials refused';
  if (/not[-_ ]?found|no such|does(n['’]t| not) exist|unknown/i.test(words)) return 'place gone';
  return 'value refused';
}
