import { useMemo, useState } from 'react';
import { FORM_LANGUAGES, forVisitor, shownItems, type FormLanguage } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { AddMenu } from './AddMenu.tsx';
import { textAt, withText } from './editableText.ts';
import { addBlock, addQuestion, moveItem, removeItem, type Edited } from './formEdits.ts';
import { OnPage } from './OnPage.tsx';
import { previewStates, printState, showsForm, type PreviewState } from './previewStates.ts';
import { PREVIEW_WIDTHS, Surface, type PreviewWidth } from './Surface.tsx';
import { enteredIn, tryForm, type Pressed, type Tried } from './trying.ts';

interface FormBuilderProps {
  sourceId: string;
  document: FormDocument;
  /** The name of the variant of it that is worked on; '' for the form itself. */
  variant: string;
  /** Ids of the fields that are live. */
  liveIds: string[];
  /** Its public address. */
  address: string;
  selected: string | null;
  onSelect: (id: string | null) => void;
  onChange: (document: FormDocument) => void;
}

/** Builds a form on what visitors see of it: its texts are written where they stand, and what stands on it is moved there. */
export function FormBuilder({
  sourceId,
  document,
  variant,
  liveIds,
  address,
  selected,
  onSelect,
  onChange,
}: FormBuilderProps) {
  const [width, setWidth] = useState<PreviewWidth>('desktop');
  const [state, setState] = useState<PreviewState>('empty');
  const [asked, setAsked] = useState<FormLanguage>('en');
  const [trying, setTrying] = useState(false);
  /** What was entered when its button was pressed; 'later' for the one by which it is left for later. */
  const [pressed, setPressed] = useState<Pressed | 'later' | null>(null);
  const [onPage, setOnPage] = useState(false);
  const language = document.language === 'visitor' ? asked : document.language;
  // It is tried as by somebody of whom nothing is known.
  const shown = useMemo(() => (trying ? forVisitor(document, {}) : document), [document, trying]);
  const tried = useMemo(
    () =>
      trying && pressed !== null && pressed !== 'later' && showsForm(state)
        ? tryForm(shown, address, language, pressed)
        : null,
    [trying, pressed, state, shown, address, language],
  );
  const met = useMemo(() => printState(shown, address, language, state), [shown, address, language, state]);
  const printed = tried?.printed ?? met;
  const tryAnew = (on: boolean) => {
    setTrying(on);
    setPressed(null);
  };
  const names = Object.fromEntries(
    shownItems(document).map((item) => [item.id, item.kind === 'question' ? item.field.label : wordsOf(item)]),
  );
  const take = ({ document: next, id }: Edited) => {
    onChange(next);
    onSelect(id);
  };
  return (
    <section aria-labelledby="surface">
      <h3 id="surface" className="sr-only">
        The form
      </h3>
      <div className="flex flex-wrap items-center gap-2 px-4 py-2 border-b border-base-300">
        <AddMenu
          onQuestion={(type, more) => take(addQuestion(document, type, selected, more))}
          onBlock={(kind) => take(addBlock(document, kind, selected))}
        />
        {variant !== '' && <strong className="font-semibold text-primary">Variant {variant}</strong>}
        <span className="ml-auto" />
        <select
          className="select select-sm w-auto"
          aria-label="State that is shown"
          value={state}
          onChange={(event) => {
            setState(event.target.value as PreviewState);
            setPressed(null);
          }}
        >
          {previewStates(document).map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </select>
        <select
          className="select select-sm w-auto"
          aria-label="Width of the screen"
          value={width}
          onChange={(event) => setWidth(event.target.value as PreviewWidth)}
        >
          {Object.keys(PREVIEW_WIDTHS).map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        {document.language === 'visitor' && (
          <select
            className="select select-sm w-auto"
            aria-label="Language of the visitor"
            value={asked}
            onChange={(event) => setAsked(event.target.value as FormLanguage)}
          >
            {FORM_LANGUAGES.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        )}
        <button className="btn btn-sm" aria-pressed={onPage} onClick={() => setOnPage(!onPage)}>
          {onPage ? 'By itself' : 'On a page'}
        </button>
        <button className="btn btn-sm" aria-pressed={trying} onClick={() => tryAnew(!trying)}>
          {trying ? 'Work on it' : 'Try it'}
        </button>
      </div>
      {onPage ? (
        <OnPage sourceId={sourceId} address={address} printed={printed} document={document} width={width} />
      ) : (
        <Surface
          printed={printed}
          width={width}
          names={names}
          selected={selected}
          trying={trying || !showsForm(state)}
          onSelect={onSelect}
          textAt={(place) => textAt(document, place)}
          onText={(place, text) => {
            if (text !== textAt(document, place)) onChange(withText(document, place, text, liveIds));
          }}
          onMove={(id, to) => onChange(moveItem(document, id, to))}
          onRemove={(id) => {
            onChange(removeItem(document, id));
            onSelect(null);
          }}
          onPress={(form, button) => {
            if (trying) setPressed(enteredIn(form, button) ?? 'later');
          }}
        />
      )}
      <p className="px-4 py-1 text-muted text-sm" role="status">
        {onPage
          ? 'The form as it would come on that page; it is worked on by itself.'
          : trying
            ? saidOf(tried, pressed)
            : 'Click a text to write it, drag what stands on the form, or choose something to see its settings.'}{' '}
        {trying && !onPage && tried?.mistakes === 0 && (
          <button className="link" onClick={() => tryAnew(true)}>
            Fill it in once more
          </button>
        )}
      </p>
    </section>
  );
}

/** What came of trying it. */
function saidOf(tried: Tried | null, pressed: Pressed | 'later' | null): string {
  if (pressed === 'later') return 'Visitors would get a link here, by which they go on later; none is made for a try.';
  if (tried === null) return 'Type into it as a visitor would, and press its button; nothing is sent from here.';
  if (tried.mistakes > 0) return 'It would not be taken: what is wrong stands beside it. Nothing was sent.';
  return tried.next === ''
    ? 'It would be taken, and this is read then; where the words are ours, as if no mail follows. Nothing was sent.'
    : `It would be taken, and the visitor goes on to ${tried.next}. Nothing was sent.`;
}

function wordsOf(item: Exclude<ReturnType<typeof shownItems>[number], { kind: 'question' }>): string {
  switch (item.kind) {
    case 'heading':
    case 'text':
      return item.text.slice(0, 60);
    case 'picture':
      return item.alt || 'the picture';
    case 'page':
      return item.title || 'the new page';
    case 'divider':
      return 'the line';
    default:
      return item satisfies never;
  }
}
