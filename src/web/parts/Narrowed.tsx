import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { useSearchParams } from 'react-router';

/** Of which figure a list is, with a way back to all. @param by the parameters of the URL that say so */
export function Narrowed({ by, children }: { by: string[]; children: ReactNode }) {
  const [, setParams] = useSearchParams();
  const clear = () => setParams((before) => new URLSearchParams([...before].filter(([name]) => !by.includes(name))));
  return (
    <p className="flex items-center gap-3 px-4 py-2 bg-base-200 border-b border-base-300">
      <span>{children}</span>
      <button className="btn btn-xs" onClick={clear}>
        <X size={13} aria-hidden="true" /> Show others too
      </button>
    </p>
  );
}
