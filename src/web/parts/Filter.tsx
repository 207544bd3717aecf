import { Search } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useKeys } from './keys.ts';
import { withParam } from './searchParams.ts';

/** A filter box whose text is in the URL; `/` goes to it. @param slash whether it does: one of a page only */
export function Filter({ name = 'text', label, slash = true }: { name?: string; label: string; slash?: boolean }) {
  const [params, setParams] = useSearchParams();
  const inUrl = params.get(name) ?? '';
  const [text, setText] = useState(inUrl);
  const box = useRef<HTMLInputElement>(null);
  useKeys(slash ? { '/': () => box.current?.focus() } : {});
  useEffect(() => {
    if (text === inUrl) return;
    const timer = setTimeout(() => {
      setParams((before) => withParam(before, name, text), { replace: true });
    }, 250);
    return () => clearTimeout(timer);
  }, [text, inUrl, name, setParams]);
  return (
    <label className={`input input-sm w-full ${slash ? 'max-w-72' : 'max-w-34'}`}>
      <Search size={14} aria-hidden="true" />
      <input
        ref={box}
        type="search"
        value={text}
        onChange={(event) => setText(event.target.value)}
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
