import { Search } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useKeys } from './keys.ts';
import { withParam } from './searchParams.ts';

/** A filter box whose text is in the URL; `/` goes to it. */
export function Filter({ name = 'text', label }: { name?: string; label: string }) {
  const [params, setParams] = useSearchParams();
  const inUrl = params.get(name) ?? '';
  const [text, setText] = useState(inUrl);
  const box = useRef<HTMLInputElement>(null);
  useKeys({ '/': () => box.current?.focus() });
  useEffect(() => {
    if (text === inUrl) return;
    const timer = setTimeout(() => {
      setParams((before) => withParam(before, name, text), { replace: true });
    }, 250);
    return () => clearTimeout(timer);
  }, [text, inUrl, name, setParams]);
  return (
    <label className="input input-sm w-full max-w-xs">
      <Search size={14} aria-hidden="true" />
      <input
        ref={box}
        type="search"
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={label}
        aria-label={label}
      />
      <kbd className="kbd kbd-xs" aria-hidden="true">
        /
      </kbd>
    </label>
  );
}
