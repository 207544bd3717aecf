import { Chooser } from './Chooser.tsx';
import { parseAsString, useQueryState } from 'nuqs';

/** Words are read over quickly. */
const MOST_WORDS = 24;

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
  return (
    <Chooser
      label={label}
      placeholder={every}
      items={options.map(({ value: id, text }) => ({ id, name: text }))}
      value={value}
      onChange={(id) => void setValue(id || null)}
      most={MOST_WORDS}
      className="w-32"
    />
  );
}

/** Choices that are their own words. */
export const inWords = (words: readonly string[]) => words.map((word) => ({ value: word, text: word }));
/** Choices among things that have a name. */
export const byName = (things: readonly { id: string; name: string }[] = []) =>
  things.map(({ id, name }) => ({ value: id, text: name }));
