import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';

const MOST_SHOWN = 100;

/** What came, as a tree that is opened and closed. */
export function PayloadTree({ json }: { json: unknown }) {
  return (
    <div
      className="font-mono text-xs bg-base-200 rounded p-2 overflow-auto max-h-96"
      tabIndex={0}
      role="region"
      aria-label="Body"
    >
      <Node name="" value={json} depth={0} />
    </div>
  );
}

function Node({ name, value, depth }: { name: string; value: unknown; depth: number }) {
  const [open, setOpen] = useState(depth < 3);
  const entries = typeof value === 'object' && value !== null ? Object.entries(value as Record<string, unknown>) : null;
  const label = name === '' ? null : <span className="font-semibold">{name}</span>;
  if (entries === null)
    return (
      <div className="pl-5 break-words">
        {label} <span className="text-muted">{typeof value === 'string' ? value : JSON.stringify(value)}</span>
      </div>
    );
  const what = Array.isArray(value) ? `${entries.length} in a list` : `${entries.length} inside`;
  return (
    <div>
      <button
        type="button"
        className="flex items-center gap-1 hover:underline"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? <ChevronDown size={14} aria-hidden="true" /> : <ChevronRight size={14} aria-hidden="true" />}
        {label} <span className="text-muted">{what}</span>
      </button>
      {open && (
        <div className="pl-3 border-l border-base-300 ml-1.5">
          {entries.slice(0, MOST_SHOWN).map(([key, inner]) => (
            <Node key={key} name={key} value={inner} depth={depth + 1} />
          ))}
          {entries.length > MOST_SHOWN && <p className="pl-5 text-muted">and {entries.length - MOST_SHOWN} more</p>}
        </div>
      )}
    </div>
  );
}
