import { getConnInfo } from '@hono/node-server/conninfo';
import type { Context as HonoContext } from 'hono';

/**
 * The network address a request comes from. With proxies in front, the address that the outermost trusted one saw:
 * counted from the right of X-Forwarded-For, since everything further left is whatever the visitor claims.
 */
export function visitorAddress(c: HonoContext, trustedProxies: number): string {
  const direct = getConnInfo(c).remote.address ?? '';
  if (trustedProxies === 0) return direct;
  const forwarded = (c.req.header('x-forwarded-for') ?? '').split(',').map((part) => part.trim());
  return forwarded.at(-trustedProxies) || direct;
}
