import LinkHeader from 'http-link-header';
import type { Paging, RequestTemplate } from '../../contract/profile/index.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { call, type Line } from './call.ts';
import type { Reply } from './connector.ts';
import { all, one } from '../../core/json/index.ts';

/** More pages than this are a service that pages in circles. */
const MOST_PAGES = 200;
/** How often a list is read anew whose items moved between its pages while it was read. */
const MOST_READINGS = 3;

export interface Listing {
  request: RequestTemplate;
  items: string;
  paging?: Paging;
}

/** Where the next page is: values for the template, or an address of its own. */
export type Next = { values: Record<string, unknown> } | { path: string };

/**
 * Reads a list to its end, page by page.
 * @param identify what tells items apart: one that moved to a later page while the list was read comes once. When one did,
 * or some are missing of those that the service says there are, the list is read again.
 */
export async function fetchAll(
  line: Line,
  listing: Listing,
  values: Record<string, unknown>,
  identify: (item: unknown) => string,
): Promise<Reply<unknown[]>> {
  for (let reading = 1; ; reading += 1) {
    const reply = await readPages(line, listing, values, identify);
    if (!reply.ok) return reply;
    const { items, total, moved } = reply.value;
    const isWhole = !moved && (total === null || items.length >= total);
    if (isWhole || reading >= MOST_READINGS) return { ok: true, value: items };
  }
}

async function readPages(
  line: Line,
  listing: Listing,
  values: Record<string, unknown>,
  identify: (item: unknown) => string,
): Promise<Reply<{ items: unknown[]; total: number | null; moved: boolean }>> {
  const { paging } = listing;
  const found = new Map<string, unknown>();
  let total: number | null = null;
  let moved = false;
  let next: Next | null = firstPage(paging);
  for (let page = 0; page < MOST_PAGES && next !== null; page += 1) {
    const reply = await askFor(line, listing, values, next);
    if (!reply.ok) return reply;
    const items = all(reply.value, listing.items);
    const before = found.size;
    for (const item of items) found.set(identify(item), item);
    // An item that comes twice was moved while the list was read, and another one may have been missed for that.
    moved ||= found.size < before + items.length;
    total = paging?.kind === 'offset' ? numberAt(reply.value, paging.total) : null;
    next = nextPage(paging, {
      page,
      body: reply.value,
      answer: reply.answer,
      count: items.length,
      gained: found.size > before,
      base: line.access.baseUrl,
    });
  }
  return { ok: true, value: { items: [...found.values()], total, moved } };
}

const askFor = (line: Line, { request }: Listing, values: Record<string, unknown>, next: Next) =>
  call(line, 'path' in next ? { ...request, path: next.path } : request, {
    ...values,
    ...('values' in next ? next.values : {}),
  });

/**
 * Reads one page of a list, which may be too long to be read at once.
 * @param at where it goes on, and which page it is, from 0
 * @returns what is on it, and where the list goes on; null at its end
 */
export async function fetchPage(
  line: Line,
  listing: Listing,
  values: Record<string, unknown>,
  at: { next: Next | null; page: number },
): Promise<Reply<{ items: unknown[]; next: Next | null }>> {
  const reply = await askFor(line, listing, values, at.next ?? firstPage(listing.paging));
  if (!reply.ok) return reply;
  const items = all(reply.value, listing.items);
  const { value: body, answer } = reply;
  const next = nextPage(listing.paging, {
    page: at.page,
    body,
    answer,
    count: items.length,
    gained: items.length > 0,
    base: line.access.baseUrl,
  });
  return { ok: true, value: { items, next } };
}

function firstPage(paging: Paging | undefined): Next {
  switch (paging?.kind) {
    case 'page number':
      return { values: { page: paging.first ?? 1 } };
    case 'offset':
      return { values: { offset: 0, limit: paging.size } };
    case 'cursor':
    case 'link':
    case undefined:
      return { values: {} };
    default:
      return paging satisfies never;
  }
}

interface PageRead {
  /** Counted from 0. */
  page: number;
  body: unknown;
  answer: Answer;
  count: number;
  /** Whether anything on it was new. */
  gained: boolean;
  base: string;
}

function nextPage(paging: Paging | undefined, { page, body, answer, count, gained, base }: PageRead): Next | null {
  switch (paging?.kind) {
    case 'cursor': {
      const cursor = one(body, paging.next) ?? null;
      return cursor === null || cursor === '' ? null : { values: { cursor } };
    }
    case 'page number': {
      const pages = numberAt(body, paging.pages);
      const goesOn = pages === null ? gained : page + 1 < pages;
      return goesOn ? { values: { page: (paging.first ?? 1) + page + 1 } } : null;
    }
    case 'offset': {
      const total = numberAt(body, paging.total);
      const offset = (page + 1) * paging.size;
      const goesOn = total === null ? count === paging.size : offset < total;
      return goesOn ? { values: { offset, limit: paging.size } } : null;
    }
    case 'link':
      return answer.kind === 'answered' ? linkedPage(answer.headers.link, base) : null;
    case undefined:
      return null;
    default:
      return paging satisfies never;
  }
}

/** The page that a Link header (RFC 8288) names as next; only within the same service, since the key goes along. */
function linkedPage(header: string | undefined, base: string): Next | null {
  const uri = header ? LinkHeader.parse(header).rel('next')[0]?.uri : undefined;
  if (!uri || !URL.canParse(uri, base)) return null;
  const root = new URL(base);
  const url = new URL(uri, base);
  const folder = root.pathname.replace(/\/+$/, '');
  if (url.origin !== root.origin || !url.pathname.startsWith(folder)) return null;
  // Braces would be read as a template.
  return { path: (url.pathname.slice(folder.length) + url.search).replace(/[{}]/g, encodeURIComponent) };
}

function numberAt(body: unknown, path: string | undefined): number | null {
  const value = one(body, path);
  return typeof value === 'number' ? value : null;
}
