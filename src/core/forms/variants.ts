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

/** One of several ways in which a form or a chat is shown, to find out which does better. */
export interface Variant<Face extends object> {
  id: string;
  name: string;
  /** Of those who meet it, in percent. */
  share: number;
  /** null: the form or chat itself, or nothing. */
  face: Face | null;
  /** Whether nothing is shown to those: what would be without it? */
  nothing: boolean;
}
export type FormVariant = Variant<VariantFace>;

/** What is compared: none or at least two variants, and by what. */
export interface Compared<Face extends object> {
  variants: Variant<Face>[];
  goal: Goal;
  /** Which page is the later goal, as a pattern of addresses; of use where that is the goal. */
  goalPage: string;
}

/** By what variants are compared: those who sent it, who confirmed, what arrived at a destination, or who came to a certain page later. */
export const GOALS = ['completed', 'confirmed', 'delivered', 'reached'] as const;
export type Goal = (typeof GOALS)[number];

/** What a variant of a form says in its own way, and begins with: the form as it is. */
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

/** A form or chat as one of its variants shows it; itself where there is no such. */
export function withVariant<Document extends { variants: Variant<object>[] }>(
  document: Document,
  id: string,
): Document {
  const face = document.variants.find((variant) => variant.id === id)?.face;
  return face ? { ...document, ...face } : document;
}

/**
 * A form or chat in which one of its variants was changed as a whole: what variants do not say is its own.
 * @param own what of it variants say in their own way
 */
export function intoVariant<Document extends { variants: Variant<object>[] }>(
  document: Document,
  id: string,
  changed: Document,
  own: (document: Document) => object,
): Document {
  const variants = changed.variants.map((variant) =>
    variant.id === id ? { ...variant, face: own(changed) } : variant,
  );
  return { ...changed, ...own(document), variants };
}

/** What a variant of a source is called; '' for one that it does not have, or has no more. */
export function variantName(document: object | null, id: string): string {
  const { variants = [] }: { variants?: { id: string; name: string }[] } = document ?? {};
  return variants.find((one) => one.id === id)?.name ?? '';
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
