import { getConnInfo } from '@hono/node-server/conninfo';
import type { Context as HonoContext } from 'hono';
import ipaddr from 'ipaddr.js';

/**
 * The network address a request comes from. With proxies in front, the address that the outermost trusted one saw:
 * counted from the right of X-Forwarded-For, since everything further left is whatever the visitor claims.
 */
export function visitorAddress(c: HonoContext, trustedProxies: number): string {
  const direct = getConnInfo(c).remote.address ?? '';
  if (trustedProxies === 0) return direct;
  const forwarded = (c.req.header('x-forwarded-for') ?? '').split(',').map((part) => addressIn(part.trim()));
  return forwarded.at(-trustedProxies) ?? direct;
}

/** The address in an entry, which some proxies write with a port (as RFC 7239 does, 6); null where there is none. */
export function addressIn(entry: string): string | null {
  const text = /^\[(.+)\](:\d+)?$/.exec(entry)?.[1] ?? /^([\d.]+):\d+$/.exec(entry)?.[1] ?? entry;
  return ipaddr.isValid(text) ? ipaddr.process(text).toString() : null;
}

/** How many bits name who has an address, and the network that it is in: common practice of providers, no standard. */
const BITS = { ipv4: { own: 32, network: 24 }, ipv6: { own: 64, network: 48 } };

/** By what an address and its network are counted: whoever has an IPv6 address has many. */
export function namesOf(address: string): { own: string; network: string } {
  if (!ipaddr.isValid(address)) return { own: address, network: address };
  const parsed = ipaddr.process(address);
  const { own, network } = BITS[parsed.kind()];
  const bytes = parsed.toByteArray();
  const first = (bits: number) => `${bits} ${bytes.slice(0, bits / 8).join('.')}`;
  return { own: first(own), network: first(network) };
}
