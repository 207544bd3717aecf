import type { Condition } from '../../../../core/conditions/index.ts';
import { pagesOf, shownItems, type BlockKind, type FormItem, type FormPage } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { isTick, type SourceField, type TypeName } from '../../../../core/values/index.ts';
import { addField, changeField, removeField } from '../fieldEdits.ts';
import { pageName } from './pathMap.ts';

type Block = Exclude<FormItem, { kind: 'question' }>;

/** A form after an edit, and the item that is worked on now; null for none. */
export interface Edited {
  document: FormDocument;
  id: string | null;
}

/** The items as they are shown, without what they come with. */
const itemsIn = (document: FormDocument): FormItem[] =>
  shownItems(document).map((item) => {
    if (item.kind !== 'question') return item;
    const { field: _, ...own } = item;
    return own;
  });

/** Where something new belongs: behind what is worked on; else before the ticks at the end, which people read last. */
function placeFor(document: FormDocument, after: string | null): number {
  const items = shownItems(document);
  const at = items.findIndex(({ id }) => id === after);
  if (at >= 0) return at + 1;
  let end = items.length;
  for (let item = items[end - 1]; item?.kind === 'question' && isTick(item.field); item = items[end - 1]) end -= 1;
  return end;
}

const insert = <T>(list: T[], at: number, one: T): T[] => [...list.slice(0, at), one, ...list.slice(at)];

/** Adds a question. @param after the item behind which it goes; null for where such a question belongs */
export function addQuestion(
  document: FormDocument,
  type: TypeName,
  after: string | null,
  more: Partial<SourceField> = {},
): Edited {
  const fields = addField(document.fields, type, more);
  const added = fields.at(-1);
  if (!added || added.widget === 'hidden') return { document: { ...document, fields }, id: added?.id ?? null };
  const items = insert<FormItem>(itemsIn(document), placeFor(document, after), {
    kind: 'question',
    id: added.id,
    shownIf: null,
  });
  return { document: inOrder({ ...document, fields, items }), id: added.id };
}

const FIRST_BLOCKS: { [K in BlockKind]: Omit<Extract<Block, { kind: K }>, 'id'> } = {
  heading: { kind: 'heading', text: 'A heading', shownIf: null },
  text: { kind: 'text', text: 'A few words to explain.', shownIf: null },
  picture: { kind: 'picture', url: '', alt: '', width: 0, height: 0, shownIf: null },
  divider: { kind: 'divider', shownIf: null },
  page: { kind: 'page', title: 'Next', skips: [], shownIf: null },
};

/** Adds what stands between questions. */
export function addBlock(document: FormDocument, kind: BlockKind, after: string | null): Edited {
  const taken = new Set([...document.items, ...document.fields].map(({ id }) => id));
  let number = 1;
  while (taken.has(`${kind}-${number}`)) number += 1;
  const block = { ...FIRST_BLOCKS[kind], id: `${kind}-${number}` };
  return {
    document: { ...document, items: insert<FormItem>(itemsIn(document), placeFor(document, after), block) },
    id: block.id,
  };
}

/** Moves an item to a place among the others, from 0; beyond the ends it stands at them. */
export function moveItem(document: FormDocument, id: string, to: number): FormDocument {
  const items = itemsIn(document);
  const moved = items.find((item) => item.id === id);
  if (!moved) return document;
  const others = items.filter((item) => item.id !== id);
  const at = Math.max(0, Math.min(to, others.length));
  return at === items.indexOf(moved) ? document : inOrder({ ...document, items: insert(others, at, moved) });
}

/** Takes an item away, with its field where it is a question. */
export function removeItem(document: FormDocument, id: string): FormDocument {
  const index = document.fields.findIndex((field) => field.id === id);
  return {
    ...document,
    fields: index < 0 ? document.fields : removeField(document.fields, index),
    items: itemsIn(document).filter((item) => item.id !== id),
  };
}

/** Changes a question. Its id may follow its name while it is not live. */
export function changeQuestion(
  document: FormDocument,
  id: string,
  part: Partial<SourceField>,
  liveIds: string[],
): Edited {
  const index = document.fields.findIndex((field) => field.id === id);
  if (index < 0) return { document, id: null };
  const fields = changeField(document.fields, index, part, liveIds);
  const now = fields[index]?.id ?? id;
  const items = itemsIn(document).map((item): FormItem => (item.id === id ? { ...item, id: now } : item));
  return { document: { ...document, fields, items }, id: now };
}

export const changeBlock = (document: FormDocument, id: string, part: Partial<Block>): FormDocument => ({
  ...document,
  items: itemsIn(document).map((item) =>
    item.id === id && item.kind !== 'question' ? ({ ...item, ...part, kind: item.kind, id } as FormItem) : item,
  ),
});

/** The fields in the order of their questions, which is the order in which everything else names them; hidden ones last. */
function inOrder(document: FormDocument): FormDocument {
  const shown = shownItems(document).flatMap((item) => (item.kind === 'question' ? [item.field] : []));
  return { ...document, fields: [...shown, ...document.fields.filter((field) => !shown.includes(field))] };
}

/** Changes when an item is shown. */
export const changeShownIf = (document: FormDocument, id: string, shownIf: Condition | null): FormDocument => ({
  ...document,
  items: itemsIn(document).map((item) => (item.id === id ? { ...item, shownIf } : item)),
});

/** The pages behind the one that begins at an item, which the page before that can lead to as well. */
export function pagesBehind(document: FormDocument, id: string): { page: FormPage; name: string }[] {
  const pages = pagesOf(document).map((page, at) => ({ page, name: pageName(page, at) }));
  return pages.slice(pages.findIndex(({ page }) => page.id === id) + 1);
}
