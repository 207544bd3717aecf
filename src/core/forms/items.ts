import type { SourceField } from '../values/index.ts';

/** What stands on a form, in its order. Each has an id of its own; that of a question is the id of its field. */
export type FormItem =
  | { kind: 'question'; id: string }
  | { kind: 'heading'; id: string; text: string }
  /** Paragraphs, with a blank line between them. */
  | { kind: 'text'; id: string; text: string }
  /** alt is what is read aloud for it; '' where it only decorates. */
  | { kind: 'picture'; id: string; url: string; alt: string }
  | { kind: 'divider'; id: string };

/** What stands between questions. */
export const BLOCK_KINDS = ['heading', 'text', 'picture', 'divider'] as const;
export type BlockKind = (typeof BLOCK_KINDS)[number];

/** What a form shows: a question comes with its field. */
export type ShownItem = { kind: 'question'; id: string; field: SourceField } | Exclude<FormItem, { kind: 'question' }>;

const isShown = ({ widget }: SourceField): boolean => widget !== 'hidden';

/** The questions of fields, one after the other. */
export const questionsOf = (fields: SourceField[]): FormItem[] =>
  fields.filter(isShown).map(({ id }) => ({ kind: 'question', id }));

/**
 * The items of a form as they are shown. No question is ever lost: one whose field has no place stands at the end, and
 * a place whose field is gone, or hidden, is none.
 */
export function shownItems({ items, fields }: { items: FormItem[]; fields: SourceField[] }): ShownItem[] {
  const byId = new Map(fields.filter(isShown).map((field) => [field.id, field]));
  const placed = new Set<string>();
  const shown = items.flatMap((item): ShownItem[] => {
    if (item.kind !== 'question') return [item];
    const field = byId.get(item.id);
    if (!field || placed.has(item.id)) return [];
    placed.add(item.id);
    return [{ ...item, field }];
  });
  const left = [...byId.values()].filter(({ id }) => !placed.has(id));
  return [...shown, ...left.map((field): ShownItem => ({ kind: 'question', id: field.id, field }))];
}
