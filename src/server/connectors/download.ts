import type { Readable } from 'node:stream';
import { Agent, request } from 'undici';
import { FORBIDDEN_ADDRESS, guardedLookup, namesForbiddenAddress } from '../security/addresses.ts';
import { codeOf } from './exchange.ts';

const CONNECT_MS = 4_000;
/** A file that is made when it is asked for may take so long to begin, and so long between two parts of it. */
const WAIT_MS = 60_000;
const WHOLE_MS = 15 * 60_000;

/** What is found at an address, as it comes; or why there is nothing, as people read it. */
export type Download = { ok: true; content: Readable; close: () => Promise<void> } | { ok: false; said: string };

/**
 * Asks for a file of any size. Redirects are not followed: whoever was trusted with an address did not name another one.
 * @param url with a user and password before its host (RFC 3986, 3.2.1) where it is asked for with them (RFC 7617)
 * @param allowPrivate whether private and loopback addresses may be called
 * @param ended breaks it off
 */
export async function download(url: URL, allowPrivate: boolean, ended: AbortSignal): Promise<Download> {
  if (!allowPrivate && namesForbiddenAddress(url)) return { ok: false, said: saidOfFault(FORBIDDEN_ADDRESS) };
  const dispatcher = new Agent({
    connect: { timeout: CONNECT_MS, ...(allowPrivate ? {} : { lookup: guardedLookup }) },
    headersTimeout: WAIT_MS,
    bodyTimeout: WAIT_MS,
  });
  const close = () => dispatcher.destroy();
  try {
    const { username, password, origin, pathname, search } = url;
    const known = `${decodeURIComponent(username)}:${decodeURIComponent(password)}`;
    const { statusCode, body } = await request(`${origin}${pathname}${search}`, {
      dispatcher,
      signal: AbortSignal.any([ended, AbortSignal.timeout(WHOLE_MS)]),
      headers: {
        accept: '*/*',
        ...(username === '' ? {} : { authorization: `Basic ${Buffer.from(known).toString('base64')}` }),
      },
    });
    if (statusCode === 200) return { ok: true, content: body, close };
    await close();
    return { ok: false, said: saidOfStatus(statusCode) };
  } catch (error) {
    await close();
    return { ok: false, said: saidOfFault(codeOf(error)) };
  }
}

/** Why nothing came, as people read it. @param code of the fault; '' where it has none */
export const saidOfFault = (code: string): string =>
  code === FORBIDDEN_ADDRESS
    ? 'The address is inside a private network, which is not asked from here.'
    : `Nothing could be had there${code === '' ? '' : ` (${code})`}.`;

function saidOfStatus(status: number): string {
  if (status === 401 || status === 403) return `The address wants to know who asks (it answered ${status}).`;
  if (status === 404 || status === 410) return `There is nothing at the address (it answered ${status}).`;
  if (status >= 300 && status < 400) return `The address sends on to another one (${status}): enter that one.`;
  return `The address answered ${status} instead of a file.`;
}
