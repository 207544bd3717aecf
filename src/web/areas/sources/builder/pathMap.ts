import { endOf, pagesOf, THE_END, type FormPage, type Way } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';

/** Where visitors can stop on their way: a page, or an ending. */
export interface Stop {
  id: string;
  name: string;
  /** null for an ending. */
  page: FormPage | null;
}

/** A way that is laid, or was taken by somebody. */
export interface LaidWay extends Way {
  count: number;
}

/** What a page is called. @param at its place, from 0 */
export const pageName = ({ title }: FormPage, at: number): string => title || `Page ${at + 1}`;

/** The stops of a form, pages first. */
export function stopsOf(document: FormDocument): Stop[] {
  const { ending, endings } = document;
  return [
    ...pagesOf(document).map((page, at) => ({ id: page.id, name: pageName(page, at), page })),
    ...endings.map(({ id, title, message }) => ({
      id: endOf(id),
      name: `Sent: ${title || message || 'an ending'}`,
      page: null,
    })),
    { id: THE_END, name: `Sent: ${ending.title || ending.message || 'thank you'}`, page: null },
  ];
}

/** The ways between stops that are there now, with how many took each. Those to stops that are gone are left out. */
export function waysBetween(document: FormDocument, taken: (Way & { count: number })[]): LaidWay[] {
  const stops = stopsOf(document);
  const pages = stops.filter(({ page }) => page !== null);
  const ends = stops.filter(({ page }) => page === null);
  const laid = pages.flatMap(({ id, page }, at): Way[] => {
    // What stands next may be passed over where it is only shown to some.
    const rest = pages.slice(at + 1);
    const certain = rest.findIndex((next) => next.page?.shownIf === null);
    const usual = certain < 0 ? [...rest, ...ends] : rest.slice(0, certain + 1);
    const skips = (page?.skips ?? []).flatMap(({ to }) =>
      to === THE_END ? ends : stops.filter((stop) => stop.id === to),
    );
    return [...usual, ...skips].map((to) => ({ from: id, to: to.id }));
  });
  const known = [...new Map([...laid, ...taken].map((way) => [`${way.from} ${way.to}`, way])).values()];
  const is = (id: string) => stops.some((stop) => stop.id === id);
  return known
    .filter(({ from, to }) => is(from) && is(to))
    .map(({ from, to }) => ({
      from,
      to,
      count: taken.find((way) => way.from === from && way.to === to)?.count ?? 0,
    }));
}
