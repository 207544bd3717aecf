import { isObject, type Loose } from '../documents/index.ts';
import type { Cause } from './causes.ts';

/**
 * Statuses that speak of how a request is made, whoever it is about: method, kinds of answer and of body, address, precondition,
 * protocol, header fields (RFC 9110, 15.5.6, 15.5.7, 15.5.12, 15.5.15, 15.5.16, 15.5.22; RFC 6585, 3 and 5).
 */
const OF_THE_REQUEST = new Set([405, 406, 411, 414, 415, 426, 428, 431]);

/** What a status stands for (RFC 9110, section 15), read for deliveries. */
export function causeOfStatus(status: number): Cause {
  if (status === 401) return 'credentials refused';
  if (status === 403) return 'not permitted';
  if (status === 404 || status === 410) return 'place gone';
  if (status === 409) return 'conflict';
  if (status === 408 || status === 425) return 'time-out';
  if (status === 413) return 'too large';
  if (status === 429) return 'rate limited';
  if (OF_THE_REQUEST.has(status)) return 'request not taken';
  if (status >= 400 && status < 500) return 'value refused';
  return status >= 500 ? 'unavailable' : 'answer unreadable';
}

/** So much of a service's own words is kept. */
const MOST_SAID = 500;

/**
 * The service's own sentences: those of a problem document (RFC 9457: detail, or title, with what its errors name), else what stands
 * where such words usually are. A short plain text is taken as it is.
 */
export function sayingOf(body: unknown): string {
  if (typeof body === 'string') return /[<>]/.test(body) ? '' : body.trim().slice(0, 300);
  if (!isObject(body)) return '';
  const own = isObject(body.error) ? body.error : {};
  const main =
    textIn(body, 'detail') ||
    textIn(body, 'title') ||
    textIn(body, 'message') ||
    textIn(own, 'message') ||
    textIn(body, 'error') ||
    textIn(body, 'reason');
  const errors: unknown[] = Array.isArray(body.errors) ? body.errors : [];
  return [main, ...errors.map(errorIn)].filter(Boolean).join(' ').slice(0, MOST_SAID);
}

function errorIn(entry: unknown): string {
  if (typeof entry === 'string') return entry;
  if (!isObject(entry)) return '';
  const words = textIn(entry, 'detail') || textIn(entry, 'message');
  return [textIn(entry, 'pointer').split('/').at(-1) ?? '', words].filter(Boolean).join(': ');
}

export function textIn(body: Loose, name: string): string {
  const value = body[name];
  return typeof value === 'string' ? value : '';
}
