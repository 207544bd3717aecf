import { createHash, createHmac } from 'node:crypto';
import type { Authentication } from '../../contract/profile/index.ts';
import type { Access } from './access.ts';
import type { Secrecy } from './http.ts';

/** A request before it says on whose behalf it comes. */
export interface Unsigned {
  method: string;
  url: URL;
  bodyText: string;
}

export interface Signed {
  url: URL;
  headers: Record<string, string>;
  secret: Secrecy;
}

/**
 * Says on whose behalf a request comes, in the way of the profile. Pure.
 * @param now milliseconds since 1970 by the service's clock, which signatures are made for
 */
export function authenticate({ profile, credentials, token }: Access, unsigned: Unsigned, now: number): Signed {
  const { authentication } = profile;
  const { key = '', user = '', password = '' } = credentials;
  const open: Secrecy = { headers: [], query: [], path: false };
  const { url } = unsigned;
  switch (authentication.kind) {
    case 'none':
      return { url, headers: {}, secret: open };
    case 'secret address':
      return { url, headers: {}, secret: { ...open, path: true } };
    case 'key in header':
      return byHeader(url, authentication.header, `${authentication.prefix ?? ''}${key}`);
    case 'key in query': {
      const withKey = new URL(url);
      withKey.searchParams.set(authentication.parameter, key);
      return { url: withKey, headers: {}, secret: { ...open, query: [authentication.parameter] } };
    }
    case 'bearer':
      return byHeader(url, 'Authorization', `Bearer ${key}`);
    case 'user and password':
      return byHeader(url, 'Authorization', `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`);
    case 'OAuth, granted by a person':
    case 'OAuth, by client':
      return byHeader(url, 'Authorization', `Bearer ${token ?? ''}`);
    case 'signature':
      return sign(authentication, credentials, unsigned, now);
    default:
      return authentication satisfies never;
  }
}

const byHeader = (url: URL, header: string, value: string): Signed => ({
  url,
  headers: { [header]: value },
  secret: { headers: [header], query: [], path: false },
});

function sign(
  how: Extract<Authentication, { kind: 'signature' }>,
  { key = '', secret = '' }: Access['credentials'],
  { method, url, bodyText }: Unsigned,
  now: number,
): Signed {
  const time = writeTime(how.time ?? 'seconds', now);
  const parts: Record<string, string> = {
    method,
    target: url.pathname + url.search,
    path: url.pathname,
    host: url.host,
    time,
    key,
    body: bodyText,
    bodyHash: createHash(how.hash).update(bodyText).digest('hex'),
  };
  const canonical = how.canonical.replace(/\{(\w+)\}/g, (slot, name: string) => parts[name] ?? slot);
  const signature = createHmac(how.hash, secret).update(canonical).digest(how.encoding);
  return {
    url,
    headers: {
      [how.keyHeader]: key,
      ...(how.timeHeader ? { [how.timeHeader]: time } : {}),
      [how.signatureHeader]: `${how.prefix ?? ''}${signature}`,
    },
    secret: { headers: [how.keyHeader, how.signatureHeader], query: [], path: false },
  };
}

function writeTime(form: 'seconds' | 'milliseconds' | 'ISO 8601', now: number): string {
  if (form === 'ISO 8601') return new Date(now).toISOString();
  return String(form === 'seconds' ? Math.floor(now / 1000) : now);
}
