interface TickBoxProps {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** A box to tick, with its words beside it. */
export function TickBox({ label, checked, onChange }: TickBoxProps) {
  return (
    <label className="flex gap-2 items-center">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={checked}
        onChange={({ target }) => onChange(target.checked)}
      />
      {label}
    </label>
  );
}
