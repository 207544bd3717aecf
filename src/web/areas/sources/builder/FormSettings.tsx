import { useState } from 'react';
import type { SourceView } from '../../../../contract/source.ts';
import { faceOf, type FormItem } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { AfterSettings } from './AfterSettings.tsx';
import { askableBefore } from './askable.ts';
import { BlockSettings } from './BlockSettings.tsx';
import { changeBlock, changeQuestion, changeShownIf, pagesBehind } from './formEdits.ts';
import { GuardSettings } from './GuardSettings.tsx';
import { LookSettings } from './LookSettings.tsx';
import { KnownSettings } from './KnownSettings.tsx';
import { PagesSettings } from './PagesSettings.tsx';
import { PlacementPart } from './PlacementPart.tsx';
import { QuestionSettings } from './QuestionSettings.tsx';
import type { SettingsProps } from './settingsProps.ts';
import { ShownIfPart } from './ShownIfPart.tsx';
import { ShowingSettings } from './ShowingSettings.tsx';
import { SkipsPart } from './SkipsPart.tsx';
import { useKnownFacts } from './useKnownFacts.ts';
import { VariantsSettings } from '../VariantsSettings.tsx';
import { WordsSettings } from './WordsSettings.tsx';

interface FormSettingsProps extends Omit<SettingsProps, 'known'> {
  source: SourceView;
  liveIds: string[];
  /** Which variant is worked on; '' for the form itself. */
  editing: string;
  whole: FormDocument;
  onWhole: (document: FormDocument) => void;
  onEdit: (id: string) => void;
  selected: string | null;
  onSelect: (id: string | null) => void;
}

/** How wide a form is shown at most, in CSS pixels; where it takes all the room, as most sites have it. */
const widthOf = ({ width }: FormDocument['look']): number => (width === 0 ? 800 : width);

const TABS = ['Form', 'Pages', 'After', 'Known', 'Variants', 'Look', 'Show it', 'Guards', 'Place it'] as const;
type Tab = (typeof TABS)[number];

/** What can be set: of what is chosen on the form, or else of the form as a whole. */
export function FormSettings(props: FormSettingsProps) {
  const { source, document, set, about, liveIds, editing, onEdit, whole, onWhole, selected, onSelect } = props;
  const [tab, setTab] = useState<Tab>('Form');
  const known = useKnownFacts();
  const index = document.fields.findIndex(({ id }) => id === selected);
  const field = document.fields[index];
  const at = document.items.findIndex(({ id }) => id === selected);
  const item: FormItem | undefined = document.items[at];
  const askable = askableBefore(document, selected, known);
  const shownIf = item && (
    <ShownIfPart
      when={item.shownIf}
      askable={askable}
      onChange={(when) => set(changeShownIf(document, item.id, when))}
    />
  );
  if (field)
    return (
      <QuestionSettings
        source={source}
        field={field}
        error={about(`/fields/${index}`)}
        onChange={(part) => {
          const { document: next, id } = changeQuestion(document, field.id, part, liveIds);
          set(next);
          if (id !== selected) onSelect(id);
        }}
        onClose={() => onSelect(null)}
      >
        {field.widget !== 'hidden' && shownIf}
      </QuestionSettings>
    );
  if (item && item.kind !== 'question')
    return (
      <BlockSettings
        item={item}
        shownWidth={widthOf(document.look)}
        error={about(`/items/${at}`)}
        onChange={(part) => set(changeBlock(document, item.id, part))}
        onClose={() => onSelect(null)}
      >
        {shownIf}
        {item.kind === 'page' && (
          <SkipsPart
            skips={item.skips}
            targets={pagesBehind(document, item.id)}
            askable={askable}
            error={about(`/items/${at}/skips`)}
            onChange={(skips) => set(changeBlock(document, item.id, { skips }))}
          />
        )}
      </BlockSettings>
    );
  const parts = { document, set, about, known };
  return (
    <div className="flex flex-col">
      <div
        role="tablist"
        aria-label="Settings of the form"
        className="flex flex-wrap border-b border-base-300 sticky top-0 bg-base-100 z-10"
      >
        {TABS.map((one) => (
          <button
            key={one}
            role="tab"
            aria-selected={one === tab}
            className={`px-2.5 py-2.5 border-b-2 cursor-pointer ${one === tab ? 'border-primary font-semibold' : 'border-transparent text-muted'}`}
            onClick={() => setTab(one)}
          >
            {one}
          </button>
        ))}
      </div>
      <div role="tabpanel" aria-label={tab} className="p-4">
        {tab === 'Form' && <WordsSettings {...parts} onSelect={onSelect} />}
        {tab === 'Pages' && <PagesSettings {...parts} source={source} onSelect={onSelect} />}
        {tab === 'After' && <AfterSettings {...parts} />}
        {tab === 'Known' && <KnownSettings {...parts} address={source.postUrl} />}
        {tab === 'Variants' && <VariantsSettings {...{ source, about, whole, onWhole, editing, onEdit, faceOf }} />}
        {tab === 'Look' && (
          <LookSettings
            look={document.look}
            theme={document.theme}
            onTheme={set}
            onChange={(look) => set({ look })}
            about={about}
          />
        )}
        {tab === 'Show it' && <ShowingSettings {...parts} />}
        {tab === 'Guards' && <GuardSettings {...parts} sourceId={source.id} />}
        {tab === 'Place it' && <PlacementPart source={source} />}
      </div>
    </div>
  );
}
