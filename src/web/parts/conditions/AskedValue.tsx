import { useId } from 'react';
import type { Asked } from '../../../core/conditions/index.ts';
import { answersOf, type SourceField } from '../../../core/values/index.ts';

interface AskedValueProps {
  label: string;
  asks: Asked;
  field: SourceField | undefined;
  value: string;
  onChange: (value: string) => void;
}

const PLACEHOLDERS: Partial<Record<Asked, string>> = {
  several: 'one, another, …',
  pattern: 'such as *@*.example',
};

/** What a value is compared with, entered as the field's type has it: an answer, a date, a number of days, a pattern. */
export function AskedValue({ label, asks, field, value, onChange }: AskedValueProps) {
  const listId = useId();
  if (asks === 'nothing') return null;
  const answers = field ? answersOf(field) : [];
  if (field?.type === 'yes/no')
    return (
      <select
        className="select select-sm w-24"
        aria-label={label}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {value !== 'yes' && value !== 'no' && <option value={value}>{value || 'choose'}</option>}
        <option>yes</option>
        <option>no</option>
      </select>
    );
  if (asks === 'days')
    return (
      <label className="flex items-center gap-2">
        <input
          type="number"
          min={0}
          max={3650}
          className="input input-sm w-20"
          aria-label={label}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
        days
      </label>
    );
  const type = field?.type === 'date' && asks === 'value' ? 'date' : field?.type === 'time' ? 'time' : 'text';
  return (
    <>
      <input
        type={type}
        className="input input-sm w-48"
        aria-label={label}
        list={listId}
        placeholder={PLACEHOLDERS[asks]}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      <datalist id={listId}>
        {answers.map((answer) => (
          <option key={answer} value={answer} />
        ))}
      </datalist>
    </>
  );
}
