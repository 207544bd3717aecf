import { Chooser } from './Chooser.tsx';
import { parseAsString, useQueryState } from 'nuqs';

/** More are found by typing. */
const MOST_LISTED = 20;

interface FilterSelectProps {
  /** Of the parameter in the URL. */
  name: string;
  label: string;
  /** What stands there when nothing is chosen. */
  every: string;
  options: readonly { value: string; text: string }[];
}

/** A filter among choices, which is in the URL. */
export function FilterSelect({ name, label, every, options }: FilterSelectProps) {
  const [value, setValue] = useQueryState(
    name,
    parseAsString.withDefault('').withOptions({ shallow: false, history: 'push' }),
  );
  if (options.length > MOST_LISTED)
    return (
      <Chooser
        label={label}
        placeholder={every}
        items={[{ id: '', name: every }, ...options.map((one) => ({ id: one.value, name: one.text }))]}
        value={value}
        onChange={(id) => void setValue(id || null)}
        className="w-40"
      />
    );
  return (
    <select
      className="select select-sm w-32"
      aria-label={label}
      value={value}
      onChange={(event) => void setValue(event.target.value || null)}
    >
      <option value="">{every}</option>
      {options.map(({ value, text }) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
}

/** Choices that are their own words. */
export const inWords = (words: readonly string[]) => words.map((word) => ({ value: word, text: word }));
/** Choices among things that have a name. */
export const byName = (things: readonly { id: string; name: string }[] = []) =>
  things.map(({ id, name }) => ({ value: id, text: name }));
