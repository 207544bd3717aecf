import type { Context as HonoContext } from 'hono';
import {
  KEPT_FIELD,
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  SHOWING_FIELD,
  TOOK_FIELD,
  VARIANT_FIELD,
  VISITOR_FIELD,
} from '../../../core/forms/index.ts';
import type { Entries, FormDocument } from '../../../core/intake/index.ts';
import { isTick } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import type { LiveSource } from './liveSources.ts';

/** What an address fills in beforehand; null for nothing. Never a box: whether it is ticked is for the visitor to say. */
export function filledIn({ fields }: FormDocument, queries: Record<string, string[]>): Entries | null {
  const boxes = new Set(fields.filter(isTick).map(({ key }) => key));
  const entries = Object.entries(queries).flatMap(([name, values]) =>
    boxes.has(name) || CAME.test(name) ? [] : values.map((value): [string, string] => [name, value]),
  );
  return entries.length === 0 ? null : entries;
}

/** In which a personal link says who opens it. */
export const SIGN_PARAMETER = 'visitor';
/** Parameters of an address that say how the visitor came. */
const CAME = /^utm_|^form_|^visitor$|^later$/;
const CARRIED = [PAGE_FIELD, REFERRER_FIELD, PLACEMENT_FIELD, VARIANT_FIELD];
/** What a form carries on beside that when it is shown again. */
const CARRIED_ON = [...CARRIED, KEPT_FIELD, SHOWING_FIELD, TOOK_FIELD, VISITOR_FIELD];

/** How a visitor came to our own page, for the form on it to bring along: its address with the campaign's parameters. */
export function attributionOf(
  { config }: Context,
  { publicId }: LiveSource,
  queries: Record<string, string[]>,
): Entries {
  const page = new URL(`${config.publicUrl}/in/${publicId}`);
  const given = Object.entries(queries).map(([name, [value = '']]): [string, string] => [name, value]);
  for (const [name, value] of given) if (name.startsWith('utm_')) page.searchParams.set(name, value);
  const said = given.filter(([name]) => CARRIED.includes(name) && name !== PAGE_FIELD);
  return [[PAGE_FIELD, page.href], ...said];
}

/** The same of a form that is shown again by us: it says so itself, or the request says which page it is from. */
export function withPageOf(entries: Entries, referer: string): Entries {
  const carried = entries.filter(([name, value]) => CARRIED_ON.includes(name) && value !== '');
  return carried.some(([name]) => name === PAGE_FIELD) || referer === ''
    ? carried
    : [[PAGE_FIELD, withoutSigns(referer)], ...carried];
}

/** An address without what tells who a visitor is, or lets somebody go on with their form: it is kept where others read. */
function withoutSigns(address: string): string {
  const url = URL.parse(address);
  if (!url) return '';
  for (const name of [SIGN_PARAMETER, 'later']) url.searchParams.delete(name);
  return url.href;
}

/** What is kept of a request as evidence; cookies and credentials never are. */
export function evidenceOf(c: HonoContext, address: string): Record<string, string> {
  const kept = ['origin', 'referer', 'user-agent', 'accept-language'].flatMap((name) => {
    const value = c.req.header(name);
    return value ? [[name, (name === 'referer' ? withoutSigns(value) : value).slice(0, 500)]] : [];
  });
  return { ...(Object.fromEntries(kept) as Record<string, string>), address };
}
