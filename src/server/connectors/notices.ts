import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Webhooks } from '../../contract/profile/index.ts';

/** How old a signed notice may be: longer, and it may be one that somebody kept and sends again. */
const OLDEST_MS = 5 * 60_000;

/**
 * Whether a request comes from the system that knows the secret (HMAC, RFC 2104), and is not an old one sent again.
 * @param header gives a header by its name
 */
export function isGenuine(
  { signature }: Webhooks,
  { header, body, secret, now }: { header: (name: string) => string; body: string; secret: string; now: number },
): boolean {
  const time = signature.timeHeader === undefined ? '' : header(signature.timeHeader);
  if (signature.timeHeader !== undefined && !(Math.abs(Number(time) * 1000 - now) <= OLDEST_MS)) return false;
  const parts: Record<string, string> = { time, body };
  const signed = signature.canonical.replace(/\{(\w+)\}/g, (slot, name: string) => parts[name] ?? slot);
  const expected = `${signature.prefix ?? ''}${createHmac(signature.hash, secret).update(signed).digest(signature.encoding)}`;
  const given = Buffer.from(header(signature.header));
  return given.length === expected.length && timingSafeEqual(given, Buffer.from(expected));
}
