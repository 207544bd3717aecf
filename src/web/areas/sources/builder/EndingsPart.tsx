import { Plus, X } from 'lucide-react';
import type { EndingIf } from '../../../../core/forms/index.ts';
import { saying } from '../../../../core/forms/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { newTest } from '../../../parts/conditions/conditionEdits.ts';
import type { Askable } from '../../../parts/conditions/knowledge.ts';
import { WhenPart, type WhenWords } from '../../../parts/conditions/WhenPart.tsx';
import { newPartId } from '../../../parts/newPartId.ts';
import { EndingFields } from './EndingFields.tsx';
import { firstAsked } from './askable.ts';

interface EndingsPartProps {
  endings: EndingIf[];
  /** What each is called, such as "Ending". */
  word: string;
  words: WhenWords;
  askable: Askable;
  fields: SourceField[];
  /** Whether something can be handed out there. */
  handsOut?: boolean;
  about: (pointer: string) => string | undefined;
  onChange: (endings: EndingIf[]) => void;
}

/** What comes for those of whom something is true: the first that holds counts. */
export function EndingsPart({
  endings,
  word,
  words,
  askable,
  fields,
  handsOut = false,
  about,
  onChange,
}: EndingsPartProps) {
  const set = (at: number, part: Partial<EndingIf>) =>
    onChange(endings.map((one, index) => (index === at ? { ...one, ...part } : one)));
  return (
    <>
      {endings.map((ending, at) => (
        <section
          key={ending.id}
          aria-label={`${word} ${at + 1}`}
          className="border border-base-300 rounded p-3 flex flex-col gap-3"
        >
          <div className="flex items-center">
            <h4 className="font-semibold">
              {word} {at + 1}
            </h4>
            <button
              className="btn btn-xs btn-ghost btn-square ml-auto"
              aria-label={`Remove ${word.toLowerCase()} ${at + 1}`}
              onClick={() => onChange(endings.filter((one) => one !== ending))}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </div>
          <WhenPart
            when={ending.when}
            words={words}
            fields={firstAsked(askable)}
            askable={askable}
            onChange={(when) => {
              if (when) set(at, { when });
            }}
          />
          {about(`/${at}/when`) && (
            <p role="alert" className="text-error font-semibold">
              {about(`/${at}/when`)}
            </p>
          )}
          <EndingFields
            ending={ending}
            fields={fields}
            handsOut={handsOut}
            about={(part) => about(`/${at}${part}`)}
            onChange={(part) => set(at, part)}
          />
        </section>
      ))}
      <button
        className="btn btn-sm self-start"
        disabled={askable.all.length === 0}
        onClick={() => onChange([...endings, { id: newPartId(), when: newTest(firstAsked(askable)), ...saying('') }])}
      >
        <Plus size={14} aria-hidden="true" /> {word} for some
      </button>
    </>
  );
}
