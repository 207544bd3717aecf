import { useState } from 'react';
import type { SourceView } from '../../../../contract/source.ts';
import { chatFaceOf, UNFINISHED, type Unfinished } from '../../../../core/chat/index.ts';
import { FORM_LANGUAGES } from '../../../../core/forms/index.ts';
import type { ChatDocument } from '../../../../core/intake/index.ts';
import { scriptLine } from '../../../../core/showing/index.ts';
import { CopyButton } from '../../../parts/CopyButton.tsx';
import { Field } from '../../../parts/Field.tsx';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import { DeviceBoxes } from '../DeviceBoxes.tsx';
import { RememberedChoice, useRemembered } from '../RememberedChoice.tsx';
import { Triggers } from '../Triggers.tsx';
import { VariantsSettings } from '../VariantsSettings.tsx';
import { useKnownFacts } from '../builder/useKnownFacts.ts';
import { StepSettings } from './StepSettings.tsx';
import { TryChat } from './TryChat.tsx';

interface ChatPanelProps {
  source: SourceView;
  document: ChatDocument;
  set: (part: Partial<ChatDocument>) => void;
  about: (pointer: string) => string | undefined;
  selected: string | null;
  /** The chat itself, whichever variant is worked on. */
  whole: ChatDocument;
  onWhole: (document: ChatDocument) => void;
  /** Which variant is worked on; '' for the chat itself. */
  editing: string;
  onEdit: (id: string) => void;
}

const TABS = ['Step', 'Try it', 'Chat', 'Variants', 'Place it'] as const;

/** What belongs to a chat beside its ways: the step that is chosen, a try, and how it comes before visitors. */
export function ChatPanel({ source, document, set, about, selected, ...compared }: ChatPanelProps) {
  const [chosen, setTab] = useState<(typeof TABS)[number]>('Step');
  const known = useKnownFacts();
  const step = document.parts.flatMap(({ steps }) => steps).find(({ id }) => id === selected);
  return (
    <div className="flex flex-col">
      <div role="tablist" aria-label="Settings of the chat" className="flex flex-wrap border-b border-base-300">
        {TABS.map((one) => (
          <button
            key={one}
            role="tab"
            aria-selected={one === chosen}
            className={`px-2.5 py-2.5 border-b-2 cursor-pointer ${one === chosen ? 'border-primary font-semibold' : 'border-transparent text-muted'}`}
            onClick={() => setTab(one)}
          >
            {one}
          </button>
        ))}
      </div>
      <div role="tabpanel" aria-label={chosen} className="p-4">
        {chosen === 'Step' &&
          (step ? (
            <StepSettings key={step.id} document={document} step={step} known={known} set={set} />
          ) : (
            <p className="text-muted">Choose a step in the drawing, or add one.</p>
          ))}
        {chosen === 'Try it' && <TryChat source={source} document={document} known={known} />}
        {chosen === 'Chat' && <Words document={document} set={set} about={about} />}
        {chosen === 'Variants' && <VariantsSettings {...{ source, about, ...compared }} faceOf={chatFaceOf} />}
        {chosen === 'Place it' && <Placing document={document} set={set} about={about} />}
      </div>
    </div>
  );
}

const UNFINISHED_WORDS: Record<Unfinished, string> = {
  keep: 'it is kept to be looked at, and nothing follows on it',
  contact: 'who it was is known, and nothing goes anywhere',
  send: 'it counts as if it had ended',
};

type PartProps = Pick<ChatPanelProps, 'document' | 'set' | 'about'>;

