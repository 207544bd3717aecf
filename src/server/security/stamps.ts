import { createHmac, timingSafeEqual } from 'node:crypto';

/** HMAC-SHA-256 (RFC 2104, FIPS 180-4) in hexadecimal. */
export const hmacSha256 = (key: string | Buffer, text: string | Buffer): string =>
  createHmac('sha256', key).update(text).digest('hex');

/** A time that the visitor carries and cannot change. */
export const signTime = (key: string, at: number): string => `${at}.${hmacSha256(key, `shown ${at}`)}`;

/** A text that the visitor carries and cannot change. @param what it stands for, so that it stands for nothing else */
export const signText = (key: string, what: string, text: string): string =>
  `${text}.${hmacSha256(key, `${what} ${text}`)}`;

/** Reads a signed text; null when it is none of ours. */
export function readSignedText(key: string, what: string, signed: string): string | null {
  const [text = '', signature = ''] = signed.split('.');
  return isSame(hmacSha256(key, `${what} ${text}`), signature) ? text : null;
}

/** Reads a signed time; null when it is none of ours. */
export function readSignedTime(key: string, stamp: string): number | null {
  const [digits = '', signature = ''] = stamp.split('.');
  if (!/^\d{1,15}$/.test(digits)) return null;
  return isSame(hmacSha256(key, `shown ${digits}`), signature) ? Number(digits) : null;
}

function isSame(expected: string, given: string): boolean {
  const [one, other] = [Buffer.from(expected), Buffer.from(given)];
  return one.length === other.length && timingSafeEqual(one, other);
}
