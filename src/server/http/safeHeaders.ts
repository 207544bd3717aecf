import { secureHeaders } from 'hono/secure-headers';
import type { Context as HonoContext, MiddlewareHandler } from 'hono';
import { memoize } from '../../core/json/index.ts';

const HTTPS_ONLY = 'max-age=15552000';

/** The same for answers that have headers of their own. */
export function keepToHttps(c: HonoContext, publicUrl: string): void {
  if (publicUrl.startsWith('https:')) c.header('strict-transport-security', HTTPS_ONLY);
}

/**
 * Dresses every page against framing, sniffing and leaking addresses.
 * @param publicUrl where the application is reached: only by https do browsers have to keep to it (RFC 6797, 7.2), and for this host
 *   alone, since we do not know what else is below it
 */
export const dressing = memoize((publicUrl: string): MiddlewareHandler =>
  secureHeaders({
    xFrameOptions: 'SAMEORIGIN',
    // With no-referrer, browsers would send "Origin: null" from our own form pages.
    referrerPolicy: 'same-origin',
    crossOriginResourcePolicy: false,
    strictTransportSecurity: publicUrl.startsWith('https:') ? HTTPS_ONLY : false,
  }),
);

/** How somebody shows who they are whom a 401 sends away (RFC 9110, 15.5.2; RFC 6750, 3). */
export const CHALLENGE = { 'www-authenticate': 'Bearer realm="Iwashi"' } as const;