function Words({ document, set, about }: PartProps) {
  return (
    <div className="flex flex-col gap-4">
      <Field label="On the button" error={about('/launcher')}>
        <input
          className="input w-full"
          value={document.launcher}
          onChange={({ target }) => set({ launcher: target.value })}
        />
      </Field>
      <Field label="Title of the window" error={about('/title')}>
        <input
          className="input w-full"
          value={document.title}
          onChange={({ target }) => set({ title: target.value })}
        />
      </Field>
      <Field label="Language of our own words" help="Such as “Once more, please?”; yes and no are understood in it.">
        <select
          className="select w-full"
          value={document.language}
          onChange={({ target }) => set({ language: target.value as ChatDocument['language'] })}
        >
          <option value="visitor">as the visitor’s browser asks for it</option>
          {FORM_LANGUAGES.map((language) => (
            <option key={language}>{language}</option>
          ))}
        </select>
      </Field>
      <Field label="If it breaks off" help="Each answer is kept as it comes, so what was said is there in any case.">
        <select
          className="select w-full"
          value={document.unfinished}
          onChange={({ target }) => set({ unfinished: target.value as Unfinished })}
        >
          {UNFINISHED.map((one) => (
            <option key={one} value={one}>
              {UNFINISHED_WORDS[one]}
            </option>
          ))}
        </select>
      </Field>
      <FigureInput
        label="Minutes without a word, after which it has"
        value={document.breaksOffMinutes}
        least={1}
        most={1440}
        onChange={(breaksOffMinutes) => set({ breaksOffMinutes })}
      />
      <fieldset className="flex flex-wrap gap-4">
        <legend className="font-semibold">Colours</legend>
        {(['action', 'onAction', 'ground', 'ink'] as const).map((name) => (
          <label key={name} className="flex items-center gap-2">
            <input
              type="color"
              value={document.look.colours[name]}
              onChange={({ target }) =>
                set({ look: { ...document.look, colours: { ...document.look.colours, [name]: target.value } } })
              }
            />
            {COLOUR_WORDS[name]}
          </label>
        ))}
      </fieldset>
    </div>
  );
}

const COLOUR_WORDS = { action: 'buttons', onAction: 'words on them', ground: 'ground', ink: 'text' };

function Placing({ document, set, about }: PartProps) {
  const [remembered] = useRemembered();
  const code = scriptLine(location.origin, remembered === 'everybody');
  const { showing } = document;
  return (
    <div className="flex flex-col gap-4">
      <div>
        <p className="mb-2">
          This line in the head of every page, once for all forms and chats of a site. The button is there as soon as
          the chat is live.
        </p>
        <pre className="box p-2 overflow-x-auto text-sm mb-2">{code}</pre>
        <CopyButton text={code} label="Copy the line" />
      </div>
      <RememberedChoice />
      <Field label="Only on these pages" help="A pattern in each line, such as /evenings/*; empty: on all.">
        <LinesInput rows={3} lines={showing.pages} onChange={(pages) => set({ showing: { ...showing, pages } })} />
      </Field>
      <Field label="Not on these pages">
        <LinesInput
          rows={2}
          lines={showing.notPages}
          onChange={(notPages) => set({ showing: { ...showing, notPages } })}
        />
      </Field>
      <Triggers
        legend="What opens it by itself"
        triggers={showing.triggers}
        onChange={(triggers) => set({ showing: { ...showing, triggers } })}
        error={about('/showing/triggers')}
      />
      {showing.triggers.length === 0 ? (
        <p className="text-muted text-sm">Nothing: it opens where a visitor presses its button.</p>
      ) : (
        <>
          <DeviceBoxes
            legend="By itself on"
            devices={showing.devices}
            onChange={(devices) => set({ showing: { ...showing, devices } })}
          />
          <p className="text-muted text-sm">
            It never moves the cursor away from the page, and stays closed for visitors who closed it or finished the
            conversation.
          </p>
        </>
      )}
      <div>
        <FigureInput
          label="Priority, 0 to 100"
          value={showing.priority}
          most={100}
          onChange={(priority) => set({ showing: { ...showing, priority } })}
        />
        <p className="text-muted text-sm">A page shows one chat: of several, the one with the highest priority.</p>
      </div>
      <Field
        label="Only on these sites"
        help="A site in each line, such as https://example.org; empty: on any."
        error={about('/origins')}
      >
        <LinesInput rows={2} lines={document.origins} onChange={(origins) => set({ origins })} />
      </Field>
    </div>
  );
}
