import { useMemo, useState } from 'react';
import { FORM_LANGUAGES, forVisitor, shownItems, type FormLanguage } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { AddMenu } from './AddMenu.tsx';
import { textAt, withText } from './editableText.ts';
import { addBlock, addQuestion, moveItem, removeItem, type Edited } from './formEdits.ts';
import { OnPage } from './OnPage.tsx';
import { previewStates, printState, showsForm, type PreviewState } from './previewStates.ts';
import { PREVIEW_WIDTHS, Surface, type PreviewWidth } from './Surface.tsx';

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
  const [onPage, setOnPage] = useState(false);
  const language = document.language === 'visitor' ? asked : document.language;
  const printed = useMemo(
    // It is tried as by somebody of whom nothing is known.
    () => printState(trying ? forVisitor(document, {}) : document, address, language, state),
    [document, trying, address, language, state],
  );
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
          onChange={(event) => setState(event.target.value as PreviewState)}
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
        <button className="btn btn-sm" aria-pressed={trying} onClick={() => setTrying(!trying)}>
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
        />
      )}
      <p className="px-4 py-1 text-quiet text-sm">
        {onPage
          ? 'The form as it would come on that page; it is worked on by itself.'
          : trying
            ? 'Type into it as a visitor would; nothing is sent from here.'
            : 'Click a text to write it, drag what stands on the form, or choose something to see its settings.'}
      </p>
    </section>
  );
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
