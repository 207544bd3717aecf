import type { Condition } from '../conditions/index.ts';
import { shownItems, type Questions, type SeenBlock, type ShownQuestion, type Skip } from './items.ts';

/** The page that a form begins with, and where its last page leads. */
export const FIRST_PAGE = 'start';
export const THE_END = 'end';

/** What of a page decides who sees it, and where it leads. */
export interface PathPage {
  id: string;
  shownIf: Condition | null;
  items: { id: string; shownIf: Condition | null }[];
  skips: Skip[];
}

/** A page of a form. */
export interface FormPage extends PathPage {
  /** '' for none. */
  title: string;
  items: (ShownQuestion | SeenBlock)[];
}

/** The pages of a form, in order: one where nothing divides it. */
export function pagesOf(form: Questions): FormPage[] {
  const pages: FormPage[] = [{ id: FIRST_PAGE, title: '', shownIf: null, items: [], skips: [] }];
  for (const item of shownItems(form)) {
    const last = pages.at(-1);
    if (item.kind === 'page') {
      if (last) last.skips = item.skips;
      pages.push({ id: item.id, title: item.title, shownIf: item.shownIf, items: [], skips: [] });
    } else last?.items.push(item);
  }
  return pages;
}

/** Whether everything on a form is asked of everybody: then there is but one way through it. */
export const asksAll = ({ items }: Pick<Questions, 'items'>): boolean =>
  items.every((item) => item.shownIf === null && (item.kind !== 'page' || item.skips.length === 0));

/** The way of one visitor through a form. */
export interface Path {
  /** The pages that are met, in order. */
  pages: string[];
  /** What is shown on them. */
  shown: Set<string>;
}

/**
 * The way through pages by what is answered. What is not asked counts as not answered, whatever is in it. It always ends: pages
 * lead on only.
 * @param holds whether a condition holds, where what was asked so far is told
 */
export function pathOf(pages: PathPage[], holds: (when: Condition, asked: Set<string>) => boolean): Path {
  const path: Path = { pages: [], shown: new Set() };
  const is = (when: Condition | null) => when === null || holds(when, path.shown);
  let at = 0;
  while (at < pages.length) {
    const page = pages[at];
    at += 1;
    if (!page || !is(page.shownIf)) continue;
    // One after the other: whether something is shown may depend on what stands above it.
    let count = 0;
    for (const item of page.items)
      if (is(item.shownIf)) {
        path.shown.add(item.id);
        count += 1;
      }
    // A page on which nothing is left to see is passed over.
    if (count === 0) continue;
    path.pages.push(page.id);
    const skip = page.skips.find(({ when }) => is(when));
    if (skip?.to === THE_END) break;
    const to = skip ? pages.findIndex(({ id }) => id === skip.to) : -1;
    if (to > at) at = to;
  }
  return path;
}
