import { X } from 'lucide-react';
import type { ReactNode } from 'react';

/** Of which figure a list is, with a way back to all. */
export function Narrowed({ children, onClear }: { children: ReactNode; onClear: () => void }) {
  return (
    <p className="flex items-center gap-3 px-4 py-2 bg-base-200 border-b border-base-300">
      <span>{children}</span>
      <button className="btn btn-xs" onClick={onClear}>
        <X size={13} aria-hidden="true" /> Show others too
      </button>
    </p>
  );
}
