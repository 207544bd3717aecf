import { shownItems, withPictures, type FormLanguage } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { isTick } from '../../../../core/values/index.ts';
import {
  baseOf,
  prefixFor,
  printClosed,
  printEnding,
  printFontFaces,
  printForm,
  printInstead,
  printPlaced,
  unfitIn,
  wordsIn,
  type Printed,
} from '../../../../forms/index.ts';

/** What a form can be in, as visitors meet it, whatever it asks. */
const ALWAYS = {
  empty: 'as it is met',
  error: 'with mistakes',
  sending: 'being sent',
  waiting: 'without connection',
  sent: 'after sending',
  closed: 'closed',
};

/** One of those; or by the id of an ending for some, or of what is said instead of the form. */
export type PreviewState = keyof typeof ALWAYS | `ending ${string}` | `instead ${string}`;

/** The states that a form can be in, each in words. */
export const previewStates = ({ endings, instead }: FormDocument): [state: PreviewState, words: string][] => [
  ...Object.entries(ALWAYS).map(([state, words]): [PreviewState, string] => [state as keyof typeof ALWAYS, words]),
  ...endings.map(({ id }, at): [PreviewState, string] => [`ending ${id}`, `after sending, ending ${at + 1}`]),
  ...instead.map(({ id }, at): [PreviewState, string] => [`instead ${id}`, `for who is known, offer ${at + 1}`]),
];

/** Whether the form itself is seen in a state, and not what stands in its place. */
export const showsForm = (state: PreviewState): boolean => state === 'empty' || state === 'error';

/** A form in a state, printed as pages of others get it. @param address its public address */
export function printState(draft: FormDocument, address: string, language: FormLanguage, state: PreviewState): Printed {
  const document = withPictures(draft, baseOf(address));
  return printPlacedWith(document, address, language, printInside(document, address, language, state));
}

/** A form as pages of others get it, with something in the place of what is asked. */
export function printPlacedWith(
  document: FormDocument,
  address: string,
  language: FormLanguage,
  inside: Printed,
): Printed {
  const { html, css } = printPlaced(prefixFor(address), document, language, inside);
  const fonts = printFontFaces(document.look, baseOf(address));
  return { html, css: [fonts, css].filter(Boolean).join('\n') };
}

function printInside(document: FormDocument, address: string, language: FormLanguage, state: PreviewState): Printed {
  const prefix = prefixFor(address);
  const { look, ending, endings, instead, closedText } = document;
  const [of, id] = state.split(' ');
  const known = of === 'instead' ? instead.find((one) => one.id === id) : undefined;
  if (known) return printInstead(prefix, document, language, known);
  if (state === 'sent' || of === 'ending') {
    const own = endings.find((one) => one.id === id) ?? ending;
    return printEnding(prefix, look, language, own, () => '…', { downloadAt: address, isAsked: false });
  }
  if (state === 'closed') return printClosed(prefix, look, language, closedText);
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
