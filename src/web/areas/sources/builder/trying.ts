import { endingFor, filledIn, LATER_FIELD, withPictures, type FormLanguage } from '../../../../core/forms/index.ts';
import { readPayload, type Entries, type FormDocument, type SentFile } from '../../../../core/intake/index.ts';
import { inWords } from '../../../../core/values/index.ts';
import { baseOf, issuesIn, prefixFor, printEnding, printForm, type Printed } from '../../../../forms/index.ts';
import { printPlacedWith } from './previewStates.ts';

/** What somebody entered who tries a form, and that they pressed its button. */
export interface Pressed {
  entries: Entries;
  files: SentFile[];
}

/** What was entered into a form. @returns null where its other button was pressed, by which it is left for later */
export function enteredIn(form: HTMLFormElement, button: HTMLElement): Pressed | null {
  if (button.getAttribute('name') === LATER_FIELD) return null;
  const pressed: Pressed = { entries: [], files: [] };
  for (const [name, value] of new FormData(form))
    if (typeof value === 'string') pressed.entries.push([name, value]);
    else if (value.name !== '')
      pressed.files.push({
        name,
        value: { file: '', name: value.name, size: value.size, mediaType: value.type, sha256: '', link: '' },
      });
  return pressed;
}

export interface Tried {
  printed: Printed;
  /** How many answers it would not take; 0 where it would be taken. */
  mistakes: number;
  /** Where the visitor would be sent on to; '' for nowhere. */
  next: string;
}

/** What a visitor would see next: what is wrong, or what comes after it. Nothing is sent. @param address the form's public address */
export function tryForm(
  draft: FormDocument,
  address: string,
  language: FormLanguage,
  { entries, files }: Pressed,
): Tried {
  const document = withPictures(draft, baseOf(address));
  const prefix = prefixFor(address);
  const facts = { known: {}, now: Date.now() };
  const readings = readPayload(document, { kind: 'entries', entries, files }, facts);
  // A form is one submission.
  const [reading] = Array.isArray(readings) ? readings : [];
  const issues = reading && !reading.ok ? reading.issues : [];
  const values = reading?.ok ? reading.values : {};
  const answerOf = (field: string): string => inWords(values[field]);
  const ending = endingFor(document, { ...facts, values });
  const inside =
    issues.length > 0
      ? printForm({
          action: address,
          face: document,
          language,
          filled: {
            prefix,
            typed: entries,
            wrong: Object.fromEntries(
              issuesIn(language, document, entries, issues).map(({ field, message }) => [field, message]),
            ),
            kept: {},
          },
          carries: 'script',
        })
      : printEnding(
          prefix,
          document.look,
          language,
          ending,
          answerOf,
          // Which of our words follow depends on the routes that are live, which nobody asks here.
          { downloadAt: address, isAsked: false },
        );
  return {
    printed: printPlacedWith(document, address, language, inside),
    mistakes: issues.length,
    next: ending.next === '' ? '' : filledIn(ending.next, answerOf),
  };
}
