import { fieldsAskedFor, isOfKnown, type Condition } from '../../../core/conditions/index.ts';
import {
  answersIn,
  FIRST_PAGE,
  pagesOf,
  shownItems,
  THE_END,
  type Ending,
  type FormItem,
} from '../../../core/forms/index.ts';
import type { FormDocument } from '../../../core/intake/index.ts';

type Add = (pointer: string, detail: string) => void;

/** What is wrong with the way through a form: conditions, pages, and what comes at their ends. */
export function pathIssues(document: FormDocument, add: Add): void {
  const shown = shownItems(document);
  const hidden = document.fields.filter(({ widget }) => widget === 'hidden').map(({ id }) => id);
  const labelOf = (id: string) => document.fields.find((field) => field.id === id)?.label ?? id;
  /** What cannot be asked about, where only what stands before an item is answered. */
  const unasked = (when: Condition | null, before: string | null): string | undefined => {
    const end = before === null ? shown.length : shown.findIndex(({ id }) => id === before);
    const asked = new Set([...shown.slice(0, end).map(({ id }) => id), ...hidden]);
    return when === null ? undefined : fieldsAskedFor(when).find((id) => !isOfKnown(id) && !asked.has(id));
  };
  const pages = pagesOf(document).map(({ id }) => id);
  document.items.forEach((item, index) => {
    const late = unasked(item.shownIf, item.id);
    if (late !== undefined)
      add(`/items/${index}/shownIf`, `When it is shown depends on "${labelOf(late)}", which is not asked before it.`);
    if (item.kind === 'page') pageIssues(item, index, pages, (when) => unasked(when, item.id), labelOf, add);
  });
  const answered = new Set(document.fields.map(({ id }) => id));
  const check = (ending: Ending, at: string, can: Set<string>) => {
    const unknown = (url: string) => answersIn(url).find((id) => !can.has(id));
    const [next, link] = [unknown(ending.next), unknown(ending.link?.url ?? '')];
    if (next !== undefined) add(`${at}/next`, `No question is called {${next}}.`);
    if (link !== undefined) add(`${at}/link/url`, `No question is called {${link}}.`);
    if (ending.download && ending.download.file === '' && ending.download.url === '')
      add(`${at}/download/file`, 'Say what is handed out: choose a file, or enter an address.');
    if (ending.download && ending.next !== '')
      add(`${at}/download`, 'Who is taken to another page at once never sees the download: leave one of them out.');
    if (ending.newTab && ending.seconds > 0)
      add(`${at}/seconds`, 'A tab of its own opens at once, and the message stays: no seconds are waited.');
    if (ending.seconds > 0 && ending.next === '')
      add(`${at}/seconds`, 'There is no page to go on to after these seconds.');
  };
  check(document.ending, '/ending', answered);
  document.endings.forEach((ending, index) => {
    check(ending, `/endings/${index}`, answered);
    const late = unasked(ending.when, null);
    if (late !== undefined) add(`/endings/${index}/when`, `It depends on "${labelOf(late)}", which is not asked.`);
  });
  document.instead.forEach((ending, index) => {
    check(ending, `/instead/${index}`, new Set());
    if (ending.download)
      add(`/instead/${index}/download`, 'Something is handed out to who sent the form; here, a link can lead to it.');
    if (fieldsAskedFor(ending.when).some((id) => !isOfKnown(id)))
      add(`/instead/${index}/when`, 'Before the form is filled in, only what is known of the visitor can decide.');
  });
}

function pageIssues(
  { id, skips }: Extract<FormItem, { kind: 'page' }>,
  index: number,
  pages: string[],
  unasked: (when: Condition | null) => string | undefined,
  labelOf: (id: string) => string,
  add: Add,
): void {
  if (id === FIRST_PAGE || id === THE_END) add(`/items/${index}/id`, `A page cannot have the id "${id}".`);
  for (const { when, to } of skips) {
    const late = unasked(when);
    if (late !== undefined)
      add(`/items/${index}/skips`, `Where it leads depends on "${labelOf(late)}", which is not asked before it.`);
    if (to !== THE_END && pages.indexOf(to) <= pages.indexOf(id))
      add(`/items/${index}/skips`, 'It leads to a page that is gone, or that does not come later.');
  }
}
