import { shownItems } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import type { Askable } from '../../../parts/conditions/knowledge.ts';

const withoutFiles = ({ type }: SourceField): boolean => type !== 'list of records';

/**
 * What a condition on a form can ask about: what is answered before it, what the page knows, and what is known of the visitor.
 * @param before the item that the condition belongs to; null for after all of it
 */
export function askableBefore(document: FormDocument, before: string | null, known: SourceField[]): Askable {
  const items = shownItems(document);
  const end = before === null ? -1 : items.findIndex(({ id }) => id === before);
  const asked = items
    .slice(0, end < 0 ? items.length : end)
    .flatMap((item) => (item.kind === 'question' ? [item.field] : []))
    .filter(withoutFiles);
  const hidden = document.fields.filter(({ widget }) => widget === 'hidden');
  return { all: [...asked, ...hidden, ...known], visit: [], known };
}

/** What a new test begins with. */
export const firstAsked = ({ all }: Askable): SourceField[] => all.slice(0, 1);
