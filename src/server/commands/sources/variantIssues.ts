import { checkChat } from '../../../core/chat/index.ts';
import { withVariant, type Compared } from '../../../core/forms/index.ts';
import { identifyingFields } from '../../../core/identity/index.ts';
import type { ChatDocument, FormDocument } from '../../../core/intake/index.ts';
import { pathIssues } from './pathIssues.ts';

type Add = (pointer: string, detail: string) => void;

/** What keeps variants of anything from being compared. @param noun what they are variants of */
function comparedIssues({ variants, goal, goalPage }: Compared<object>, noun: 'form' | 'chat', add: Add): void {
  if (variants.length === 1) add('/variants', 'One variant by itself compares with nothing.');
  const sum = variants.reduce((all, { share }) => all + share, 0);
  if (variants.length > 0 && sum !== 100) add('/variants', `The shares add up to ${sum} %; they have to make 100 %.`);
  const isNothing = variants.some(({ nothing }) => nothing);
  if (variants.filter(({ nothing }) => nothing).length > 1) add('/variants', 'Two of the variants are nothing at all.');
  if (isNothing && goal !== 'reached')
    add('/goal', 'Who is shown nothing cannot send it: compare with nothing by a page that visitors come to later.');
  if (variants.length > 0 && goal === 'reached' && goalPage === '')
    add('/goalPage', 'Say which page is the goal, such as /thanks*.');
  if (variants.filter(({ face, nothing }) => face === null && !nothing).length > 1)
    add('/variants', `Two of the variants are the ${noun} itself.`);
}

/** What keeps the variants of a chat from going live. */
export function chatVariantIssues(document: ChatDocument, add: Add): void {
  comparedIssues(document, 'chat', add);
  document.variants.forEach(({ name, face }, index) => {
    for (const { text, blocks } of face ? checkChat(face.parts, document.fields) : [])
      if (blocks) add(`/variants/${index}`, `${name}: ${text}`);
  });
}

/** What keeps the variants of a form from being compared, or from being read by the routes of the form. */
export function variantIssues(document: FormDocument, add: Add): void {
  const { variants, fields } = document;
  comparedIssues(document, 'form', add);
  variants.forEach(({ id, name, face }, index) => {
    if (face === null) return;
    const at = `/variants/${index}`;
    for (const field of face.fields) {
      const own = fields.find((one) => one.id === field.id);
      if (!own)
        add(at, `"${field.label}" is asked in ${name} alone, and no route knows it: add it to the form itself first.`);
      else if (own.key !== field.key || own.type !== field.type)
        add(at, `"${field.label}" has another name or type in ${name} than in the form itself.`);
    }
    if (identifyingFields(face.fields).length === 0) add(at, `Nothing in ${name} says who somebody is.`);
    pathIssues({ ...withVariant(document, id), endings: [], instead: [] }, (_, detail) =>
      add(at, `${name}: ${detail}`),
    );
  });
}
