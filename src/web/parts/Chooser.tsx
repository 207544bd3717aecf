import { folded } from '../../core/identity/index.ts';
import { Picker } from './Picker.tsx';

const MOST_LISTED = 10;
/** More than so many are not offered at once: whoever looks for one types more of it. */
const MOST_SHOWN = 60;

interface ChooserProps {
  label: string;
  placeholder: string;
  items: readonly { id: string; name: string; hint?: string }[];
  /** What is chosen; '' for nothing. */
  value: string;
  onChange: (id: string) => void;
  /** So many are listed; more are found by typing. */
  most?: number;
  className?: string;
}

/** One of some that have a name: few are listed; of many it is found by typing parts of it. */
export function Chooser({
  label,
  placeholder,
  items,
  value,
  onChange,
  most = MOST_LISTED,
  className = '',
}: ChooserProps) {
  if (items.length <= most)
    return (
      <select
        className={`select select-sm ${className}`}
        aria-label={label}
        value={value}
        onChange={({ target }) => onChange(target.value)}
      >
        <option value="">{placeholder}</option>
        {items.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    );
  const picksFor = (typed: string) => {
    const words = folded(typed).split(' ').filter(Boolean);
    const none = value === '' || typed !== '' ? [] : [{ id: '', name: placeholder, hint: '' }];
    const found = items
      .filter(({ name, hint = '' }) => words.every((word) => folded(`${name} ${hint}`).includes(word)))
      .slice(0, MOST_SHOWN)
      .map(({ id, name, hint = '' }) => ({ id, name, hint }));
    return [...none, ...found];
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
