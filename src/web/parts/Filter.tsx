import { Search } from 'lucide-react';
import { debounce, parseAsString, useQueryState } from 'nuqs';
import { useRef } from 'react';
import { useKeys } from './keys.ts';

/** What is typed reaches the URL, and with it the server, after a pause in typing. */
const REST_MS = 250;

/** A filter box whose text is in the URL; `/` goes to it. @param slash whether it does: one of a page only */
export function Filter({ name = 'text', label, slash = true }: { name?: string; label: string; slash?: boolean }) {
  const [text, setText] = useQueryState(
    name,
    parseAsString.withDefault('').withOptions({ shallow: false, limitUrlUpdates: debounce(REST_MS) }),
  );
  const box = useRef<HTMLInputElement>(null);
  useKeys(slash ? { '/': () => box.current?.focus() } : {});
  return (
    <label className={`input input-sm w-full ${slash ? 'max-w-56' : 'max-w-30'}`}>
      <Search size={14} aria-hidden="true" />
      <input
        ref={box}
        type="search"
        value={text}
        onChange={(event) => void setText(event.target.value || null)}
        placeholder={label}
        aria-label={label}
      />
      {slash && (
        <kbd className="kbd kbd-xs" aria-hidden="true">
          /
        </kbd>
      )}
    </label>
  );
}
