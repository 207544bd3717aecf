import type { Ending } from './endings.ts';
import type { Questions } from './items.ts';
import type { Look } from './look.ts';

/** What of a form a variant says in its own way. Its questions are some or all of the form's. */
export interface VariantFace extends Questions {
  title: string;
  look: Look;
  button: string;
  resetLabel: string;
  statement: string;
  ending: Ending;
}

/** One of several ways in which a form is shown, to find out which does better. */
export interface FormVariant {
  id: string;
  name: string;
  /** Of those who meet the form, in percent. */
  share: number;
  /** null: the form itself, or nothing. */
  face: VariantFace | null;
  /** Whether nothing is shown to those: what would be without the form? */
  nothing: boolean;
}

/** By what variants are compared: those who sent it, who confirmed, what arrived at a destination, or who came to a certain page later. */
export const GOALS = ['completed', 'confirmed', 'delivered', 'reached'] as const;
export type Goal = (typeof GOALS)[number];

/** What a variant of a form begins with: the form as it is. */
export const faceOf = ({
  title,
  items,
  fields,
  look,
  button,
  resetLabel,
  statement,
  ending,
}: VariantFace): VariantFace => ({ title, items, fields, look, button, resetLabel, statement, ending });

/** A form as one of its variants shows it; the form itself where there is no such. */
export function withVariant<Form extends VariantFace & { variants: FormVariant[] }>(form: Form, id: string): Form {
  const face = form.variants.find((variant) => variant.id === id)?.face;
  return face ? { ...form, ...face } : form;
}

/** A form in which one of its variants was changed as a whole: what variants do not say is the form's own. */
export function intoVariant<Form extends VariantFace & { variants: FormVariant[] }>(
  form: Form,
  id: string,
  changed: Form,
): Form {
  const variants = changed.variants.map((variant) =>
    variant.id === id ? { ...variant, face: faceOf(changed) } : variant,
  );
  return { ...changed, ...faceOf(form), variants };
}

/** The variant that falls to somebody; '' where there are none. @param chance from 0 to 1 */
export function pickVariant(variants: Pick<FormVariant, 'id' | 'share'>[], chance: number): string {
  let left = chance * variants.reduce((sum, { share }) => sum + share, 0);
  for (const { id, share } of variants) {
    left -= share;
    if (left < 0) return id;
  }
  return variants.at(-1)?.id ?? '';
}
