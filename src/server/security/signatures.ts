import { createHmac, timingSafeEqual } from 'node:crypto';

/** How old something signed may be: older, and it may be one that somebody kept and sends again. */
export const OLDEST_SIGNED_MS = 5 * 60_000;

/** How requests are signed (HMAC, RFC 2104). */
export interface SignedAs {
  header: string;
  /** What stands before the signature in the header. */
  prefix?: string | undefined;
  /** The header that says when, in seconds since 1970; anything else where old ones are taken. */
  timeHeader?: string | undefined;
  hash: 'sha256' | 'sha512' | 'sha1';
  encoding: 'hex' | 'base64';
  /** What is signed, with {time} and {body} in it. */
  canonical: string;
}

/**
 * Whether a request comes from whoever knows the secret, and is not an old one sent again.
 * @param header gives a header by its name; '' for one that is not there
 */
export function isSigned(
  signed: SignedAs,
  {
    header,
    body,
    secret,
    now,
  }: { header: (name: string) => string; body: string | Uint8Array; secret: string; now: number },
): boolean {
  const time = signed.timeHeader ? header(signed.timeHeader) : '';
  if (signed.timeHeader && !(Math.abs(Number(time) * 1000 - now) <= OLDEST_SIGNED_MS)) return false;
  const parts: Record<string, string | Uint8Array> = { time, body };
  const expected = createHmac(signed.hash, secret);
  // The bytes as they came: what a text is in another encoding is signed as it was sent.
  for (const part of signed.canonical.split(/(\{\w+\})/))
    expected.update((/^\{\w+\}$/.test(part) ? parts[part.slice(1, -1)] : undefined) ?? part);
  // Some write the letters of hexadecimal large.
  const asWritten = (sent: string) => (signed.encoding === 'hex' ? sent.toLowerCase() : sent);
  return isSameSecret(
    asWritten(header(signed.header)),
    asWritten(`${signed.prefix ?? ''}${expected.digest(signed.encoding)}`),
  );
}

/** Whether two secrets are the same, in a time that does not tell how far they are. */
export function isSameSecret(given: string, expected: string): boolean {
  const [one, other] = [Buffer.from(given), Buffer.from(expected)];
  return one.length === other.length && timingSafeEqual(one, other);
}
