import type { Context as HonoContext } from 'hono';
import type { MadeDocument } from '../../../core/intake/index.ts';

/** With no origins named, any site may send. Our own page always may. */
export function isAllowedOrigin(live: MadeDocument, origin: string, ownUrl: string): boolean {
  const origins = live.kind === 'form' || live.kind === 'chat' ? live.origins : [];
  return origins.length === 0 || origins.some((one) => serialised(one) === origin) || origin === new URL(ownUrl).origin;
}

const known = new Map<string, string>();
const MOST_KNOWN = 5_000;

/** A site as browsers name it, however it was typed: small letters, ASCII, no usual port (WHATWG HTML, 7.1.1; URL, 4.6). */
export function serialised(site: string): string {
  const before = known.get(site);
  if (before !== undefined) return before;
  const origin = URL.parse(site)?.origin ?? site;
  if (known.size > MOST_KNOWN) known.clear();
  known.set(site, origin);
  return origin;
}

/** The site that a visitor comes from: browsers say so in Origin, old ones only in Referer. */
export function originOf(c: HonoContext): string {
  const origin = c.req.header('origin');
  if (origin !== undefined) return origin;
  const referer = c.req.header('referer');
  return referer && URL.canParse(referer) ? new URL(referer).origin : '';
}

export const corsHeaders = (origin: string): Record<string, string> =>
  origin === '' || origin === 'null' ? {} : { 'access-control-allow-origin': origin, vary: 'origin' };

/** Lets the page that asks read the answer. */
export function allowOrigin(c: HonoContext): void {
  for (const [name, value] of Object.entries(corsHeaders(originOf(c)))) c.header(name, value);
}
