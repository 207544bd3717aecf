import { folded } from '../../core/identity/index.ts';
import { Picker } from './Picker.tsx';

/** More than so many are not offered at once: whoever looks for one types more of it. */
const MOST_SHOWN = 60;

interface ChooserProps {
  label: string;
  placeholder: string;
  items: { id: string; name: string; hint?: string }[];
  /** What is chosen; '' for nothing. */
  value: string;
  onChange: (id: string) => void;
  className?: string;
}

/** One of many that have a name, found by typing parts of it. */
export function Chooser({ label, placeholder, items, value, onChange, className = '' }: ChooserProps) {
  const picksFor = (typed: string) => {
    const words = folded(typed).split(' ').filter(Boolean);
    return items
      .filter(({ name, hint = '' }) => words.every((word) => folded(`${name} ${hint}`).includes(word)))
      .slice(0, MOST_SHOWN)
      .map(({ id, name, hint = '' }) => ({ id, name, hint }));
  };
  return (
    <Picker
      label={label}
      placeholder={placeholder}
      shown={items.find(({ id }) => id === value)?.name ?? ''}
      picksFor={picksFor}
      onPick={({ id }) => onChange(id)}
      className={className}
    />
  );
}
