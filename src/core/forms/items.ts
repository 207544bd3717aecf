import type { Condition } from '../conditions/index.ts';
import type { SourceField } from '../values/index.ts';

/** Where a page leads instead of to the next one: a later page, or the end. */
export interface Skip {
  id: string;
  /** null: always. */
  when: Condition | null;
  /** Id of a page behind it; end: it is sent at once. */
  to: string;
}

/** What every item has: an id of its own (that of a question is the id of its field), and when it is shown. */
interface AnyItem {
  id: string;
  /** null: always. */
  shownIf: Condition | null;
}

/** What stands on a form, in its order. */
export type FormItem = AnyItem &
  (
    | { kind: 'question' }
    | { kind: 'heading'; text: string }
    /** Paragraphs, with a blank line between them. */
    | { kind: 'text'; text: string }
    /** alt is what is read aloud for it; '' where it only decorates. Its size is in pixels; 0 where nobody knows. */
    | { kind: 'picture'; url: string; alt: string; width: number; height: number }
    | { kind: 'divider' }
    /** What follows stands on a page of its own. skips: where the page before it leads. */
    | { kind: 'page'; title: string; skips: Skip[] }
  );

/** What stands between questions. */
export const BLOCK_KINDS = ['heading', 'text', 'picture', 'divider', 'page'] as const;
export type BlockKind = (typeof BLOCK_KINDS)[number];
/** A block that is seen: not where a page begins. */
export type SeenBlock = Extract<FormItem, { kind: Exclude<BlockKind, 'page'> }>;

/** A question comes with its field. */
export type ShownQuestion = AnyItem & { kind: 'question'; field: SourceField };
/** What a form shows. */
export type ShownItem = ShownQuestion | Exclude<FormItem, { kind: 'question' }>;

/** What a form asks and shows. */
export interface Questions {
  items: FormItem[];
  fields: SourceField[];
}

const isShown = ({ widget }: SourceField): boolean => widget !== 'hidden';

const questionOf = (id: string) => ({ kind: 'question' as const, id, shownIf: null });

/** The questions of fields, one after the other. */
export const questionsOf = (fields: SourceField[]): FormItem[] =>
  fields.filter(isShown).map(({ id }) => questionOf(id));

/**
 * The items of a form as they are shown. No question is ever lost: one whose field has no place stands at the end, and
 * a place whose field is gone, or hidden, is none.
 */
export function shownItems({ items, fields }: Questions): ShownItem[] {
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
  return [...shown, ...left.map((field): ShownItem => ({ ...questionOf(field.id), field }))];
}
