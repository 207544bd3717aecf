import { Plus, X } from 'lucide-react';
import { useId } from 'react';
import type { Pair } from '../../../../core/mapping/index.ts';
import { pastedPairs } from './pastedPairs.ts';

interface PairsInputProps {
  label: string;
  pairs: readonly Pair[];
  answers: string[];
  choices: string[];
  onChange: (pairs: Pair[]) => void;
}

/** A table of what comes and what it becomes. Two columns that are pasted from a sheet fill it. */
export function PairsInput({ label, pairs, answers, choices, onChange }: PairsInputProps) {
  const listId = useId();
  const set = (index: number, pair: Pair) => onChange(pairs.map((one, at) => (at === index ? pair : one)));
  const missing = answers.filter((answer) => !pairs.some(([from]) => from.toLowerCase() === answer.toLowerCase()));
  return (
    <fieldset className="sm:col-span-2 flex flex-col gap-1">
      <legend className="font-semibold">{label}</legend>
      <datalist id={listId}>
        {choices.map((choice) => (
          <option key={choice} value={choice} />
        ))}
      </datalist>
      {pairs.map(([from, to], index) => (
        <div key={index} className="flex gap-1 items-center">
          <input
            className="input input-sm flex-1"
            aria-label={`What comes, row ${index + 1}`}
            value={from}
            onPaste={(event) => {
              const pasted = pastedPairs(event.clipboardData.getData('text/plain'));
              if (pasted.length === 0) return;
              event.preventDefault();
              onChange([
                ...pairs.slice(0, index),
                ...pasted,
                ...pairs.slice(index + (from === '' && to === '' ? 1 : 0)),
              ]);
            }}
            onChange={(event) => set(index, [event.target.value, to])}
          />
          <span className="text-muted">becomes</span>
          <input
            className="input input-sm flex-1"
            aria-label={`What it becomes, row ${index + 1}`}
            list={listId}
            value={to}
            onChange={(event) => set(index, [from, event.target.value])}
          />
          <button
            type="button"
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Remove row ${index + 1}`}
            onClick={() => onChange(pairs.filter((_, at) => at !== index))}
          >
            <X size={13} aria-hidden="true" />
          </button>
        </div>
      ))}
      <div className="flex gap-2 items-center flex-wrap">
        <button type="button" className="btn btn-xs" onClick={() => onChange([...pairs, ['', '']])}>
          <Plus size={13} aria-hidden="true" /> Row
        </button>
        {missing.length > 0 && (
          <button
            type="button"
            className="btn btn-xs"
            onClick={() =>
              onChange([...pairs.filter(([from]) => from !== ''), ...missing.map((answer): Pair => [answer, ''])])
            }
          >
            The {missing.length} answers of the field
          </button>
        )}
        <span className="text-muted text-sm">Two columns of a sheet can be pasted into a row.</span>
      </div>
    </fieldset>
  );
}
