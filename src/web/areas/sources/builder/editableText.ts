import { shownItems } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { changeBlock, changeQuestion } from './formEdits.ts';

/** A text on a form that can be written where it stands. */
export type TextPlace =
  | { of: 'form'; part: 'title' | 'statement' | 'button' | 'resetLabel' }
  | { of: 'item'; id: string; part: 'label' | 'help' | 'text' };

/** Which text of a form an element holds; null for none that can be written there. @param element as the one renderer prints it */
export function textPlaceOf(element: Element): TextPlace | null {
  const question = element.closest<HTMLElement>('[data-question]')?.dataset.question;
  if (question !== undefined) {
    if (element.closest('.help')) return { of: 'item', id: question, part: 'help' };
    const label = element.closest('legend, .entered > label, .option > span');
    // The answers of a question are written in its settings, where there is one a line.
    if (!label || label.closest('.options, .pressed')) return null;
    return { of: 'item', id: question, part: 'label' };
  }
  const block = element.closest<HTMLElement>('[data-block]');
  if (block)
    return /^(H3|DIV)$/.test(block.tagName) ? { of: 'item', id: block.dataset.block ?? '', part: 'text' } : null;
  if (element.closest('h2')) return { of: 'form', part: 'title' };
  if (element.closest('.statement')) return { of: 'form', part: 'statement' };
  if (element.closest('button[type=submit]')) return { of: 'form', part: 'button' };
  if (element.closest('button[type=reset]')) return { of: 'form', part: 'resetLabel' };
  return null;
}

/** The element that holds a text. */
export function elementOf(root: ParentNode, place: TextPlace): HTMLElement | null {
  const at = (selector: string) => root.querySelector<HTMLElement>(selector);
  if (place.of === 'form')
    return at(
      { title: 'h2', statement: '.statement', button: 'button[type=submit]', resetLabel: 'button[type=reset]' }[
        place.part
      ],
    );
  const question = at(`[data-question="${CSS.escape(place.id)}"]`);
  if (!question) return at(`[data-block="${CSS.escape(place.id)}"]`);
  return place.part === 'help'
    ? question.querySelector<HTMLElement>('.help')
    : question.querySelector<HTMLElement>('legend, label > span, label');
}

/** The text that stands at a place. */
export function textAt(document: FormDocument, place: TextPlace): string {
  if (place.of === 'form') return document[place.part];
  const item = shownItems(document).find(({ id }) => id === place.id);
  if (item?.kind === 'question') return place.part === 'help' ? item.field.help : item.field.label;
  return item && 'text' in item ? item.text : '';
}

/** A form with another text at a place. What cannot be empty stays as it was. */
export function withText(document: FormDocument, place: TextPlace, text: string, liveIds: string[]): FormDocument {
  const written = text.replace(/\u00a0/g, ' ').trim();
  if (place.of === 'form')
    return written === '' && place.part === 'button' ? document : { ...document, [place.part]: written };
  if (place.part === 'help') return changeQuestion(document, place.id, { help: written }, liveIds).document;
  if (written === '') return document;
  return place.part === 'label'
    ? changeQuestion(document, place.id, { label: written }, liveIds).document
    : changeBlock(document, place.id, { text: written });
}
