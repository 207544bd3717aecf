import { Labelled } from './Labelled.tsx';

interface FigureInputProps {
  label: string;
  value: number;
  least?: number;
  most?: number;
  onChange: (value: number) => void;
}

/** A whole number, with its label above. */
export function FigureInput({ label, value, least = 0, most, onChange }: FigureInputProps) {
  return (
    <Labelled label={label}>
      <input
        type="number"
        className="input input-sm w-full"
        min={least}
        max={most}
        value={value}
        onChange={({ target }) => onChange(Math.round(target.valueAsNumber) || 0)}
      />
    </Labelled>
  );
}
