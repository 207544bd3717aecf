import type { EndingIf } from './endings.ts';
import { decide, fieldsAskedFor, isOfKnown, type Condition } from '../conditions/index.ts';
import { plainField, type FieldValues, type SourceField } from '../values/index.ts';
import type { FormItem, Questions } from './items.ts';

/** A condition that never holds. */
const NEVER: Condition = { kind: 'any', of: [] };

/** Whether somebody answered a form before: an id of a fact. */
export const answeredId = (sourceId: string): string => `@has answered ${sourceId}`;

/** What a condition is decided by on a form, where what nobody knows of a visitor counts as not so. */
export const knownFor = (when: Condition, known: FieldValues): FieldValues =>
  Object.fromEntries(
    fieldsAskedFor(when)
      .filter(isOfKnown)
      .map((id) => [id, known[id] ?? false]),
  );

/** What a visitor of whom something is known sees instead of a form; null: the form. */
export const insteadFor = ({ instead }: { instead: EndingIf[] }, known: FieldValues): EndingIf | null =>
  instead.find(({ when }) => settled(when, known) === true) ?? null;

/** Whether somebody answered forms before, as fields that conditions ask about. */
export const answeredFields = (sources: { id: string; name: string }[]): SourceField[] =>
  sources.map(({ id, name }) => ({ ...plainField(answeredId(id), 'yes/no'), label: `has sent ${name}` }));

/** A condition once it is known who it is: what is left to be answered, or whether it holds. */
function settled(when: Condition, known: FieldValues): Condition | boolean {
  if (when.kind === 'test') {
    if (!isOfKnown(when.field)) return when;
    return decide(when, { values: knownFor(when, known), now: 0 }, []).verdict === 'holds';
  }
  const parts = when.of.map((one) => settled(one, known));
  const left = parts.filter((one) => typeof one !== 'boolean');
  // By one part of this truth the whole is decided.
  const deciding = when.kind !== 'all';
  if (parts.includes(deciding)) return when.kind === 'any';
  return left.length === 0 ? when.kind !== 'any' : { ...when, of: left };
}

const settledIf = (when: Condition | null, known: FieldValues): Condition | null => {
  if (when === null) return null;
  const now = settled(when, known);
  return now === true ? null : now === false ? NEVER : now;
};

const isNever = (when: Condition | null): boolean => when?.kind === 'any' && when.of.length === 0;

/**
 * A form as it is for one visitor: what depends on who it is, is decided. What is not for them is not there, so that no page tells
 * what others are asked.
 */
export function forVisitor<Form extends Questions>(form: Form, known: FieldValues): Form {
  const gone = new Set<string>();
  let isPageGone = false;
  const items = form.items.flatMap((item): FormItem[] => {
    const shownIf = settledIf(item.shownIf, known);
    if (item.kind === 'page') {
      isPageGone = isNever(shownIf);
      const skips = item.skips.flatMap((skip) => {
        const when = settledIf(skip.when, known);
        return isNever(when) ? [] : [{ ...skip, when }];
      });
      return [{ ...item, title: isPageGone ? '' : item.title, shownIf, skips }];
    }
    if (!isPageGone && !isNever(shownIf)) return [{ ...item, shownIf }];
    gone.add(item.id);
    return [];
  });
  return { ...form, items, fields: form.fields.filter(({ id }) => !gone.has(id)) };
}
