import type { DestinationField, DestinationFieldType } from '../../core/mapping/index.ts';
import { Field } from './Field.tsx';

interface DestinationInputProps {
  field: Pick<DestinationField, 'type' | 'choices' | 'maxLength'>;
  label: string;
  value: string;
  onChange: (value: string) => void;
}

const INPUT_TYPES: Partial<Record<DestinationFieldType, string>> = {
  number: 'number',
  date: 'date',
  email: 'email',
  phone: 'tel',
};

/** A box for a value as a field of another system takes it: a date, a number, one of its choices, a text. */
export function DestinationInput({
  field: { type, choices, maxLength },
  label,
  value,
  onChange,
}: DestinationInputProps) {
  const options = type === 'yes/no' ? ['yes', 'no'] : choices;
  if (options.length > 0)
    return (
      <ChoiceInput
        label={label}
        items={options.map((one) => ({ id: one, name: one }))}
        value={value}
        onChange={onChange}
      />
    );
  return (
    <Field label={label}>
      <input
        className="input w-full"
        type={INPUT_TYPES[type] ?? 'text'}
        maxLength={maxLength ?? undefined}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Field>
  );
}

interface ChoiceInputProps {
  label: string;
  items: { id: string; name: string }[];
  value: string;
  onChange: (id: string) => void;
}

/** One of several, or none. */
export function ChoiceInput({ label, items, value, onChange }: ChoiceInputProps) {
  return (
    <Field label={label}>
      <select className="select w-full" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="">none</option>
        {items.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </Field>
  );
}
