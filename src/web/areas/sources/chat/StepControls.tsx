import { Plus, Trash2 } from 'lucide-react';
import type { ChatPart } from '../../../../core/chat/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';

/** A list with another item at a place. */
export const replacedAt = <One,>(list: One[], at: number, next: One): One[] =>
  list.map((one, other) => (other === at ? next : one));

interface OnwardProps {
  parts: ChatPart[];
  value: string;
  onChange: (to: string) => void;
}

export function OnwardSelect({ parts, value, onChange, ...more }: OnwardProps & { id?: string; className?: string }) {
  return (
    <select
      {...more}
      className={`select ${more.className ?? 'w-full'}`}
      value={value}
      onChange={({ target }) => onChange(target.value)}
    >
      <option value="">the next step</option>
      {parts.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

export const Onward = ({ label, ...props }: OnwardProps & { label: string }) => (
  <label className="contents">
    <span className="sr-only">{label}</span>
    <OnwardSelect {...props} className="select-sm w-36" />
  </label>
);

export function FieldSelect({
  fields,
  value,
  onChange,
  ...more
}: {
  fields: SourceField[];
  value: string;
  onChange: (id: string) => void;
  id?: string;
}) {
  return (
    <select {...more} className="select w-full" value={value} onChange={({ target }) => onChange(target.value)}>
      {fields.map(({ id, label }) => (
        <option key={id} value={id}>
          {label}
        </option>
      ))}
    </select>
  );
}

export const AddButton = ({ label, onPress }: { label: string; onPress: () => void }) => (
  <button type="button" className="btn btn-sm self-start" onClick={onPress}>
    <Plus size={15} aria-hidden="true" /> {label}
  </button>
);

export const RemoveButton = ({ label, onPress }: { label: string; onPress: () => void }) => (
  <button type="button" className="btn btn-sm btn-ghost btn-square" aria-label={label} onClick={onPress}>
    <Trash2 size={15} aria-hidden="true" />
  </button>
);
