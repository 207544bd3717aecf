import { shownItems, type FormLanguage } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { isTick } from '../../../../core/values/index.ts';
import {
  prefixFor,
  printClosed,
  printEnding,
  printForm,
  printPlaced,
  unfitIn,
  wordsIn,
  type Printed,
} from '../../../../forms/index.ts';

/** What a form can be in, as visitors meet it. */
export const PREVIEW_STATES = ['empty', 'error', 'sending', 'waiting', 'sent', 'closed'] as const;
export type PreviewState = (typeof PREVIEW_STATES)[number];

export const STATE_WORDS: Record<PreviewState, string> = {
  empty: 'as it is met',
  error: 'with mistakes',
  sending: 'being sent',
  waiting: 'without connection',
  sent: 'after sending',
  closed: 'closed',
};

/** A form in a state, printed as pages of others get it. @param address its public address */
export const printState = (
  document: FormDocument,
  address: string,
  language: FormLanguage,
  state: PreviewState,
): Printed => printPlaced(prefixFor(address), document, language, printInside(document, address, language, state));

function printInside(document: FormDocument, address: string, language: FormLanguage, state: PreviewState): Printed {
  const prefix = prefixFor(address);
  switch (state) {
    case 'sent':
      return printEnding(prefix, document.look, language, document.ending, () => '…');
    case 'closed':
      return printClosed(prefix, document.look, language, document.closedText);
    default:
      return printForm({
        action: address,
        face: document,
        language,
        filled: {
          prefix,
          typed: null,
          wrong: state === 'error' ? everythingWrong(document, language) : {},
          kept: {},
        },
        carries: 'script',
        ...(state === 'sending' || state === 'waiting' ? { doing: state } : {}),
      });
  }
}

/** What each question says when its answer cannot be taken. */
function everythingWrong(document: FormDocument, language: FormLanguage): Record<string, string> {
  const say = wordsIn(language);
  return Object.fromEntries(
    shownItems(document).flatMap((item) => {
      if (item.kind !== 'question') return [];
      const { key, type, errorText, required } = item.field;
      const usual = isTick(item.field) ? say('needed.tick') : unfitIn(language, type);
      return required || errorText !== '' ? [[key, errorText || usual]] : [];
    }),
  );
}
