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
  options: readonly { id: string; name: string }[] | undefined;
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
      items={options ?? []}
      value={value}
      onChange={(id) => void setValue(id || null)}
      most={MOST_WORDS}
      className="w-32"
    />
  );
}

/** Choices that are their own words. */
export const inWords = (words: readonly string[]) => words.map((word) => ({ id: word, name: word }));
