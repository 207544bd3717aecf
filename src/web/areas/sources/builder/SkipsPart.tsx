import { Plus, X } from 'lucide-react';
import { THE_END, type FormPage, type Skip } from '../../../../core/forms/index.ts';
import { newTest } from '../../../parts/conditions/conditionEdits.ts';
import type { Askable } from '../../../parts/conditions/knowledge.ts';
import { WhenPart } from '../../../parts/conditions/WhenPart.tsx';
import { newPartId } from '../../../parts/newPartId.ts';
import { firstAsked } from './askable.ts';
import { whenIs } from './whenWords.ts';

const WORDS = whenIs('It leads elsewhere');

interface SkipsPartProps {
  skips: Skip[];
  /** The pages that it can lead to, with their names. */
  targets: { page: FormPage; name: string }[];
  askable: Askable;
  error: string | undefined;
  onChange: (skips: Skip[]) => void;
}

/** Where the page before a new one leads, instead of to that one. */
export function SkipsPart({ skips, targets, askable, error, onChange }: SkipsPartProps) {
  const set = (at: number, part: Partial<Skip>) =>
    onChange(skips.map((one, index) => (index === at ? { ...one, ...part } : one)));
  return (
    <div className="flex flex-col gap-3 border-t border-base-300 pt-3">
      <h4 className="font-semibold">Where the page before it leads</h4>
      {error && (
        <p role="alert" className="text-error font-semibold">
          {error}
        </p>
      )}
      {skips.length === 0 && <p className="text-muted text-sm">To this page.</p>}
      {skips.map((skip, at) => (
        <div key={skip.id} className="border border-base-300 rounded p-3 flex flex-col gap-2">
          <WhenPart
            when={skip.when}
            words={WORDS}
            fields={firstAsked(askable)}
            askable={askable}
            onChange={(when) => set(at, { when })}
          />
          <div className="flex gap-2 items-center">
            <select
              className="select select-sm grow"
              aria-label={`Where way ${at + 1} leads`}
              value={skip.to}
              onChange={({ target }) => set(at, { to: target.value })}
            >
              <option value={THE_END}>it is sent</option>
              {targets.map(({ page, name }) => (
                <option key={page.id} value={page.id}>
                  to {name}
                </option>
              ))}
            </select>
            <button
              className="btn btn-xs btn-ghost btn-square"
              aria-label={`Remove way ${at + 1}`}
              onClick={() => onChange(skips.filter((one) => one !== skip))}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </div>
        </div>
      ))}
      <button
        className="btn btn-sm self-start"
        onClick={() =>
          onChange([
            ...skips,
            {
              id: newPartId(),
              when: askable.all.length > 0 ? newTest(firstAsked(askable)) : null,
              to: targets.at(-1)?.page.id ?? THE_END,
            },
          ])
        }
      >
        <Plus size={14} aria-hidden="true" /> Another way
      </button>
    </div>
  );
}
