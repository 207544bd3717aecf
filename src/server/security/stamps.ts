import { createHmac, timingSafeEqual } from 'node:crypto';

/** HMAC-SHA-256 (RFC 2104, FIPS 180-4) in hexadecimal. */
export const hmacSha256 = (key: string | Buffer, text: string | Buffer): string =>
  createHmac('sha256', key).update(text).digest('hex');

/** A time that the visitor carries and cannot change. */
export const signTime = (key: string, at: number): string => `${at}.${hmacSha256(key, `shown ${at}`)}`;

/** Reads a signed time; null when it is none of ours. */
export function readSignedTime(key: string, stamp: string): number | null {
  const [digits = '', signature = ''] = stamp.split('.');
  if (!/^\d{1,15}$/.test(digits)) return null;
  const expected = Buffer.from(hmacSha256(key, `shown ${digits}`));
  const given = Buffer.from(signature);
  return given.length === expected.length && timingSafeEqual(given, expected) ? Number(digits) : null;
}
