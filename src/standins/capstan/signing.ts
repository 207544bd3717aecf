import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import type { CapstanState } from './state.ts';

/** A signature older or newer than this is not taken. */
const MOST_SKEW_S = 300;

export interface SignedRequest {
  method: string;
  /** Path and query, as sent. */
  target: string;
  body: string;
  key: string;
  time: string;
  sign: string;
}

/** How every request is to be signed: HMAC-SHA-256 in base64 over method, target, time and the body's SHA-256, a line each. */
export const signatureOf = ({ method, target, time, body }: Omit<SignedRequest, 'sign' | 'key'>, secret: string) =>
  createHmac('sha256', secret)
    .update([method, target, time, createHash('sha256').update(body).digest('hex')].join('\n'))
    .digest('base64');

export type Refusal = { status: 401 | 404; code: string; text: string };

/** Finds out who signed a request, or why it is not taken. A key of nobody's is answered as if there were no such office. */
export function whoSigned(
  state: CapstanState,
  request: SignedRequest,
  nowS: number,
): { pair: CapstanState['pairs'][number] } | { refusal: Refusal } {
  const pair = state.pairs.find(({ key }) => key === request.key);
  if (!pair) return { refusal: { status: 404, code: 'NO_OFFICE', text: 'No office answers to this key.' } };
  if (pair.revoked) return { refusal: { status: 401, code: 'KEY_OFF', text: 'This key was switched off.' } };
  const time = Number(request.time);
  if (!Number.isFinite(time) || Math.abs(nowS - time) > MOST_SKEW_S)
    return { refusal: { status: 401, code: 'STALE', text: 'The signature is too old or too new.' } };
  const expected = Buffer.from(signatureOf(request, pair.secret));
  const given = Buffer.from(request.sign);
  const isRight = expected.length === given.length && timingSafeEqual(expected, given);
  return isRight ? { pair } : { refusal: { status: 401, code: 'BAD_SIGN', text: 'The signature does not fit.' } };
}
