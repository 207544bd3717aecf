import { ArrowUp, X } from 'lucide-react';
import { factFields } from '../../../../core/intake/index.ts';
import { printValue, type FieldValues, type SourceField } from '../../../../core/values/index.ts';

interface FirstOfProps {
  chosen: string[];
  fields: SourceField[];
  values: FieldValues;
  onChange: (chosen: string[]) => void;
}

/** Several fields in an order: the first that is filled is taken. */
export function FirstOf({ chosen, fields, values, onChange }: FirstOfProps) {
  const known = factFields(fields);
  const nameOf = (id: string) => known.find((field) => field.id === id)?.label ?? id;
  return (
    <div className="flex flex-col gap-1">
      <h5 className="font-semibold">The first one that is filled in</h5>
      <ol className="flex flex-col gap-1">
        {chosen.map((id, index) => (
          <li key={id} className="flex gap-2 items-center">
            <span className="w-4 text-muted">{index + 1}</span>
            <span>{nameOf(id)}</span>
            <span className="text-muted text-sm truncate">{printValue(values[id])}</span>
            <span className="flex-1" />
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Ask ${nameOf(id)} earlier`}
              disabled={index === 0}
              onClick={() => onChange(earlier(chosen, index))}
            >
              <ArrowUp size={13} aria-hidden="true" />
            </button>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Take ${nameOf(id)} away`}
              onClick={() => onChange(chosen.filter((one) => one !== id))}
            >
              <X size={13} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ol>
      <select
        className="select select-sm w-60"
        aria-label="Add another field"
        value=""
        onChange={(event) => onChange([...chosen, event.target.value])}
      >
        <option value="">add a field</option>
        {known
          .filter(({ id }) => !chosen.includes(id))
          .map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
      </select>
    </div>
  );
}

const earlier = (all: string[], index: number): string[] =>
  all.map((one, at) => (at === index - 1 ? (all[index] ?? one) : at === index ? (all[index - 1] ?? one) : one));
