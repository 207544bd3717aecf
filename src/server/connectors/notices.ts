import { createHmac, timingSafeEqual } from 'node:crypto';
import type { EventMeaning, Webhooks } from '../../contract/profile/index.ts';
import { all, textAt } from '../../core/json/index.ts';

/** How old a signed notice may be: longer, and it may be one that somebody kept and sends again. */
const OLDEST_MS = 5 * 60_000;

/** What another system says has happened there. */
export interface Notice {
  remoteId: string;
  kind: string;
  /** null when it means nothing here. */
  meaning: EventMeaning | null;
  /** Whom it is about, in lower case; '' when it does not say. */
  email: string;
  /** When it happened, in milliseconds since 1970. */
  at: number;
}

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

/** The notices in the body of a request; one without an id cannot be told from its repetition, and is left out. */
export function readNotices(webhooks: Webhooks, body: unknown, now: number): Notice[] {
  const events = webhooks.events === undefined ? [body] : all(body, webhooks.events);
  return events.flatMap((event): Notice[] => {
    const remoteId = textAt(event, webhooks.id);
    const kind = textAt(event, webhooks.kind);
    if (remoteId === '' || kind === '') return [];
    const at = Date.parse(textAt(event, webhooks.at));
    return [
      {
        remoteId,
        kind: kind.slice(0, 60),
        meaning: webhooks.means[kind] ?? null,
        email: textAt(event, webhooks.email).trim().toLowerCase(),
        // Nothing has happened that is still to come.
        at: Number.isNaN(at) ? now : Math.min(at, now),
      },
    ];
  });
}
