import { lookup, type LookupAddress } from 'node:dns';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';

export const FORBIDDEN_ADDRESS = 'IWASHI_FORBIDDEN_ADDRESS';

/** Whether an IP address is one of the public internet: not private, loopback, link-local, reserved, or mapped to such. */
export function isPublicAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  // ::/96, whose last part some systems take for an IPv4 address (RFC 4291, 2.5.5.1: deprecated).
  if (parsed instanceof ipaddr.IPv6 && parsed.parts.slice(0, 6).every((part) => part === 0)) return false;
  return parsed.range() === 'unicast';
}

/** Whether a URL names a forbidden address outright. Names are checked when they are resolved, by `guardedLookup`. */
export function namesForbiddenAddress(url: URL): boolean {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  return isIP(host) !== 0 && !isPublicAddress(host);
}

/** Resolves a name at connect time, and refuses it when any of its addresses is not public (a name may change between check and use). */
export const guardedLookup: LookupFunction = (hostname, options, callback) => {
  lookup(hostname, { ...options, all: true }, (error, addresses: LookupAddress[]) => {
    if (error) return callback(error, '', 0);
    if (addresses.some(({ address }) => !isPublicAddress(address))) {
      return callback(Object.assign(new Error('not a public address'), { code: FORBIDDEN_ADDRESS }), '', 0);
    }
    if (options.all) return callback(null, addresses);
    const [first] = addresses;
    return first ? callback(null, first.address, first.family) : callback(new Error('no address'), '', 0);
  });
};

/** The address of a host, for protocols that do not take a lookup of ours. @throws when it is not a public one */
export function resolveGuarded(hostname: string): Promise<string> {
  const host = hostname.replace(/^\[|\]$/g, '');
  return new Promise((resolve, reject) => {
    if (isIP(host) !== 0) {
      if (isPublicAddress(host)) resolve(host);
      else reject(Object.assign(new Error('not a public address'), { code: FORBIDDEN_ADDRESS }));
      return;
    }
    guardedLookup(host, { all: false }, (error, address) => {
      if (error) reject(error);
      else resolve(typeof address === 'string' ? address : (address[0]?.address ?? ''));
    });
  });
}
