interface TickBoxProps {
  label: string;
  /** What ticking it means. */
  help?: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** A box to tick, with its words beside it. */
export function TickBox({ label, help, checked, onChange }: TickBoxProps) {
  return (
    <label className={`flex gap-2 ${help === undefined ? 'items-center' : 'items-start'}`}>
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={checked}
        onChange={({ target }) => onChange(target.checked)}
      />
      {help === undefined ? (
        label
      ) : (
        <span>
          {label}
          <span className="block text-muted text-sm">{help}</span>
        </span>
      )}
    </label>
  );
}
